import { SatchelError } from '../errors';
import { readBytes, writeAndReadBack, type FileStat, type Folder } from '../folder';
import { byPath, parentOf, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import { hashOfFile, piecesOf, writePieces } from './large';
import type { DeployedState, JournalStep, Kept, Workshop } from './model';
import { eachNamedFolder, listNamed, objectPath, readKept, readState, type Named } from './vault';
import { encodeName, readManifest } from '../exchange/manifest';

/*
 * The backup folder: plain copies of the originals outside the browser, laid out like a bag that is not packed
 * (RFC 8493): `data/<target>` and `manifest-sha256.txt`, so that `sha256sum -c` checks it and any file manager restores.
 */

const MANIFEST = 'manifest-sha256.txt';
const dataPath = (target: TargetPath): string => `data/${target}`;

/** An original and its bytes' hash. */
export interface BackedUp {
  target: TargetPath;
  sha256: string;
}

/**
 * Copies one original that the vault has, and reads the copy back. Where both lie on one disk, the copy is a second name of
 * the vault's file, which nobody writes to. An earlier copy with other bytes is kept under `earlier/`.
 *
 * @param known where it lies in the vault, if not among the kept contents, and its bytes, where they are at hand
 */
export async function copyOriginal({ backup, vault }: { backup: Folder; vault: Folder }, target: TargetPath, hash: string, known: { at?: string; bytes?: Uint8Array<ArrayBuffer> } = {}): Promise<BackedUp> {
  const path = dataPath(target);
  // A second name shows the bytes that were read back under the first.
  const link = async (): Promise<FileStat | undefined> => vault.link?.(known.at ?? objectPath(hash), backup, path);
  if (await link()) return { target, sha256: hash };
  const before = await hashOfFile(backup, path);
  if (before !== hash) {
    if (before !== undefined) {
      const earlier = `earlier/${before.slice(0, 12)}/${target}`;
      if (!(await backup.move?.(path, earlier))) await backup.write(earlier, await readBytes(backup, path));
      await backup.remove(path);
    }
    if (before === undefined || !(await link())) {
      const at = known.at ?? objectPath(hash);
      const pieces = known.bytes || !backup.writeChunks ? undefined : piecesOf(vault, at, (await vault.stat(at))?.size ?? 0);
      const kept = pieces ? undefined : (known.bytes ?? (await readKept(vault, { sha256: hash })));
      if (!(kept ? await writeAndReadBack(backup, path, kept) : pieces && (await writePieces(backup, path, pieces(), hash)))) throw new SatchelError('original-not-kept', { path: target });
    }
  }
  return { target, sha256: hash };
}

/** Makes the manifest name these copies too. */
export async function noteCopies(backup: Folder, copies: readonly BackedUp[]): Promise<void> {
  if (copies.length === 0) return;
  const known = await readList(backup);
  for (const { target, sha256: hash } of copies) known.set(dataPath(target), hash);
  const lines = [...known].sort(([a], [b]) => byPath(a, b)).map(([path, hash]) => `${hash}  ${encodeName(path)}\n`);
  const text = (value: string) => new TextEncoder().encode(value);
  if (!(await backup.stat('bagit.txt'))) await backup.write('bagit.txt', text('BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n'));
  await backup.write(MANIFEST, text(lines.join('')));
}

/** What the manifest says; one that was cut off is made anew from what lies there. */
async function readList(backup: Folder): Promise<Map<string, string>> {
  if (!(await backup.stat(MANIFEST))) return new Map();
  const text = await (await backup.read(MANIFEST)).text();
  try {
    return readManifest(text, (why) => new SatchelError('bad-memory', { what: why }));
  } catch (error) {
    if (!(error instanceof SatchelError)) throw error;
    const found = new Map<string, string>();
    for await (const { path } of backup.list('data')) found.set(path, (await hashOfFile(backup, path)) as string);
    return found;
  }
}

/**
 * Brings the backup folder up to date with every original of what is deployed: after it was chosen, or changed.
 *
 * @returns how many originals lie in it
 */
export async function backUpOriginals(workshop: Workshop, { onProgress }: WorkOptions = {}): Promise<number> {
  const { backup, vault } = workshop;
  if (!backup) return 0;
  const originals = (await readState(vault)).files.flatMap(({ target, original }) => (original.kind === 'kept' ? [{ target, original: original satisfies Kept }] : []));
  const copies: BackedUp[] = [];
  await inParallel(originals, WIDTH, async ({ target, original }) => {
    copies.push(await copyOriginal({ backup, vault }, target, original.sha256));
    onProgress?.({ phase: 'Copying the originals', done: copies.length, total: originals.length, unit: 'files' });
  }, ({ original }) => original.size);
  await noteCopies(backup, copies);
  return copies.length;
}

/**
 * When a deployment has landed, the second names of the files that it replaced are their only ones: they go to the other
 * kept contents, and originals among them to the backup folder. Files that were left as they were lose theirs. Can be cut
 * off and called again.
 *
 * @param steps that were carried out
 * @param all second names, where they are known
 */
export async function adoptNamed({ vault, backup }: Workshop, { files }: DeployedState, steps: readonly JournalStep[], all?: readonly Named[]): Promise<void> {
  const replaced = new Set(steps.flatMap(({ before }) => (before.kind === 'kept' ? [before.sha256] : [])));
  all ??= await listNamed(vault);
  if (backup) {
    const places = new Map(all.filter(({ hash }) => replaced.has(hash)).map(({ path, hash }) => [hash, path]));
    const copies: BackedUp[] = [];
    await inParallel(files, WIDTH, async ({ target, original }) => {
      const at = original.kind === 'kept' && places.get(original.sha256);
      if (at) copies.push(await copyOriginal({ backup, vault }, target, original.sha256, { at }));
    });
    await noteCopies(backup, copies);
  }
  const adopt = async ({ path, hash }: Named): Promise<void> => {
    if (!replaced.has(hash)) return vault.remove(path);
    if (await vault.move?.(path, objectPath(hash))) return;
    // The same bytes were kept before: they stay, if they are still good.
    if ((await hashOfFile(vault, objectPath(hash))) === hash) return vault.remove(path);
    await vault.remove(objectPath(hash));
    await vault.move?.(path, objectPath(hash));
  };
  await eachNamedFolder(all, async (folder, names) => {
    // All in one go, where no such hashes were kept before.
    if (names.every(({ hash }) => replaced.has(hash)) && (await vault.move?.(folder, parentOf(objectPath((names[0] as Named).hash))))) return;
    for (const one of names) await adopt(one);
    await vault.removeFolder?.(folder);
  });
}
