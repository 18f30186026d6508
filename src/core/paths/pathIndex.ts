import { SatchelError } from '../errors';
import { nameKey } from './paths';

/** How many paths are hashed together. */
const BATCH = 8192;
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
  /**
   * A number + 1 in the lower 24 bits and the upper 8 of its hash above them, 0 where nothing is: searches jump about in it, so it
   * has to be small. Its length is a power of two.
   */
  private table = new Int32Array(256);

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
    return ((this.table[this.probe(path, hashOf(path))] as number) & NUMBER) - 1;
  }

  private add(path: string, hash: number): number {
    const at = this.probe(path, hash);
    const known = (this.table[at] as number) & NUMBER;
    if (known > 0) return known - 1;
    if (this.paths.length >= NUMBER) throw new SatchelError('unexpected', { why: 'there are more than 16 million places' });
    this.hashes[this.paths.length] = hash;
    const number = this.paths.push(path);
    this.table[at] = number | (hash & TAG);
    return number - 1;
  }

  /** Makes room for that many in all, so that it need not be made bit by bit. */
  reserve(count: number): void {
    if (count <= this.hashes.length) return;
    const hashes = new Int32Array(2 ** Math.ceil(Math.log2(count)));
    hashes.set(this.hashes);
    this.hashes = hashes;
    // Half of the places stay empty, so that searches are short.
    this.table = new Int32Array(hashes.length * 2);
    const mask = this.table.length - 1;
    for (let number = 0; number < this.paths.length; number++) {
      const hash = hashes[number] as number;
      let at = hash & mask;
      while (this.table[at] !== 0) at = (at + 1) & mask;
      this.table[at] = (number + 1) | (hash & TAG);
    }
  }

  private probe(path: string, hash: number): number {
    const { table } = this;
    const mask = table.length - 1;
    const tag = hash & TAG;
    for (let at = hash & mask; ; at = (at + 1) & mask) {
      const entry = table[at] as number;
      if (entry === 0 || ((entry & TAG) === tag && same(this.paths[(entry & NUMBER) - 1] as string, path))) return at;
    }
  }
}

const NUMBER = 0xffffff;
const TAG = ~NUMBER;

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
