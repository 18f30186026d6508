import { SatchelError } from '../errors';
import { readsBack, writeAndReadBack, type FileStat, type Folder, type Gone } from '../folder';
import { hashOfFile, writePieces, type Chunks } from './large';

/**
 * What takes a file's place: bytes, or pieces that can be had from their beginning again and again, with their hash
 * where it is known.
 */
export type Put = { bytes: Uint8Array<ArrayBuffer> } | { pieces: () => Chunks; sha256?: string };

/** A file as it stands in its folder after it was written and read back. */
export interface Landed {
  stat: FileStat;
  /** Of pieces: their SHA-256. */
  hash?: string;
}

/**
 * Two versions closer together than this (milliseconds) may bear one date: some disks count in steps of two seconds.
 */
const COARSE = 2000;

/**
 * What has to be known of a file before it may be replaced. Its version counts only where a later one must bear another
 * date.
 */
export function goneOf(stat: FileStat, sha256: string, readAt: number): Gone {
  const settled = readAt - stat.modified > COARSE;
  return {
    size: stat.size,
    sha256,
    ...(settled ? { modified: stat.modified, ...(stat.version ? { version: stat.version } : {}) } : {}),
  };
}

/**
 * Puts something in the place of a file, or takes the file away, and reads back what was put there. No version of the
 * file goes but the one that is expected and kept. Folders that can move files aside do it without any moment in
 * between; in others the file is looked at right before the write (docs/decisions/015).
 *
 * @param gone the version that may go; undefined where there must be no file
 * @returns undefined where the file was taken away, or does not read back
 * @throws SatchelError `changed-meanwhile` where another version is there; it stays
 */
export async function swapFile(
  folder: Folder,
  path: string,
  put: Put | undefined,
  gone: Gone | undefined,
): Promise<Landed | undefined> {
  try {
    if (folder.swap) return await swapAside(folder, path, put, gone);
    if (!(await isStill(folder, path, gone))) throw new SatchelError('changed-meanwhile', { path });
  } catch (error) {
    // A second try after one that got further than it seemed.
    if (!(error instanceof SatchelError && error.code === 'changed-meanwhile')) throw error;
    const there = put && 'bytes' in put && (await readsBack(folder, path, put.bytes));
    if (there) return { stat: there };
    throw error;
  }
  if (!put) {
    await folder.remove(path);
    if (await folder.stat(path)) throw new SatchelError('not-landed', { path });
    return undefined;
  }
  if ('pieces' in put) return writePieces(folder, path, put.pieces(), { wanted: put.sha256 });
  const stat = await writeAndReadBack(folder, path, put.bytes);
  return stat && { stat };
}

async function swapAside(
  folder: Folder,
  path: string,
  put: Put | undefined,
  gone: Gone | undefined,
): Promise<Landed | undefined> {
  const swap = folder.swap as NonNullable<Folder['swap']>;
  if (!put) {
    await swap.call(folder, path, undefined, gone);
    return undefined;
  }
  if ('bytes' in put) {
    const stat = await swap.call(folder, path, put.bytes, gone);
    return stat && { stat };
  }
  return writePieces(folder, path, put.pieces(), {
    wanted: put.sha256,
    write: (pieces) => swap.call(folder, path, pieces, gone),
  });
}

/** Is a file the version that may go? */
async function isStill(folder: Folder, path: string, gone: Gone | undefined): Promise<boolean> {
  const now = await folder.stat(path);
  if (!now || !gone) return now === undefined && gone === undefined;
  if (now.size !== gone.size) return false;
  return (
    (gone.modified === now.modified && gone.version === now.version) || (await hashOfFile(folder, path)) === gone.sha256
  );
}
