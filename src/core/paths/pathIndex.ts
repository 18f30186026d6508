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
  /** Pairs of a number + 1 and its hash, side by side since they are looked at together; 0 where nothing is. Its length is a power of two. */
  private table = new Int32Array(512);

  /** The numbers of paths, in order; new ones where they were not known. */
  addAll(paths: readonly string[]): Int32Array {
    this.reserve(this.paths.length + paths.length);
    const numbers = new Int32Array(paths.length);
    for (let from = 0; from < paths.length; from += BATCH) hashAll(paths.length <= BATCH ? paths : paths.slice(from, from + BATCH), numbers.subarray(from, from + BATCH));
    // Each hash gives way to its path's number.
    for (let i = 0; i < paths.length; i++) numbers[i] = this.add(paths[i] as string, numbers[i] as number);
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
    this.table[at + 1] = hash;
    return (this.table[at] = this.paths.push(path)) - 1;
  }

  /** Makes room for that many in all, so that it need not be made bit by bit. */
  reserve(count: number): void {
    // Half of the places stay empty, so that searches are short.
    if (count * 4 <= this.table.length) return;
    const old = this.table;
    this.table = new Int32Array(4 * 2 ** Math.ceil(Math.log2(count)));
    const mask = this.table.length - 1;
    for (let from = 0; from < old.length; from += 2) {
      if (old[from] === 0) continue;
      let at = ((old[from + 1] as number) << 1) & mask;
      while (this.table[at] !== 0) at = (at + 2) & mask;
      this.table[at] = old[from] as number;
      this.table[at + 1] = old[from + 1] as number;
    }
  }

  private probe(path: string, hash: number): number {
    const { table } = this;
    const mask = table.length - 1;
    for (let at = (hash << 1) & mask; ; at = (at + 2) & mask) {
      const number = (table[at] as number) - 1;
      if (number < 0 || (table[at + 1] === hash && same(this.paths[number] as string, path))) return at;
    }
  }
}

const same = (a: string, b: string): boolean => a === b || nameKey(a) === nameKey(b);

const BASIS = 0x811c9dc5 | 0;
const PRIME = 0x01000193;
/** Capitals count as small letters; what else falls together so is told apart by `same`. */
const FOLD = 0x20202020;

/** Bytes of the paths that are hashed together; one buffer for all, since making one for each batch would cost as much as the hashing. */
let bytes = new Uint8Array(1024 * 1024);

/** Writes the hashes of many paths into `hashes`. ASCII is read as bytes, four at once; what is beyond goes the slower way. */
function hashAll(paths: readonly string[], hashes: Int32Array): void {
  const joined = paths.join('');
  if (bytes.length < joined.length + 4) bytes = new Uint8Array(joined.length * 2);
  const { read, written } = encoder.encodeInto(joined, bytes);
  if (read !== joined.length || written !== joined.length) {
    for (let i = 0; i < paths.length; i++) hashes[i] = hashOf(paths[i] as string);
    return;
  }
  const view = new DataView(bytes.buffer);
  let at = 0;
  for (let i = 0; i < paths.length; i++) {
    const end = at + (paths[i] as string).length;
    let hash = BASIS;
    for (; at + 4 <= end; at += 4) {
      hash = Math.imul(hash ^ (view.getInt32(at, true) | FOLD), PRIME);
      // The prime moves the lowest bits up; what comes in at the top has to come down again.
      hash ^= hash >>> 15;
    }
    if (at < end) {
      hash = Math.imul(hash ^ ((view.getInt32(at, true) & ((1 << ((end - at) * 8)) - 1)) | FOLD), PRIME);
      hash ^= hash >>> 15;
    }
    hashes[i] = hash;
    at = end;
  }
}

/** The same for one path. */
function hashOf(path: string): number {
  const key = nameKey(path);
  let hash = BASIS;
  for (let i = 0; i < key.length; i += 4) {
    let word = 0;
    for (let j = 0; j < 4 && i + j < key.length; j++) word |= key.charCodeAt(i + j) << (j * 8);
    hash = Math.imul(hash ^ (word | FOLD), PRIME);
    hash ^= hash >>> 15;
  }
  return hash;
}
