import { nameKey } from './paths';

/** How many paths are hashed together. */
const BATCH = 4096;
const encoder = new TextEncoder();

/**
 * Numbers paths: names that are one name to the platform (see `nameKey`) get one number, counted from 0 in the order of
 * their coming. A map of strings would do the same, but not in the time that `sort` takes for a million of them.
 * Open addressing; the hash is FNV-1a (Fowler, Noll, Vo; offset and prime of the 32-bit form), four characters at a time.
 */
export class PathIndex {
  /** By number, as spelled by whoever came first. */
  readonly paths: string[] = [];
  private hashes = new Int32Array(128);
  /** Number + 1 at its place, 0 where nothing is. Twice as long as `hashes`, a power of two. */
  private table = new Int32Array(256);

  /** The numbers of paths, in order; new ones where they were not known. */
  addAll(paths: readonly string[]): Int32Array {
    this.reserve(this.paths.length + paths.length);
    const numbers = new Int32Array(paths.length);
    for (let from = 0; from < paths.length; from += BATCH) {
      const batch = paths.slice(from, from + BATCH);
      const hashes = hashAll(batch);
      for (let i = 0; i < batch.length; i++) numbers[from + i] = this.add(batch[i] as string, hashes[i] as number);
    }
    return numbers;
  }

  /** The number of a path, -1 where it is not known. */
  find(path: string): number {
    return (this.table[this.probe(path, hashOf(path))] as number) - 1;
  }

  private add(path: string, hash: number): number {
    const at = this.probe(path, hash);
    const known = this.table[at] as number;
    if (known > 0) return known - 1;
    this.hashes[this.paths.length] = hash;
    return (this.table[at] = this.paths.push(path)) - 1;
  }

  private reserve(count: number): void {
    if (count <= this.hashes.length) return;
    const hashes = new Int32Array(2 ** Math.ceil(Math.log2(count)));
    hashes.set(this.hashes);
    this.hashes = hashes;
    this.table = new Int32Array(hashes.length * 2);
    const mask = this.table.length - 1;
    for (let number = 0; number < this.paths.length; number++) {
      let at = (hashes[number] as number) & mask;
      while (this.table[at] !== 0) at = (at + 1) & mask;
      this.table[at] = number + 1;
    }
  }

  private probe(path: string, hash: number): number {
    const { table, hashes } = this;
    const mask = table.length - 1;
    for (let at = hash & mask; ; at = (at + 1) & mask) {
      const number = (table[at] as number) - 1;
      if (number < 0 || (hashes[number] === hash && same(this.paths[number] as string, path))) return at;
    }
  }
}

const same = (a: string, b: string): boolean => a === b || nameKey(a) === nameKey(b);

const BASIS = 0x811c9dc5 | 0;
/** Capitals count as small letters; what else falls together so is told apart by `same`. */
const FOLD = 0x20202020;
/** The prime moves the lowest bits up; what comes in at the top has to come down again. */
const step = (hash: number, word: number): number => {
  const next = Math.imul(hash ^ (word | FOLD), 0x01000193);
  return next ^ (next >>> 15);
};

/** Hashes of many paths. ASCII is read as bytes, four at once; what is beyond goes the slower way. */
function hashAll(paths: readonly string[]): Int32Array {
  const hashes = new Int32Array(paths.length);
  const joined = paths.join('');
  const bytes = new Uint8Array(joined.length + 4);
  const { read, written } = encoder.encodeInto(joined, bytes);
  if (read !== joined.length || written !== joined.length) return hashes.map((_, i) => hashOf(paths[i] as string));
  const view = new DataView(bytes.buffer);
  let at = 0;
  for (let i = 0; i < paths.length; i++) {
    const end = at + (paths[i] as string).length;
    let hash = BASIS;
    for (; at + 4 <= end; at += 4) hash = step(hash, view.getInt32(at, true));
    if (at < end) hash = step(hash, view.getInt32(at, true) & ((1 << ((end - at) * 8)) - 1));
    hashes[i] = hash;
    at = end;
  }
  return hashes;
}

/** The same for one path. */
function hashOf(path: string): number {
  const key = nameKey(path);
  let hash = BASIS;
  for (let i = 0; i < key.length; i += 4) {
    let word = 0;
    for (let j = 0; j < 4 && i + j < key.length; j++) word |= key.charCodeAt(i + j) << (j * 8);
    hash = step(hash, word);
  }
  return hash;
}
