import { createHash } from 'node:crypto';
import { constants, createReadStream, lstatSync, statSync } from 'node:fs';
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
