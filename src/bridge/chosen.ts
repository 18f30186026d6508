import { randomUUID } from 'node:crypto';
import { mkdirSync, realpathSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import path from 'node:path';
import { SatchelError, reasonOf } from '@/core';

/**
 * Where a folder that the player chose really lies.
 *
 * @throws SatchelError `folder-refused` it cannot be read, or is none
 */
export function chosenFolder(chosen: string): string {
  try {
    const real = realpathSync(chosen);
    if (!statSync(real).isDirectory()) throw new Error('it is no folder');
    return real;
  } catch (error) {
    throw new SatchelError('folder-refused', { path: chosen, why: reasonOf(error) }, { cause: error });
  }
}

/** @throws SatchelError `whole-disk` where the folder is a whole disk, or all that a person has */
export function refuseWholeDisk(real: string): void {
  if (path.dirname(real) === real || real === realpathSync(homedir()))
    throw new SatchelError('whole-disk', { name: real });
}

/** Is the one folder the other, or below it? Both as they really lie. */
export const isInside = (inner: string, outer: string): boolean =>
  inner === outer || inner.startsWith(outer.endsWith(path.sep) ? outer : outer + path.sep);

/** Writes down what was chosen, all of it or nothing. */
export function noteChosen(file: string, note: unknown): void {
  mkdirSync(path.dirname(file), { recursive: true });
  const part = `${file}.${randomUUID()}.part`;
  writeFileSync(part, JSON.stringify(note, null, 2), { flush: true });
  renameSync(part, file);
}
