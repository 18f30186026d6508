/** Appends a list of any length: `push(...more)` breaks where `more` is longer than the call stack is deep (about 100,000). */
export function addAll<T>(list: T[], more: Iterable<T>): void {
  for (const one of more) list.push(one);
}

/** The largest of any number of values, 0 where there is none; `Math.max(...values)` breaks as above. */
export function largest(values: Iterable<number>): number {
  let found = 0;
  for (const value of values) if (value > found) found = value;
  return found;
}
