import { z } from 'zod';
import { SatchelError } from '../errors';
import { readBytes, type Folder } from '../folder';

/*
 * Everything that the app remembers carries the version of its form: the browser's memory as one, and what is kept of
 * each game beside its originals. Data without a number is of the form that was written until 26 November 2026.
 */

/** The form that this app writes. It goes up when an older app could not read what this one writes. */
export const DATA_VERSION = 1;
const OLDEST = 0;

const versionSchema = z.number().int().min(OLDEST);

/**
 * The version of what is remembered.
 *
 * @param written what says so, as it was found; undefined: nothing says so
 * @param where for the player: what is remembered there
 * @throws SatchelError `newer-data` where a newer app wrote it: nothing of it may be read or written
 */
export function checkVersion(written: unknown, where: string): number {
  const read = versionSchema.safeParse(written ?? OLDEST);
  // What is no version that this app could have written was not written by an older one.
  if (!read.success || read.data > DATA_VERSION) throw new SatchelError('newer-data', { what: where });
  return read.data;
}

const FILE = 'version.json';

/**
 * Checks the version of what is kept of a game, and brings it up to this app's.
 *
 * @param vault where it is kept
 * @param onlyLook nothing is written
 * @throws SatchelError `newer-data`
 */
export async function checkVault(vault: Folder, title: string, onlyLook: boolean): Promise<void> {
  const where = `what is kept of “${title}”`;
  const there = (await vault.stat(FILE)) !== undefined;
  const written: unknown = there ? parsed(new TextDecoder().decode(await readBytes(vault, FILE))) : undefined;
  // What cannot be read was cut off when this version, or an older one, wrote it for the first time.
  if (checkVersion(versionIn(written), where) === DATA_VERSION || onlyLook) return;
  await vault.write(FILE, new TextEncoder().encode(JSON.stringify({ version: DATA_VERSION })));
}

const versionIn = (written: unknown): unknown =>
  typeof written === 'object' && written !== null && 'version' in written ? written.version : undefined;

const parsed = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
};
