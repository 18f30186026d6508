/** Works something out when it is asked for first, and not again. */
export function once<T>(work: () => T): () => T {
  let made: { value: T } | undefined;
  return () => (made ??= { value: work() }).value;
}
