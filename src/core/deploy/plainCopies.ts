import { encodeName, readManifest } from './hashManifest';
import { readBytes, writeAndReadBack, type Folder } from '../folder';
import { byPath, type TargetPath } from '../paths/paths';
import { SatchelError, throwIfAborted } from '../errors';
import { inParallel, type WorkOptions } from '../progress';
import { hashOfFile, piecesOf, writePieces } from './large';
import type { Kept, Workshop } from './model';
import type { Put } from './swap';
import { keep, objectPath, piecesOfKept, setAside, readKept, readState } from './vault';

/*
 * The backup folder: plain copies of the originals outside the browser, laid out like a bag that is not packed (RFC
 * 8493): `data/<target>` and `manifest-sha256.txt`, so that `sha256sum -c` checks it and any file manager restores.
 * Each copy is a file of its own: nobody who writes to what the vault keeps can write to it.
 */

const MANIFEST = 'manifest-sha256.txt';
export const dataPath = (target: TargetPath): string => `data/${target}`;
/** Copies are made one after the other by few: nobody waits for them. */
const FEW = 4;
/** The manifest is written after so many copies, so that one who is stopped need not begin anew. */
const NOTED = 500;

type Places = Pick<Workshop, 'vault'> & { backup: Folder };
/** An original and where it belongs. */
export interface Original {
  target: TargetPath;
  content: Kept;
}

/** The originals under what is deployed. */
export const originalsOf = async (vault: Folder): Promise<Original[]> =>
  (await readState(vault)).files.flatMap(({ target, original }) =>
    original.kind === 'kept' ? [{ target, content: original }] : [],
  );

/** Do a copy and what the vault keeps share their bytes on the disk, so that who writes to one writes to both? */
export async function isShared({ backup, vault }: Places, { target, content }: Original): Promise<boolean> {
  const [copy, kept] = await Promise.all([backup.stat(dataPath(target)), vault.stat(objectPath(content.sha256))]);
  return copy?.version !== undefined && copy.version === kept?.version;
}

/**
 * Makes the plain copy of an original, and reads it back. An earlier copy with other bytes is kept under `earlier/`.
 *
 * @throws SatchelError `bad-memory` where the vault does not hold the original, `original-not-kept`
 */
export async function copyOriginal(places: Places, original: Original): Promise<void> {
  const { backup, vault } = places;
  const {
    target,
    content: { sha256: hash },
  } = original;
  const path = dataPath(target);
  const there = await hashOfFile(backup, path);
  if (there === hash && !(await isShared(places, original))) return;
  if (there !== undefined && there !== hash) {
    const earlier = `earlier/${there.slice(0, 12)}/${target}`;
    if (!(await backup.move?.(path, earlier))) await backup.write(earlier, await readBytes(backup, path));
  }
  const at = objectPath(hash);
  if (await vault.copy?.(at, backup, path)) {
    if ((await hashOfFile(backup, path)) === hash) return;
    await backup.remove(path);
  }
  const pieces = backup.writeChunks && piecesOf(vault, at, (await vault.stat(at))?.size ?? 0);
  const copied = pieces
    ? await writePieces(backup, path, pieces(), { wanted: hash })
    : await writeAndReadBack(backup, path, await readKept(vault, { sha256: hash }));
  if (!copied) throw new SatchelError('original-not-kept', { path: target });
}

/**
 * A kept content as something that can be put in its place: out of the vault, or, where that does not hold it any more,
 * out of its plain copy.
 *
 * @throws SatchelError `original-lost` where neither is as it was
 */
export async function openOriginal(
  { vault, backup }: Workshop,
  { target, content }: Original,
  inPieces: boolean,
): Promise<Put> {
  const open = async (): Promise<Put> => {
    const pieces = inPieces ? await piecesOfKept(vault, content) : undefined;
    return pieces ? { pieces, sha256: content.sha256 } : { bytes: await readKept(vault, content) };
  };
  try {
    return await open();
  } catch (error) {
    if (!(error instanceof SatchelError && error.code === 'bad-memory')) throw error;
    if (!backup || (await hashOfFile(backup, dataPath(target))) !== content.sha256)
      throw new SatchelError('original-lost', { path: target }, { cause: error });
    await healFrom({ vault, backup }, { target, content });
    return open();
  }
}

/** Makes what the vault lost anew from the plain copy, which is known to be good. */
export async function healFrom({ backup, vault }: Places, { target, content }: Original): Promise<void> {
  const path = dataPath(target);
  const pieces = vault.writeChunks && piecesOf(backup, path, content.size);
  await setAside(vault, content.sha256);
  const healed = pieces
    ? await writePieces(vault, objectPath(content.sha256), pieces(), { wanted: content.sha256 })
    : await keep(vault, await readBytes(backup, path));
  if (!healed) throw new SatchelError('original-not-kept', { path: target });
}

/** What the manifest says; one that was cut off is made anew from what lies there. */
export async function readCopies(backup: Folder): Promise<Map<string, string>> {
  if (!(await backup.stat(MANIFEST))) return new Map();
  const text = await (await backup.read(MANIFEST)).text();
  const cutOff = (why: string) => new SatchelError('bad-memory', { what: why });
  try {
    if (!text.endsWith('\n')) throw cutOff('its last line is not whole');
    return readManifest(text, cutOff);
  } catch (error) {
    if (!(error instanceof SatchelError)) throw error;
    const found = new Map<string, string>();
    for await (const { path } of backup.list('data')) found.set(path, (await hashOfFile(backup, path)) as string);
    await writeCopies(backup, found);
    return found;
  }
}

export async function writeCopies(backup: Folder, copies: ReadonlyMap<string, string>): Promise<void> {
  const lines = [...copies].sort(([a], [b]) => byPath(a, b)).map(([path, hash]) => `${hash}  ${encodeName(path)}\n`);
  const text = (value: string) => new TextEncoder().encode(value);
  if (!(await backup.stat('bagit.txt')))
    await backup.write('bagit.txt', text('BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n'));
  await backup.write(MANIFEST, text(lines.join('')));
}

/** What came of making copies. */
export interface Copied {
  /** Originals that lie in the backup folder now. */
  copies: number;
  /** Originals that the vault does not hold as they were. */
  missing: Original[];
}

/**
 * Makes the copies that are missing of originals under what is deployed. Can be stopped and called again.
 *
 * @throws SatchelError `cancelled`, or what the folders throw
 */
export async function copyOriginals(workshop: Workshop, { signal, onProgress }: WorkOptions = {}): Promise<Copied> {
  const { backup, vault } = workshop;
  if (!backup) return { copies: 0, missing: [] };
  const originals = await originalsOf(vault);
  const known = await readCopies(backup);
  const wanted = originals.filter(({ target, content }) => known.get(dataPath(target)) !== content.sha256);
  const missing: Original[] = [];
  let done = originals.length - wanted.length;
  let unnoted = 0;
  try {
    await inParallel(
      wanted,
      FEW,
      async (original) => {
        throwIfAborted(signal);
        try {
          await copyOriginal({ backup, vault }, original);
        } catch (error) {
          if (!(error instanceof SatchelError && error.code === 'bad-memory')) throw error;
          missing.push(original);
          return;
        }
        known.set(dataPath(original.target), original.content.sha256);
        onProgress?.({ phase: 'Copying the originals', done: ++done, total: originals.length, unit: 'files' });
        if (++unnoted % NOTED === 0) await writeCopies(backup, known);
      },
      ({ content }) => content.size,
    );
  } finally {
    if (unnoted > 0) await writeCopies(backup, known);
  }
  await backup.settle?.();
  return { copies: originals.length - missing.length, missing };
}
