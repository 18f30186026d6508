import { SatchelError } from '../errors';
import { nameKey } from './paths';

/** How many paths are hashed together. */
const BATCH = 256;
const encoder = new TextEncoder();

/**
 * Numbers paths: names that are one name to the platform (see `nameKey`) get one number, counted from 0 in the order of
 * their coming. A map of strings would do the same, but not in the time that `sort` takes for a million of them.
 * Open addressing; the hash is FNV-1a (Fowler, Noll, Vo; offset and prime of the 32-bit form), four characters at a
 * time in two lanes.
 */
export class PathIndex<Path extends string = string> {
  /** By number, as spelled by whoever came first; with room for more behind. */
  private names: string[] = new Array<string>(128);
  private count = 0;
  private hashes = new Int32Array(128);
  /**
   * A number + 1 in the lower 24 bits and the upper 8 of its hash above them, 0 where nothing is: searches jump about
   * in it, so it has to be small. Its length is a power of two.
   */
  private table = new Int32Array(256);
  /** Only kept so that looking is not left out. */
  protected warmed = 0;

  /** How many paths have a number. */
  get length(): number {
    return this.count;
  }

  /** The path of a number, as spelled by whoever came first. */
  path(number: number): Path {
    return this.names[number] as Path;
  }

  /** The numbers of the paths of many things, in order; new ones where they were not known. */
  addAll<T>(things: readonly T[], pathOf: (thing: T) => string): Int32Array {
    const count = things.length;
    this.reserve(this.count + count);
    const numbers = new Int32Array(count);
    const batch: string[] = [];
    let next = -1;
    for (let from = 0; from < count;) {
      // Packs for one game often bring the same files in the same order.
      while (from < count && next >= 0 && next < this.count && pathOf(things[from] as T) === this.names[next])
        numbers[from++] = next++;
      batch.length = Math.min(BATCH, count - from);
      if (batch.length === 0) break;
      for (let i = 0; i < batch.length; i++) batch[i] = pathOf(things[from + i] as T);
      const hashes = numbers.subarray(from, from + batch.length);
      hashAll(batch, hashes);
      this.warm(hashes);
      // Each hash gives way to its path's number.
      for (let i = 0; i < batch.length; i++) next = hashes[i] = this.add(batch[i] as string, hashes[i] as number);
      from += batch.length;
      next++;
    }
    return numbers;
  }

  /**
   * Looks at every place that will be asked about: waiting for all of them at once takes a fraction of waiting for
   * each.
   */
  private warm(hashes: Int32Array): void {
    const { table, names } = this;
    const mask = table.length - 1;
    let sum = 0;
    for (let i = 0; i < hashes.length; i++) {
      const hash = hashes[i] as number;
      const entry = table[hash & mask] as number;
      if (entry !== 0 && (entry & TAG) === (hash & TAG)) sum += (names[(entry & NUMBER) - 1] as string).length;
    }
    this.warmed = sum;
  }

  /** The number of a path, -1 where it is not known. */
  find(path: string): number {
    return ((this.table[this.probe(path, hashOf(path))] as number) & NUMBER) - 1;
  }

  private add(path: string, hash: number): number {
    const at = this.probe(path, hash);
    const known = (this.table[at] as number) & NUMBER;
    if (known > 0) return known - 1;
    if (this.count >= NUMBER) throw new SatchelError('unexpected', { why: 'there are more than 16 million places' });
    const number = this.count++;
    this.hashes[number] = hash;
    this.names[number] = path;
    this.table[at] = (number + 1) | (hash & TAG);
    return number;
  }

  /** Makes room for that many in all, so that it need not be made bit by bit. */
  reserve(count: number): void {
    if (count <= this.hashes.length) return;
    const hashes = new Int32Array(2 ** Math.ceil(Math.log2(count)));
    hashes.set(this.hashes);
    this.hashes = hashes;
    const names = new Array<string>(hashes.length);
    for (let number = 0; number < this.count; number++) names[number] = this.names[number] as string;
    this.names = names;
    // Half of the places stay empty, so that searches are short.
    this.table = new Int32Array(hashes.length * 2);
    const mask = this.table.length - 1;
    for (let number = 0; number < this.count; number++) {
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
      if (entry === 0 || ((entry & TAG) === tag && same(this.names[(entry & NUMBER) - 1] as string, path))) return at;
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

/**
 * Bytes of the paths that are hashed together; one buffer for all, since making one for each batch would cost as much
 * as the hashing.
 */
let bytes = new Uint8Array(1024 * 1024);

/**
 * Writes the hashes of many paths into `hashes`. ASCII is read as bytes, four at once; what is beyond goes the slower
 * way.
 */
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
    let other = PRIME;
    for (; at + 8 <= end; at += 8) {
      hash = Math.imul(hash ^ (view.getInt32(at, true) | FOLD), PRIME);
      other = Math.imul(other ^ (view.getInt32(at + 4, true) | FOLD), PRIME);
      // The prime moves the lowest bits up; what comes in at the top has to come down again.
      hash ^= hash >>> 15;
      other ^= other >>> 15;
    }
    hash = Math.imul(hash ^ other, PRIME);
    hash ^= hash >>> 15;
    if (at + 4 <= end) {
      hash = Math.imul(hash ^ (view.getInt32(at, true) | FOLD), PRIME);
      hash ^= hash >>> 15;
      at += 4;
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
  const word = (at: number): number => {
    let found = 0;
    for (let j = 0; j < 4 && at + j < key.length; j++) found |= key.charCodeAt(at + j) << (j * 8);
    return found | FOLD;
  };
  const step = (hash: number, by: number): number => {
    const mixed = Math.imul(hash ^ by, PRIME);
    return mixed ^ (mixed >>> 15);
  };
  let hash = BASIS;
  let other = PRIME;
  let at = 0;
  for (; at + 8 <= key.length; at += 8) {
    hash = step(hash, word(at));
    other = step(other, word(at + 4));
  }
  hash = step(hash, other);
  for (; at < key.length; at += 4) hash = step(hash, word(at));
  return hash;
}
