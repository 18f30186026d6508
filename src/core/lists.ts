/**
 * Appends a list of any length: `push(...more)` breaks where `more` is longer than the call stack is deep (about
 * 100,000).
 */
export function addAll<T>(list: T[], more: Iterable<T>): void {
  for (const one of more) list.push(one);
}

/** The largest of any number of values, 0 where there is none; `Math.max(...values)` breaks as above. */
export function largest(values: Iterable<number>): number {
  let found = 0;
  for (const value of values) if (value > found) found = value;
  return found;
}

/** A list of whole numbers that takes four bytes each and grows as it must. */
export class IntList {
  length = 0;
  private items = new Int32Array(64);

  get(at: number): number {
    return this.items[at] as number;
  }

  set(at: number, value: number): void {
    this.items[at] = value;
  }

  /** @returns its place */
  push(value: number): number {
    if (this.length === this.items.length) this.reserve(this.length * 2);
    this.items[this.length] = value;
    return this.length++;
  }

  /** @returns the place of the first of the four */
  push4(a: number, b: number, c: number, d: number): number {
    const at = this.length;
    if (at + 4 > this.items.length) this.reserve((at + 4) * 2);
    const { items } = this;
    items[at] = a;
    items[at + 1] = b;
    items[at + 2] = c;
    items[at + 3] = d;
    this.length = at + 4;
    return at;
  }

  /** Makes room for that many in all. */
  reserve(count: number): void {
    if (count <= this.items.length) return;
    const items = new Int32Array(count);
    items.set(this.items);
    this.items = items;
  }
}
