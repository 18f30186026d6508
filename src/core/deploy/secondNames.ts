import { SatchelError } from '../errors';
import type { FileStat, Folder } from '../folder';
import { baseName, byPath, parentOf } from '../paths/paths';
import { WIDTH, inParallel } from '../progress';
import { hashOfFile } from './large';
import type { JournalStep, Kept, LedgerEntry } from './model';
import { namedPath, objectPath } from './vault';

/*
 * Files that a deployment replaces are kept by giving them a second name in the vault, without copying them (docs/decisions/014):
 * `named/ab/<hash>`, and `named/ab/<hash>-<step>` for one of which only the later fate is watched, since its bytes are kept already.
 */

const NAMED = 'named';
/** Where files are watched that were replaced: a program that had one open before can still write to it. */
const LATE = 'late';

/**
 * Gives a file that is about to be replaced a second name.
 *
 * @param seen the file when it was read for its hash
 * @param step its number, where the bytes are kept otherwise and it is only to be watched
 * @returns the name; undefined where that cannot be, or where another file of the same bytes has it
 * @throws SatchelError `changed-since-plan` where it was written to since it was read
 */
export async function keepByName(
  vault: Folder, { folder, path }: { folder: Folder; path: string }, { sha256: hash }: Pick<Kept, 'sha256'>, seen: FileStat, step?: number,
): Promise<string | undefined> {
  const name = step === undefined ? namedPath(hash) : `${namedPath(hash)}-${step}`;
  const kept = vault.move && (await folder.link?.(path, vault, name, true));
  if (!kept) return undefined;
  if (kept.size === seen.size && kept.modified === seen.modified) return name;
  await vault.remove(name);
  throw new SatchelError('changed-since-plan', { path });
}

/** A second name, with the hash that it was given for. */
export type Named = FileStat & { hash: string };

const hashIn = (path: string): string => baseName(path).split('-')[0] as string;

/** All second names, in their order: neighbours go to one folder. */
export async function listNamed(vault: Folder): Promise<Named[]> {
  const found: Named[] = [];
  for await (const stat of vault.list(NAMED)) found.push({ ...stat, hash: hashIn(stat.path) });
  return found.sort((a, b) => byPath(a.path, b.path));
}

/** Where a deployment has not landed, the files are in the game still, or again: nobody may rely on their second names. */
export const dropNamed = async (vault: Folder): Promise<void> => eachNamedFolder(await listNamed(vault), async (folder, names) => {
  for (const { path } of names) await vault.remove(path);
  await vault.removeFolder?.(folder);
});

/** @param work with a folder of second names and what lies in it */
async function eachNamedFolder(named: readonly Named[], work: (folder: string, names: readonly Named[]) => Promise<void>): Promise<void> {
  const folders = new Map<string, Named[]>();
  for (const one of named) {
    const folder = parentOf(one.path);
    const known = folders.get(folder);
    if (known) known.push(one);
    else folders.set(folder, [one]);
  }
  await inParallel(folders, WIDTH, ([folder, names]) => work(folder, names));
}

/**
 * When a deployment has landed, the second names of the files that it replaced are their only ones: they go to the other kept
 * contents, or, where their bytes are kept already, to those that are watched. Files that were left as they were lose theirs. Can be
 * cut off and called again.
 *
 * @param steps that were carried out
 * @param all second names, where they are known
 */
export async function adoptNamed(vault: Folder, entry: Pick<LedgerEntry, 'number'>, steps: readonly JournalStep[], all?: readonly Named[]): Promise<void> {
  const replaced = new Set(steps.flatMap(({ before }) => (before.kind === 'kept' ? [before.sha256] : [])));
  const adopt = async ({ path, hash }: Named): Promise<void> => {
    if (!replaced.has(hash)) return vault.remove(path);
    const object = objectPath(hash);
    if (baseName(path) === hash && (await vault.move?.(path, object))) return;
    // The same bytes were kept before: they stay, if they are still good.
    if ((await hashOfFile(vault, object)) === hash) {
      if (!(await vault.move?.(path, `${LATE}/${entry.number}-${baseName(path)}`))) await vault.remove(path);
      return;
    }
    await vault.remove(object);
    await vault.move?.(path, object);
  };
  await eachNamedFolder(all ?? (await listNamed(vault)), async (folder, names) => {
    // All in one go, where no such hashes were kept before.
    const whole = names.every(({ path, hash }) => replaced.has(hash) && baseName(path) === hash);
    if (whole && (await vault.move?.(folder, parentOf(objectPath((names[0] as Named).hash))))) return;
    for (const one of names) await adopt(one);
    await vault.removeFolder?.(folder);
  });
}

/** A file that was replaced by a deployment, and the hash that it had then. */
export type Late = FileStat & { hash: string; number: number };

/** All files that are watched. */
export async function listLate(vault: Folder): Promise<Late[]> {
  const found: Late[] = [];
  for await (const stat of vault.list(LATE)) {
    const [number = '', hash = ''] = baseName(stat.path).split('-');
    found.push({ ...stat, number: Number(number), hash });
  }
  return found;
}
