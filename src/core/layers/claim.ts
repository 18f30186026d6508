import type { PackPath, TargetPath } from '../paths/paths';
import type { PlacedFile } from '../placed/placement';
import { madeProviders, type Layer, type OwnedTarget, type Provider } from './layer';
import type { Pick } from './rules';

/** How many targets a layer wins over others, and how many of its own others hide. */
export interface Tally {
  wins: number;
  loses: number;
}

/** A target that another layer wins than before; undefined stands for the game's own file. */
export interface WinnerChange {
  target: TargetPath;
  from: string | undefined;
  to: string | undefined;
}

/** The targets that layers own, as a map that makes its values when they are asked for. */
export interface OwnedTargets {
  readonly size: number;
  has(key: string): boolean;
  get(key: string): OwnedTarget | undefined;
  keys(): Iterable<string>;
  [Symbol.iterator](): Iterator<[string, OwnedTarget]>;
  /** All claims to one target. */
  claim(key: string): Claimed | undefined;
  /** Every target that layers claim, those included that a pick leaves to the game. */
  claimed(): Iterable<Claimed>;
}

/** All claims to one target, lowest layer first, and the one that wins. */
export interface Claimed {
  key: string;
  target: TargetPath;
  claims: Provider[];
  /** Undefined where a pick leaves the file to the game. */
  winner: Provider | undefined;
}

export type FileLayer = Exclude<Layer, { kind: 'edits' }>;

/** A layer as it was taken in. */
export interface Slot {
  layer: FileLayer;
  /** How high it lies. */
  rank: number;
  /** Its files outside of archives, each with the number of its target. */
  files: readonly PlacedFile[];
  ids: Int32Array;
  /** Contents of files that lie in no pack, by place in `files`. */
  made: Map<number, Uint8Array<ArrayBuffer>>;
  inside: Provider[];
}

/** A number out of size and checksum: looked at before the files themselves, which lie about in memory. */
export const printOf = ({ size, crc32 = 0 }: PlacedFile): number => Math.imul(size, 0x9e3779b1) ^ crc32;

export const targetOf = ({ target }: PlacedFile): string => target;

export const NOTHING = -1;

/** The game's own file wins. */
export const GAME = -2;

/** Picks that are in one of the lists only. */
export function differing(a: readonly Pick[], b: readonly Pick[]): Pick[] {
  const without = (list: readonly Pick[], other: readonly Pick[]) =>
    list.filter(
      (one) => !other.some(({ scope, at, layer }) => scope === one.scope && at === one.at && layer === one.layer),
    );
  return [...without(a, b), ...without(b, a)];
}

/**
 * A layer's files outside of archives, with the contents of those that lie in no pack, and what it puts into archives.
 */
export function contentsOf(layer: FileLayer): { files: readonly PlacedFile[]; made: Slot['made']; inside: Provider[] } {
  if (layer.kind === 'merge')
    return {
      files: layer.files.map(({ target, bytes }) => ({
        path: target as string as PackPath,
        size: bytes.length,
        target,
      })),
      made: new Map(layer.files.map(({ bytes }, i) => [i, bytes])),
      inside: [],
    };
  if (layer.kind === 'own')
    return {
      files: layer.files.map(({ target, size }) => ({ path: target as string as PackPath, size, target })),
      made: new Map(),
      inside: [],
    };
  const written = madeProviders(layer.id, layer.packId, layer.made ?? []);
  const plain = !layer.files.some((file) => file.inside !== undefined);
  const inside = plain
    ? []
    : layer.files
        .filter((file) => file.inside !== undefined)
        .map((file): Provider => ({ layer: layer.id, packId: layer.packId, file }));
  const outside = plain ? layer.files : layer.files.filter((file) => file.inside === undefined);
  const made = new Map<number, Uint8Array<ArrayBuffer>>();
  if (written.length === 0) return { files: outside, made, inside };
  const files = [...outside];
  for (const provider of written) {
    if (provider.file.inside !== undefined) inside.push(provider);
    else if (provider.made) made.set(files.push(provider.file) - 1, provider.made);
  }
  return { files, made, inside };
}

/** The same layer with the same files: its claims hold on. */
export const isSame = (a: FileLayer | undefined, b: FileLayer | undefined): boolean =>
  a !== undefined &&
  b !== undefined &&
  a.kind === b.kind &&
  a.files === b.files &&
  (a.kind !== 'pack' || b.kind !== 'pack' || (a.packId === b.packId && a.made === b.made));

/** Places of the longest rising run in a list of different numbers (patience sorting). */
export function longestRise(numbers: readonly number[]): number[] {
  const tops: number[] = [];
  const before: number[] = [];
  numbers.forEach((number, i) => {
    let low = 0;
    let high = tops.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((numbers[tops[middle] as number] as number) < number) low = middle + 1;
      else high = middle;
    }
    before[i] = low > 0 ? (tops[low - 1] as number) : NOTHING;
    tops[low] = i;
  });
  const run: number[] = [];
  for (let i = tops.at(-1) ?? NOTHING; i !== NOTHING; i = before[i] as number) run.push(i);
  return run;
}
