import Link from 'next/link';

/** What a step shows before there is anything in it. */
export function NothingYet({ what }: { what: string }) {
  return (
    <div className="sheet text-center p-5">
      <p className="mb-2">{what}</p>
      <Link href="/game/bring-in">Bring in a pack</Link>
    </div>
  );
}
