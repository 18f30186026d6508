import { throwIfAborted } from '../errors';
import type { Folder } from '../folder';
import type { OwnFile } from '../layers/layer';
import { byPath, nameKey, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import { hashOfFile } from './large';
import type { DeployedFile, Workshop } from './model';
import { placeOf } from './takeBack';
import { keepFile, readState, writeState } from './vault';

/**
 * Reads and hashes every deployed file. What differs although size and date say nothing is noted, so that every plan
 * sees it from now on.
 *
 * @returns how many files were read, and those that differ or are gone
 */
export async function checkDeployed(
  workshop: Workshop,
  { signal, onProgress }: WorkOptions = {},
): Promise<{ files: number; drifted: TargetPath[] }> {
  const state = await readState(workshop.vault);
  const files = state.files.filter(({ living }) => !living);
  const drifted: TargetPath[] = [];
  let done = 0;
  for (let i = 0; i < files.length; i += AT_ONCE) {
    throwIfAborted(signal);
    const some = files.slice(i, i + AT_ONCE);
    const hashes = await hashesOf(
      workshop,
      some.map(({ target }) => target),
    );
    some.forEach(({ target, sha256: hash }, k) => hashes[k] !== hash && drifted.push(target));
    done += some.length;
    onProgress?.({ phase: 'Reading what is deployed', done, total: files.length, unit: 'files' });
  }
  // A date that no file has: the next plan compares the bytes.
  await changeRecords(workshop, drifted, async (record) => ({ ...record, modified: 0 }));
  return { files: files.length, drifted: drifted.sort(byPath) };
}

/** Files that are asked about together. */
const AT_ONCE = 200;

/** SHA-256 of files of the game as they are, undefined where one is not there. */
async function hashesOf(workshop: Workshop, targets: readonly TargetPath[]): Promise<(string | undefined)[]> {
  const found: (string | undefined)[] = [];
  const byFolder = new Map<Folder, { i: number; path: string }[]>();
  targets.forEach((target, i) => {
    const { folder, path } = placeOf(workshop, target);
    const places = byFolder.get(folder) ?? [];
    byFolder.set(folder, places);
    places.push({ i, path });
  });
  for (const [folder, places] of byFolder) {
    const digests = await folder.digests?.(
      'sha256',
      places.map(({ path }) => path),
    );
    if (digests) places.forEach(({ i }, k) => (found[i] = digests[k]));
    else await inParallel(places, WIDTH, async ({ i, path }) => void (found[i] = await hashOfFile(folder, path)));
  }
  return found;
}

async function changeRecords(
  workshop: Workshop,
  targets: readonly TargetPath[],
  change: (record: DeployedFile) => Promise<DeployedFile | undefined>,
): Promise<void> {
  if (targets.length === 0) return;
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
 * Takes files as they are now as the game's own, as after a game update: what the app had put there is forgotten, and
 * the next deployment keeps them as originals before it touches them. The earlier originals stay in the vault.
 */
export const takeAsOriginals = (workshop: Workshop, targets: readonly TargetPath[]): Promise<void> =>
  changeRecords(workshop, targets, async () => undefined);

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
    const kept = await keepFile(workshop.vault, folder, path);
    own.push({ target: record.target, sha256: kept.sha256, size: kept.size });
    return {
      target: record.target,
      layer,
      sha256: kept.sha256,
      size: now.size,
      modified: now.modified,
      from: kept,
      original: record.original,
    };
  });
  return own;
}
