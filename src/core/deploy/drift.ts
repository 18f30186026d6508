import { throwIfAborted } from '../errors';
import { readBytes } from '../folder';
import { sha256 } from '../hash';
import type { OwnFile } from '../layers/layer';
import { byPath, nameKey, type TargetPath } from '../paths/paths';
import { inParallel, type WorkOptions } from '../progress';
import type { DeployedFile, DeployedState, Workshop } from './model';
import { WIDTH, placeOf } from './takeBack';
import { keep, readState, writeState } from './vault';

/** A deployed file that somebody else changed since. */
export interface Drift {
  target: TargetPath;
  how: 'changed' | 'deleted';
  /** The layer that had brought it. */
  layer: string;
  /** As it is now; undefined where it was deleted. */
  now: { size: number; modified: number } | undefined;
  deployed: { size: number; modified: number };
}

/**
 * Deployed files that are no longer as they were written. Settings files are left out: others may write to them.
 *
 * @param options.thorough reads and hashes every file; without it only those whose size or date differs
 */
export async function findDrift(workshop: Workshop, state: DeployedState, { thorough, signal, onProgress }: WorkOptions & { thorough: boolean }): Promise<Drift[]> {
  const found: Drift[] = [];
  const files = state.files.filter(({ living }) => !living);
  let done = 0;
  await inParallel(files, WIDTH, async ({ target, layer, size, modified, sha256: hash }) => {
    throwIfAborted(signal);
    const { folder, path } = placeOf(workshop, target);
    const now = await folder.stat(path);
    const suspect = thorough || now?.size !== size || now.modified !== modified;
    if (!now) found.push({ target, how: 'deleted', layer, now: undefined, deployed: { size, modified } });
    else if (suspect && (now.size !== size || (await sha256(await readBytes(folder, path))) !== hash)) found.push({ target, how: 'changed', layer, now: { size: now.size, modified: now.modified }, deployed: { size, modified } });
    done++;
    if (thorough || done % 500 === 0) onProgress?.({ phase: 'Checking what is deployed', done, total: files.length, unit: 'files' });
  });
  return found.sort((a, b) => byPath(a.target, b.target));
}

async function changeRecords(workshop: Workshop, targets: readonly TargetPath[], change: (record: DeployedFile) => Promise<DeployedFile | undefined>): Promise<void> {
  const state = await readState(workshop.vault);
  const wanted = new Set(targets.map(nameKey));
  const files: DeployedFile[] = [];
  for (const record of state.files) {
    const changed = wanted.has(nameKey(record.target)) ? await change(record) : record;
    if (changed) files.push(changed);
  }
  await writeState(workshop.vault, { ...state, files });
}

/**
 * Takes files as they are now as the game's own, as after a game update: what the app had put there is forgotten, and the
 * next deployment keeps them as originals before it touches them. The earlier originals stay in the vault.
 */
export const takeAsOriginals = (workshop: Workshop, targets: readonly TargetPath[]): Promise<void> => changeRecords(workshop, targets, async () => undefined);

/**
 * Keeps files as they are now as the player's own.
 *
 * @param layer the player's own layer, which will bring them from now on
 * @returns what that layer has to hold; files that were deleted are not in it
 */
export async function takeAsOwn(workshop: Workshop, targets: readonly TargetPath[], layer: string): Promise<OwnFile[]> {
  const own: OwnFile[] = [];
  await changeRecords(workshop, targets, async (record) => {
    const { folder, path } = placeOf(workshop, record.target);
    const now = await folder.stat(path);
    if (!now) return record;
    const kept = await keep(workshop.vault, await readBytes(folder, path));
    own.push({ target: record.target, sha256: kept.sha256, size: kept.size });
    return { target: record.target, layer, sha256: kept.sha256, size: now.size, modified: now.modified, from: kept, original: record.original };
  });
  return own;
}
