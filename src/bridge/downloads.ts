import { constants, createReadStream, mkdirSync, readFileSync, renameSync } from 'node:fs';
import { copyFile, link, lstat, open, readdir, rm, stat, statfs } from 'node:fs/promises';
import path from 'node:path';
import { z } from 'zod';
import { SatchelError, checkPath, crc32Stream, isDownload, megabytes, reasonOf, sha256Stream } from '@/core';
import { chosenFolder, isInside, noteChosen, refuseWholeDisk } from './chosen';
import type { DiskFolder } from './disk';
import { newPart } from './diskCalls';
import { archivePath } from './packs';
import { takenSchema, type DownloadList, type Taken } from './wire';

/**
 * The folder that downloads come into, as the player chose it; beside the originals, so that it is there at the next
 * start.
 */
const givenSchema = z.object({ format: z.literal(1), folder: z.string().refine((one) => path.isAbsolute(one)) });
const FILE = 'downloads.json';
/** A file that was written to in the last moments (milliseconds) may still be coming. */
const SETTLED = 3000;
/** So many files are listed, the newest first. */
const MOST = 2000;

/** What came is looked for by its content only among files of its size. */
interface Wanted {
  size: number;
  sha256: string;
}

/** The downloads folder of one server. Nothing in it is ever written, moved or deleted. */
export class Downloads {
  /** @param backup where the app keeps originals @param games folders that games lie in now */
  constructor(
    private readonly backup: string,
    private readonly games: () => readonly string[],
  ) {}

  private get file(): string {
    return path.join(this.backup, FILE);
  }

  /** The folder, where one was given. */
  get folder(): string | undefined {
    try {
      return givenSchema.parse(JSON.parse(readFileSync(this.file, 'utf8'))).folder;
    } catch {
      // None was given, or what stands there says nothing: it can be given again at any time.
      return undefined;
    }
  }

  /**
   * Remembers the folder that the player chose.
   *
   * @throws SatchelError `folder-refused`, `whole-disk`, `downloads-in-game`
   */
  give(chosen: string): void {
    const real = chosenFolder(chosen);
    refuseWholeDisk(real);
    if ([this.backup, ...this.games()].some((other) => isInside(real, other)))
      throw new SatchelError('downloads-in-game', { name: real });
    noteChosen(this.file, { format: 1, folder: real });
  }

  async forget(): Promise<void> {
    await rm(this.file, { force: true });
  }

  /**
   * The files in it that can be packs, the newest first. Links and folders are none.
   *
   * @throws SatchelError `folder-gone`
   */
  async list(): Promise<DownloadList | null> {
    const { folder } = this;
    if (folder === undefined) return null;
    const found: DownloadList['files'] = [];
    let names: string[];
    try {
      names = await readdir(folder);
    } catch (error) {
      throw new SatchelError('folder-gone', { path: folder }, { cause: error });
    }
    for (const name of names.filter((one) => checkPath(one).ok && isDownload(one))) {
      // It went between the list and this look: the next look has it or not.
      const at = await lstat(path.join(folder, name)).catch(() => undefined);
      if (at?.isFile())
        found.push({ name, size: at.size, modified: at.mtimeMs, settled: Date.now() - at.mtimeMs > SETTLED });
    }
    return {
      path: folder,
      files: found.sort((a, b) => b.modified - a.modified || (a.name < b.name ? -1 : 1)).slice(0, MOST),
    };
  }

  /** A file of it, by its own name. @throws SatchelError `folder-missing-file` */
  async find(name: string): Promise<string> {
    const { folder } = this;
    const plain =
      checkPath(name).ok && !name.includes('/') && folder !== undefined ? path.join(folder, name) : undefined;
    // What cannot be looked at is not there: that is said below.
    const at = plain === undefined ? undefined : await lstat(plain).catch(() => undefined);
    if (plain === undefined || !at?.isFile()) throw new SatchelError('folder-missing-file', { path: name });
    return plain;
  }

  /** A file of it with this content, whatever it is called now. */
  async search({ size, sha256 }: Wanted): Promise<string | undefined> {
    for (const file of (await this.list().catch(() => null))?.files ?? []) {
      if (file.size !== size) continue;
      // It went meanwhile; another one may have the content.
      const at = await this.find(file.name).catch(() => undefined);
      if (at !== undefined && (await digestsOf(at)).sha256 === sha256) return at;
    }
    return undefined;
  }
}

async function digestsOf(file: string, signal?: AbortSignal): Promise<{ size: number; sha256: string; crc32: number }> {
  const [hash, sum] = [await sha256Stream(), await crc32Stream()];
  let size = 0;
  for await (const piece of createReadStream(file, { highWaterMark: 1024 * 1024 }) as AsyncIterable<Buffer>) {
    signal?.throwIfAborted();
    hash.update(piece);
    sum.update(piece);
    size += piece.length;
  }
  return { size, sha256: hash.digest(), crc32: sum.digest() };
}

/**
 * Gives a download a second name among the packs of a game, so that nothing is stored twice: as a copy that shares its
 * bytes where the file system has that, else as another name of the same file.
 *
 * @param how.copy the player agreed that it is copied where neither can be done
 * @param how.signal nobody waits for it any more: nothing is left of it
 * @returns what it is, measured where it lies now
 * @throws SatchelError `needs-copy`, `folder-refused`
 */
export async function takeDownload(
  vault: DiskFolder,
  id: string,
  file: string,
  { copy = false, signal }: { copy?: boolean; signal?: AbortSignal } = {},
): Promise<Taken> {
  const to = archivePath(vault, id);
  const parent = path.dirname(to);
  mkdirSync(parent, { recursive: true });
  const part = newPart({ at: (one) => path.join(parent, one), close: () => undefined });
  const before = await stat(file);
  const name = path.basename(file);
  try {
    const how = await secondName(file, part, copy, { name, size: before.size });
    const found = await digestsOf(part, signal);
    const after = await stat(file).catch(() => undefined);
    // Who writes to it now is not done with it.
    if (found.size !== before.size || (after && (after.size !== before.size || after.mtimeMs !== before.mtimeMs)))
      throw new SatchelError('still-coming', { name });
    // A link that came in its place would be another name of what it leads to.
    const handle = await open(part, constants.O_RDONLY | constants.O_NOFOLLOW);
    await handle.sync().finally(() => handle.close());
    signal?.throwIfAborted();
    renameSync(part, to);
    return takenSchema.parse({ ...found, how });
  } catch (error) {
    if (signal?.aborted) throw new SatchelError('cancelled');
    throw error instanceof SatchelError
      ? error
      : new SatchelError('folder-refused', { path: name, why: reasonOf(error) }, { cause: error });
  } finally {
    await rm(part, { force: true });
  }
}

async function secondName(
  file: string,
  part: string,
  copy: boolean,
  { name, size }: { name: string; size: number },
): Promise<Taken['how']> {
  try {
    await copyFile(file, part, constants.COPYFILE_EXCL | constants.COPYFILE_FICLONE_FORCE);
    return 'shared';
  } catch {
    // The disk cannot share bytes: it is done in another way below.
    await rm(part, { force: true });
  }
  try {
    await link(file, part);
    return 'second name';
  } catch (error) {
    if (!copy) throw new SatchelError('needs-copy', { name, size: megabytes(size) }, { cause: error });
  }
  const { bavail, bsize } = await statfs(path.dirname(part));
  if (bavail * bsize < size) throw new SatchelError('folder-refused', { path: name, why: 'the disk is full' });
  await copyFile(file, part, constants.COPYFILE_EXCL);
  return 'copied';
}
