import { figure } from '../words';
import type { PackEntry } from '../archives/pack';
import type { GameTree } from '../names/gameTree';
import { baseName, isUnder, joinPath, nameKey, parentOf } from '../paths/paths';
import { sign, type Evidence } from './evidence';
import type { MissedFile } from './missedFile';
import type { Candidate } from './plans';

/** A file of the pack, and where the game looks for it. */
export interface Wanted {
  file: string;
  to: string;
  says: string;
}

/** So many files that a log misses are looked at. */
const MOST = 500;

/** How many names at the end of two paths are the same. */
function tail(a: string, b: string): number {
  const [x, y] = [nameKey(a).split('/').reverse(), nameKey(b).split('/').reverse()];
  let same = 0;
  while (same < x.length && x[same] === y[same]) same++;
  return same;
}

/** The folder of the game that a log means by a path: one that is there, else one below the game's own folder. */
function whereOf(path: string, { folders, foldersByName }: GameTree, root: string): string {
  const folder = parentOf(path);
  if (folder === '') return root;
  const key = nameKey(folder);
  const there = folders.get(key) ?? folders.get(`${root}/${key}`);
  if (there !== undefined) return there;
  const ends = (foldersByName.get(baseName(key)) ?? []).filter((one) => one.endsWith(`/${key}`));
  return ends.length === 1
    ? (folders.get(ends[0] as string) as string)
    : joinPath(whereOf(folder, { folders, foldersByName } as GameTree, root), baseName(folder));
}

/**
 * The files of a pack that the game's log misses by exactly these names, where one file of the pack alone can be meant.
 */
export function wantedByTheLog(
  entries: readonly PackEntry[],
  missed: readonly MissedFile[],
  tree: GameTree,
  root: string,
): Wanted[] {
  if (missed.length === 0) return [];
  const byName = new Map<string, string[]>();
  for (const { path } of entries)
    byName.set(nameKey(baseName(path)), [...(byName.get(nameKey(baseName(path))) ?? []), path]);
  return missed.slice(0, MOST).flatMap(({ path: written, line }) => {
    const path = written
      .replaceAll('\\', '/')
      .replace(/^[a-z]:/i, '')
      .replace(/^[./]+/, '');
    // A bare name says no place.
    if (!path.includes('/')) return [];
    const own = byName.get(nameKey(baseName(path))) ?? [];
    const best = own.map((file) => ({ file, same: tail(file, path) })).sort((a, b) => b.same - a.same);
    const [first, second] = best;
    if (!first || first.same === second?.same) return [];
    return [
      {
        file: first.file,
        to: joinPath(whereOf(path, tree, root), baseName(path)),
        says: `Line ${figure(line)} of the game’s log misses “${path}”.`,
      },
    ];
  });
}

/** What a log says of a place: the part would put the file exactly where the game looks for it. */
export function missedAt(wanted: readonly Wanted[], { node, to, file, inside }: Candidate): Evidence[] {
  if (inside !== undefined) return [];
  const found = wanted.find((one) =>
    file
      ? one.file === node && nameKey(one.to) === nameKey(to)
      : isUnder(one.file, node) &&
        nameKey(one.to) === nameKey(joinPath(to, node === '' ? one.file : one.file.slice(node.length + 1))),
  );
  return found ? [sign('missed', found.says)] : [];
}

/**
 * The places where the game would find what it misses: for the file, and for the folders above it that are called the
 * same there.
 */
export function missedPlaces({ file, to }: Wanted): { node: string; to: string }[] {
  const found = [{ node: file, to }];
  let [from, goal] = [file, to];
  while (from.includes('/') && goal.includes('/') && nameKey(baseName(from)) === nameKey(baseName(goal))) {
    [from, goal] = [parentOf(from), parentOf(goal)];
    found.push({ node: from, to: goal });
  }
  return found;
}
