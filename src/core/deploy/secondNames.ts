import { SatchelError } from '../errors';
import type { FileStat, Folder } from '../folder';
import { baseName, byPath, parentOf } from '../paths/paths';
import { WIDTH, inParallel } from '../progress';
import { hashOfFile } from './large';
import type { JournalStep, Kept, LedgerEntry } from './model';
import { LATE, namedPath, objectPath, readLedger, setAside, watchFile } from './vault';

/*
 * Files that a deployment replaces are kept by giving them a second name in the vault, without copying them
 * (docs/decisions/014): `named/ab/<hash>`, and `named/ab/<hash>-<step>` for one of which only the later fate is
 * watched, since its bytes are kept already.
 */

const NAMED = 'named';

/**
 * Gives a file that is about to be replaced a second name.
 *
 * @param file.stat as it was when it was read for its hash
 * @param step its number, where the bytes are kept otherwise and it is only to be watched
 * @returns the name; undefined where that cannot be, or where another file of the same bytes has it
 * @throws SatchelError `changed-since-plan` where it was written to since it was read
 */
export async function keepByName(
  vault: Folder,
  { folder, path, stat }: { folder: Folder; path: string; stat: FileStat },
  { sha256: hash }: Pick<Kept, 'sha256'>,
  step?: number,
): Promise<string | undefined> {
  const name = step === undefined ? namedPath(hash) : `${namedPath(hash)}-${step}`;
  const kept = vault.move && (await folder.link?.(path, vault, name, true));
  if (!kept) return undefined;
  if (kept.size === stat.size && kept.modified === stat.modified) return name;
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

/**
 * Where a deployment has not landed, the files are in the game still, or again: nobody may rely on their second names.
 */
export const dropNamed = async (vault: Folder): Promise<void> =>
  eachNamedFolder(await listNamed(vault), async (folder, names) => {
    for (const { path } of names) await vault.remove(path);
    await vault.removeFolder?.(folder);
  });

/** @param work with a folder of second names and what lies in it */
async function eachNamedFolder(
  named: readonly Named[],
  work: (folder: string, names: readonly Named[]) => Promise<void>,
): Promise<void> {
  const folders = new Map<string, Named[]>();
  for (const one of named) {
    const folder = parentOf(one.path);
    const known = folders.get(folder);
    if (known) known.push(one);
    else folders.set(folder, [one]);
  }
  await inParallel(folders, WIDTH, ([folder, names]) => work(folder, names));
}

/** Files out of packs are watched up to this size (bytes), */
const WATCHED = 4 * 1024 * 1024;
/** and up to so many bytes of them in all: who takes a large pack out wants its room. */
const WATCHED_IN_ALL = 256 * 1024 * 1024;

/** How much may be watched of what lies in packs. */
export class Watch {
  private room = WATCHED_IN_ALL;
  /** @returns whether a file of so many bytes is to be watched, too */
  takes(size: number): boolean {
    if (size > WATCHED || size > this.room) return false;
    this.room -= size;
    return true;
  }
}

/**
 * When a deployment has landed, the second names of the files that it replaced are their only ones: they go to the
 * other kept contents, or, where their bytes are kept already or lie in a pack, to those that are watched. Files that
 * were left as they were have none any more. Can be cut off and called again.
 *
 * @param steps that were carried out
 * @param all second names, where they are known
 */
export async function adoptNamed(
  vault: Folder,
  entry: Pick<LedgerEntry, 'number'>,
  steps: readonly JournalStep[],
  all?: readonly Named[],
): Promise<void> {
  const replaced = new Set(steps.flatMap(({ before }) => (before.kind === 'kept' ? [before.sha256] : [])));
  const room = new Watch();
  const watch = async ({ path, size, hash }: Named): Promise<void> => {
    if (!room.takes(size)) return vault.remove(path);
    await watchFile(vault, path, entry.number, hash);
  };
  const adopt = async (one: Named): Promise<void> => {
    const { path, hash } = one;
    if (!replaced.has(hash)) return watch(one);
    const object = objectPath(hash);
    if (baseName(path) === hash && (await vault.move?.(path, object))) return;
    // The same bytes were kept before: they stay, if they are still good.
    if ((await hashOfFile(vault, object)) === hash) return watch(one);
    await setAside(vault, hash);
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

/** Goes on watching a file whose deployment was taken back, while another program's version has its place. */
export async function watchNamed(vault: Folder, name: string): Promise<void> {
  const number = (await readLedger(vault))[0]?.number ?? 0;
  if (await vault.stat(name)) await watchFile(vault, name, number, hashIn(name));
}

/**
 * A file that is watched: the hash that it had, the deployment that replaced it, and since when (milliseconds since
 * 1970-01-01 UTC).
 */
export type Late = FileStat & { hash: string; number: number; since: number };

/** All files that are watched. */
export async function listLate(vault: Folder): Promise<Late[]> {
  const found: Late[] = [];
  for await (const stat of vault.list(LATE)) {
    const [number = '', hash = '', since = ''] = baseName(stat.path).split('-');
    found.push({ ...stat, number: Number(number), hash, since: Number(since) });
  }
  return found;
}
