import {
  closeSync,
  constants,
  fstatSync,
  linkSync,
  lstatSync,
  openSync,
  readdirSync,
  readSync,
  renameSync,
  statSync,
  unlinkSync,
  type Stats,
} from 'node:fs';
import { open } from 'node:fs/promises';
import { execFile as execFileBack } from 'node:child_process';
import { hash } from 'node:crypto';
import { promisify } from 'node:util';
import { threadId } from 'node:worker_threads';
import { SatchelError, reasonOf, type FileStat } from '@/core';

/* The calls that a folder on the disk is made of, each on one name in a folder that is open. */

const { O_DIRECTORY, O_NOFOLLOW, O_NONBLOCK, O_RDONLY } = constants;
/** Where a folder can be held open and names be looked up in it, links can be put in the way of nothing. */
export const HELD = process.platform === 'linux';
/** A file while it is written, named after the process that writes it. */
export const PART = /^\.satchel-(\d+)-\d+\.part$/;
/** Where a file is while it is replaced, by a name that follows from its own. */
export const ASIDE = /^\.satchel-[0-9a-f]{24}\.aside$/;
export const asideName = (name: string): string => `.satchel-${hash('sha256', name).slice(0, 24)}.aside`;
/**
 * Files up to this size (bytes) are read and written at once: waiting for a thread to do it costs more than the file.
 */
export const SMALL = 1024 * 1024;
/** A thread works this long (milliseconds) before it looks who calls. */
const BREATH = 10;
/** Room to read small files into. */
const SCRATCH = new Uint8Array(SMALL);
/** Larger ones are compared piece by piece (bytes). */
export const WINDOW = 4 * 1024 * 1024;
let parts = 0;
const execFile = promisify(execFileBack);

const WORDS: Record<string, string> = {
  EACCES: 'this user may not write it',
  EPERM: 'it is read-only or another program uses it',
  EBUSY: 'another program uses it',
  ETXTBSY: 'it is running',
  EROFS: 'the disk is read-only',
  ENOSPC: 'the disk is full',
  EDQUOT: 'the disk is full',
  ENAMETOOLONG: 'its name is too long for this disk',
  ENOTDIR: 'a file and a folder have the same name',
  EISDIR: 'it is a folder',
  EMFILE: 'too many files are open',
  EIO: 'the disk reports an error',
  ENODEV: 'the disk is gone',
};
let breathed = 0;
/** Small files are worked on at once; now and then (milliseconds) the thread has to listen, too. */
export async function breathe(after = BREATH): Promise<void> {
  if (performance.now() - breathed < after) return;
  await new Promise((done) => setImmediate(done));
  breathed = performance.now();
}
export const LEADS_OUT = 'it is a link that leads out of the folder';
export const held = (fd: number): Parent => ({
  at: (name) => `/proc/self/fd/${fd}/${name}`,
  close: () => closeSync(fd),
});
export const codeOf = (error: unknown): string => (error instanceof Error && 'code' in error ? String(error.code) : '');
export const refuse = (of: string, why: string, cause?: unknown): SatchelError =>
  new SatchelError('folder-refused', { path: of, why }, { cause });
/** A failed call, in words. */
export const refused = (of: string, error: unknown): SatchelError =>
  refuse(of, WORDS[codeOf(error)] ?? reasonOf(error), error);
/** Did the system say that this user may not? */
export const isClosed = (error: unknown): boolean => ['EACCES', 'EPERM'].includes(codeOf(error));
export const isMissing = (error: unknown): boolean => codeOf(error) === 'ENOENT';

/** The folder that a file lies in, open for as long as it is used. `at(name)` is a path to a name in it. */
export interface Parent {
  at(name: string): string;
  close(): void;
}

/** Threads of one process write at the same time. */
export const newPart = (parent: Parent): string =>
  parent.at(`.satchel-${process.pid}-${threadId}${String(++parts).padStart(9, '0')}.part`);

/** @returns the rights that the new file gets @throws SatchelError `folder-refused` where there must not be one */
export function checkTarget(of: string, before: Stats | undefined): number {
  if (before?.isDirectory()) throw refuse(of, 'it is a folder');
  if (before) checkWritable(of, before);
  return before ? before.mode & 0o777 : 0o666;
}

/**
 * A small plain file at once, since waiting costs more than reading; undefined for anything else.
 *
 * @param use what is done with its bytes, which are gone afterwards
 */
export function readSmall<T>(at: string, use: (bytes: Uint8Array, stat: Stats) => T): T | undefined {
  let fd: number;
  try {
    fd = openSync(at, O_RDONLY | O_NOFOLLOW | O_NONBLOCK);
  } catch (error) {
    if (isMissing(error)) return undefined;
    throw error;
  }
  try {
    const stat = fstatSync(fd);
    if (!stat.isFile() || stat.size > SMALL) return undefined;
    let got = 0;
    while (got < stat.size) {
      const read = readSync(fd, SCRATCH, got, stat.size - got, got);
      if (read === 0) break;
      got += read;
    }
    return use(SCRATCH.subarray(0, got), stat);
  } finally {
    closeSync(fd);
  }
}

/** Does a small plain file hold these very bytes? @param of what it is called in its folder */
export function holdsSmall(at: string, of: string, bytes: Uint8Array): FileStat | undefined {
  const stat = readSmall(at, (found, its) => (Buffer.compare(found, bytes) === 0 ? its : undefined));
  return stat && fileStat(of, stat);
}

export const lookAt = (parent: Parent, name: string): Stats | undefined =>
  lstatSync(parent.at(name), { throwIfNoEntry: false });
export const isReadOnly = (stat: Stats): boolean => (stat.mode & 0o222) === 0;
export const fileStat = (of: string, stat: Stats): FileStat => ({
  path: of,
  size: stat.size,
  modified: Math.round(stat.mtimeMs),
  version: versionOf(stat),
  ...(isReadOnly(stat) ? { readOnly: true as const } : {}),
});
/** The same for one and the same file that nobody has written to meanwhile. A new name for it changes nothing. */
export const versionOf = ({ dev, ino, mtimeMs }: Stats): string => `${dev}:${ino}:${mtimeMs}`;

/** Disks that know no second names. */
const NO_LINKS = ['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'ENOSYS', 'EMLINK', 'EXDEV'];

/**
 * Opens a folder, over links, too.
 *
 * @param of the file for which it is opened, for what is said where that fails
 * @param isExpected is it likely to be there? A failed call costs ten times a look, and of a new folder each file is
 * asked for.
 * @returns undefined where there is none
 */
export function openFolder(at: string, of: string, isExpected: boolean): number | undefined {
  try {
    if (!isExpected && !statSync(at, { throwIfNoEntry: false })) return undefined;
    return openSync(at, O_RDONLY | O_DIRECTORY);
  } catch (error) {
    if (codeOf(error) === 'ELOOP') throw refuse(of, 'links lead in a circle');
    if (!isMissing(error) && codeOf(error) !== 'ENOTDIR') throw error;
    return undefined;
  }
}

/** Gives a file one more name, where the disk has such and there is nothing of that name. */
export function linkIfCan(from: string, to: string): void {
  try {
    linkSync(from, to);
  } catch (error) {
    if (codeOf(error) !== 'EEXIST' && !NO_LINKS.includes(codeOf(error))) throw error;
  }
}

/** Gives a file another name, unless there is something of that name. @returns false where there is */
export function moveUnlessThere(from: string, to: string): boolean {
  try {
    linkSync(from, to);
  } catch (error) {
    if (codeOf(error) === 'EEXIST') return false;
    if (!NO_LINKS.includes(codeOf(error))) throw error;
    // Without second names a moment stays between the look and the move.
    if (lstatSync(to, { throwIfNoEntry: false })) return false;
    renameSync(from, to);
    return true;
  }
  unlinkIfThere(from);
  return true;
}

/** Moves a file. @returns false where there is none */
export function moveIfThere(from: string, to: string): boolean {
  try {
    renameSync(from, to);
    return true;
  } catch (error) {
    if (isMissing(error)) return false;
    throw error;
  }
}

/**
 * A disk would let a read-only file be swapped on some systems and not on others; the player set it so for a reason.
 */
export function checkWritable(of: string, stat: Stats): void {
  if (stat.isFile() && isReadOnly(stat)) throw refuse(of, 'it is read-only');
}

export function unlinkIfThere(at: string): void {
  try {
    unlinkSync(at);
  } catch (error) {
    if (!isMissing(error)) throw error;
  }
}

export async function orMissing<T>(work: Promise<T>): Promise<T | undefined> {
  try {
    return await work;
  } catch (error) {
    if (isMissing(error)) return undefined;
    throw error;
  }
}

/** What was not written to for so long (milliseconds) belongs to no process any more, whoever bears its number now. */
const LEFT = 3_600_000;

/** Removes what a process that was ended had begun to write. @returns false where it is still at it */
export function sweep(parent: Parent, name: string): boolean {
  const writer = Number(PART.exec(name)?.[1]);
  const stat = lookAt(parent, name);
  if (writer === process.pid || (isRunning(writer) && stat && Date.now() - stat.mtimeMs < LEFT)) return false;
  unlinkIfThere(parent.at(name));
  return true;
}

/** The same for all that lies in a folder. @returns false where something else does, too */
export function sweepAll(parent: Parent, folder: string): boolean {
  const inside: Parent = { at: (name) => `${parent.at(folder)}/${name}`, close: () => undefined };
  const names = readdirSync(parent.at(folder));
  return names.every((name) => PART.test(name)) && names.map((name) => sweep(inside, name)).every(Boolean);
}

/** Is there a process of that number? */
export function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return codeOf(error) === 'EPERM';
  }
}

/** The disk's cache is written out in one go; waiting for each file of thousands takes many times as long. */
export async function syncDisk(root: string): Promise<boolean> {
  if (!HELD) return false;
  try {
    await execFile('sync', ['-f', root]);
    return true;
  } catch {
    // Whoever asked settles file by file then.
    return false;
  }
}

export async function syncOne(at: string): Promise<void> {
  try {
    const handle = await open(at, process.platform === 'win32' ? 'r+' : O_RDONLY | O_NOFOLLOW | O_NONBLOCK);
    await handle.sync().finally(() => handle.close());
  } catch (error) {
    // What was taken away again needs no place on the disk; a disk that cannot say has said all it can.
    if (!['ENOENT', 'EINVAL', 'EISDIR', 'EACCES', 'EPERM', 'ELOOP'].includes(codeOf(error))) throw error;
  }
}

/** Folders on one disk give one name: that of the first of them that was asked about. */
const disks = new Map<number, string>();
export function diskName(root: string): string {
  const { dev } = statSync(root);
  const name = disks.get(dev) ?? `the disk that holds “${root}”`;
  disks.set(dev, name);
  return name;
}
