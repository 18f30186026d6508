import { createHash } from 'node:crypto';
import { constants, createReadStream, lstatSync, statSync, statfsSync, type Stats } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { checkPath, type FileStat, type Gone } from '@/core';
import { WINDOW, refuse, versionOf } from './diskCalls';

const { O_CREAT, O_EXCL, O_NOFOLLOW, O_WRONLY } = constants;

/** Folders inside folders; games have fewer. */
export const DEEPEST = 64;

/** Links that lead to links. */
export const MOST_LINKS = 8;

/** Up to this many files are brought to the disk one by one. */
export const FEW = 16;

/** @throws SatchelError `folder-refused` where a name cannot be used */
export function checked(of: string): string {
  const check = checkPath(of);
  if (!check.ok) throw refuse(of, `its name cannot be used: ${check.problem}`);
  return check.path;
}

/** Bytes after which the disk is asked to take what was written. */
export const TAKEN = 128 * 1024 * 1024;

/**
 * Writes pieces as they come. The disk takes what was written while more is made: waiting for gigabytes at the end
 * takes as long again.
 */
export async function writeAsTheyCome(handle: FileHandle, pieces: AsyncIterable<Uint8Array>): Promise<void> {
  let loose = 0;
  let isTaking = false;
  for await (const piece of pieces) {
    await handle.writeFile(piece);
    loose += piece.length;
    if (loose < TAKEN || isTaking) continue;
    [loose, isTaking] = [0, true];
    // Nothing relies on it: whoever settles the file waits for all of it, and hears what is wrong. The handle closes
    // when it is over.
    void handle
      .datasync()
      .catch(() => undefined)
      .finally(() => (isTaking = false));
  }
}

/**
 * Where another one helps, a thread listens after this time (milliseconds), so that the other gets about half of the
 * files.
 */
export const HELPED = 0.5;

export async function fillPart(part: string, mode: number, fill: (handle: FileHandle) => Promise<void>): Promise<void> {
  const handle = await open(part, O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW, mode);
  try {
    await fill(handle);
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Is a file the version that may go? Where its date does not tell, its bytes are read. */
export async function isVersion(at: string, gone: Gone): Promise<boolean> {
  const stat = lstatSync(at);
  if (!stat.isFile() || stat.size !== gone.size) return false;
  if (gone.version !== undefined && versionOf(stat) === gone.version) return true;
  const hasher = createHash('sha256');
  for await (const piece of createReadStream(at, { highWaterMark: WINDOW })) hasher.update(piece as Uint8Array);
  return hasher.digest('hex') === gone.sha256;
}

/** How a folder itself is. */
export interface FolderStamp {
  /** Says which folder it is and when a name in it came or went last. */
  is: string;
  /** When that was (milliseconds since 1970-01-01 UTC). */
  changed: number;
}

/** What lies directly in a folder. */
export interface Seen {
  files: FileStat[];
  folders: string[];
  links: string[];
}

/** A folder is asked anew after this time (milliseconds) whether it is still the one that was opened. */
export const SURE = 20;

/** Which folder it is, whatever its name; undefined where there is none. */
export function identityOf(root: string): string | undefined {
  const stat = statSync(root, { throwIfNoEntry: false });
  return stat && `${stat.dev}:${stat.ino}`;
}

/**
 * Kinds of disks whose folders have a new date whenever a name in them comes or goes (statfs(2), “File system type
 * constants”): ext2 to ext4, Btrfs, XFS, tmpfs, F2FS, ZFS, OverlayFS, NTFS (ntfs3), bcachefs. FAT has not, others are
 * not known.
 */
const DATED: ReadonlySet<number> = new Set([
  0xef53, 0x9123683e, 0x58465342, 0x01021994, 0xf2f52010, 0x2fc12fc1, 0x794c7630, 0x7366746e, 0xca451a4e,
]);

/** The disk that a folder lies on, where the dates of its folders can be trusted; false where not. */
export function tellsDates(root: string): { disk: number } | false {
  if (process.platform !== 'linux') return false;
  try {
    return DATED.has(statfsSync(root).type) ? { disk: statSync(root).dev } : false;
  } catch {
    // What cannot be asked is looked at whole.
    return false;
  }
}

/** A folder’s own date. The second of the two is one that no program can set back. */
export const folderStamp = ({ ino, mtimeMs, ctimeMs }: Stats): FolderStamp => ({
  is: `${ino}:${mtimeMs}:${ctimeMs}`,
  changed: Math.max(mtimeMs, ctimeMs),
});
