import type { PackEntry } from '../archives/pack';
import { packName } from '../archives/packNames';
import { statedVersion } from '../inspect/stated';
import { joinPath, nameKey, type PackPath } from '../paths/paths';
import type { Placement } from '../placed/placement';

/** A download's name without its version: what stays the same from one release of a pack to the next. */
export const releaseFamily = (file: string): string => {
  const version = statedVersion(file);
  const name = nameKey(packName(file));
  return (version ? name.replace(version, ' ') : name)
    .replace(/\bv\b|\b(final|fixed|new|copy|update[d]?)\b|\(\d+\)/g, ' ')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
};

/** The shape of a pack: its paths without the wrappers that carry the version. */
const shape = (entries: readonly PackEntry[]): Set<string> => {
  let wrapper = entries[0]?.path.split('/').slice(0, -1) ?? [];
  for (const { path } of entries) {
    const names = path.split('/');
    let depth = 0;
    while (depth < wrapper.length && depth < names.length - 1 && names[depth] === wrapper[depth]) depth++;
    wrapper = wrapper.slice(0, depth);
  }
  return new Set(entries.map(({ path }) => nameKey(path.split('/').slice(wrapper.length).join('/'))));
};

/** Are two downloads called like releases of one pack: the same but for the version? */
export const isSameRelease = (a: string, b: string): boolean =>
  releaseFamily(a) === releaseFamily(b) && releaseFamily(a) !== '';

/**
 * Is one download another release of the same pack? By its name without the version, and by its shape: at least half of
 * the smaller one's files stand at the same place.
 */
export function isSamePack(
  a: { file: string; entries: readonly PackEntry[] },
  b: { file: string; entries: readonly PackEntry[] },
): boolean {
  if (!isSameRelease(a.file, b.file)) return false;
  const [x, y] = [shape(a.entries), shape(b.entries)];
  const [small, large] = x.size < y.size ? [x, y] : [y, x];
  let both = 0;
  for (const path of small) if (large.has(path)) both++;
  return both * 2 >= small.size;
}

/**
 * Orders versions by their numbers: 1.10 is newer than 1.9.
 *
 * @returns below 0 where `a` is older, 0 where it cannot be told
 */
export function compareVersions(a: string | undefined, b: string | undefined): number {
  if (a === undefined || b === undefined) return 0;
  const [x, y] = [a, b].map((version) => version.split('.').map(Number)) as [number[], number[]];
  for (let i = 0; i < Math.max(x.length, y.length); i++)
    if ((x[i] ?? 0) !== (y[i] ?? 0)) return (x[i] ?? 0) - (y[i] ?? 0);
  return 0;
}

/**
 * The player's decisions about one release, for another: paths are looked for under the new wrapper where the old one
 * named the version. Decisions about files that are gone are dropped.
 */
export function carryDecisions(
  old: Placement['decisions'],
  before: readonly PackEntry[],
  after: readonly PackEntry[],
): Placement['decisions'] {
  const folders = new Set<string>(['']);
  for (const { path } of after)
    for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1))
      folders.add(path.slice(0, cut));
  const paths = new Set<string>(after.map(({ path }) => path));
  const [from, to] = [sharedTop(before), sharedTop(after)];
  const carry = (path: string): string | undefined => {
    if (paths.has(path) || folders.has(path)) return path;
    if (from !== '' && !path.startsWith(`${from}/`) && path !== from) return undefined;
    const moved = joinPath(to, path.slice(from === '' ? 0 : from.length + 1));
    return paths.has(moved) || folders.has(moved) ? moved : undefined;
  };
  const all = (list: readonly string[]) => list.flatMap((path) => carry(path) ?? []);
  return {
    out: all(old.out) as PackPath[],
    in: all(old.in) as PackPath[],
    moves: old.moves.flatMap((move) => {
      const found = carry(move.from);
      return found === undefined ? [] : [{ ...move, from: found }];
    }),
    answers: Object.fromEntries(
      Object.entries(old.answers).map(([id, answer]) => {
        const cut = id.indexOf(':');
        const about = cut < 0 ? id : `${id.slice(0, cut)}:${carry(id.slice(cut + 1)) ?? id.slice(cut + 1)}`;
        return [about, answer.map((one) => carry(one) ?? one)];
      }),
    ),
  };
}

function sharedTop(entries: readonly PackEntry[]): string {
  const first = entries[0]?.path ?? '';
  const top = first.includes('/') ? first.slice(0, first.indexOf('/')) : '';
  return top !== '' && entries.every(({ path }) => path.startsWith(`${top}/`)) ? top : '';
}
