/** What a view shows until it has something to show: its title, and what it waits for. */
export function Looking({ title, says }: { title: string; says: string }) {
  return (
    <>
      <h1>{title}</h1>
      <p role="status">{says}</p>
    </>
  );
}
