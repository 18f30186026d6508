import { onceFor } from '../once';
import type { PackEntry } from '../archives/pack';
import { isUnder, nameKey, parentOf } from '../paths/paths';

/** A folder of a pack with the files directly in it, its names prepared for being compared. */
export interface PackFolder {
  path: string;
  names: string[];
  keys: string[];
  files: PackEntry[];
  /** Keys of the files' own names, in the order of `files`. */
  fileKeys: string[];
}

/** The folders of a pack that hold files, made once for a list of entries: proposals look at them many times. */
export const packFolders = onceFor((entries: readonly PackEntry[]): PackFolder[] => {
  const byPath = new Map<string, PackFolder>();
  let folder: PackFolder | undefined;
  for (const entry of entries) {
    const cut = entry.path.lastIndexOf('/');
    const path = entry.path.slice(0, Math.max(0, cut));
    // Neighbours mostly lie in one folder.
    if (folder?.path !== path) folder = byPath.get(path);
    if (!folder) {
      const names = path === '' ? [] : path.split('/');
      folder = { path, names, keys: names.map(nameKey), files: [], fileKeys: [] };
      byPath.set(path, folder);
    }
    folder.files.push(entry);
    folder.fileKeys.push(nameKey(entry.path.slice(cut + 1)));
  }
  return [...byPath.values()];
});

/** The folder that every file lies in, '' where there is none. */
export function sharedFolder(entries: readonly PackEntry[]): string {
  let shared = entries[0] ? parentOf(entries[0].path) : '';
  for (const { path } of entries) while (!isUnder(path, shared)) shared = parentOf(shared);
  return shared;
}
