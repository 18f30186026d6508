import { byPath, nameKey, parentOf, splitTarget, type TargetPath } from '../paths/paths';
import type { PlanStep, Workshop } from './model';
import { placeOf } from './takeBack';

/** The folders that a plan's files need and that are not there yet, the outer ones first. */
export async function foldersToMake(steps: readonly PlanStep[], workshop: Workshop): Promise<TargetPath[]> {
  const missing = new Map<string, TargetPath>();
  const asked = new Set<string>();
  for (const { target, after } of steps) {
    if (after.kind === 'absent') continue;
    for (let up = parentOf(target); up.includes('/') && !asked.has(nameKey(up)); up = parentOf(up)) {
      asked.add(nameKey(up));
      const { folder, path } = placeOf(workshop, up);
      // What is there was there with everything above it.
      if (!folder.hasFolder || (await folder.hasFolder(path))) break;
      missing.set(nameKey(up), up);
    }
  }
  return [...missing.values()].sort(byPath);
}

/** Removes those of the folders that are empty, the inner ones first. @returns the others, sorted */
export async function removeEmptyFolders(folders: readonly TargetPath[], workshop: Workshop): Promise<TargetPath[]> {
  const left: TargetPath[] = [];
  const deepestFirst = [...folders].sort((a, b) => b.split('/').length - a.split('/').length);
  for (const one of deepestFirst) {
    const { root, path } = splitTarget(one);
    // One that cannot go now is tried again after the next deployment; nothing of the player's is in it.
    if (!(await workshop.folders[root]?.removeFolder?.(path).catch(() => false))) left.push(one);
  }
  return left.sort(byPath);
}
