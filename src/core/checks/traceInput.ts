import type { GameCard, LogRule } from '../games/card';
import { baseName, extensionOf, nameKey, parentOf, type TargetPath } from '../paths/paths';
import type { PresentFile } from './finding';

export interface TraceInput {
  card: GameCard;
  rules: readonly LogRule[];
  /** The game as it is now. */
  files: readonly PresentFile[];
  /** Files that packs in the stack have and that did not get into the game. */
  leftOut: readonly { layer: string; path: string }[];
  /** The game's own text files that a pack's file replaces, by `nameKey`. */
  originals: ReadonlyMap<string, string>;
  nameOf(layer: string): string;
}

/** For every folder a pack that has files in it. */
export function folderOwners(files: readonly PresentFile[]): Map<string, string> {
  const owners = new Map<string, string>();
  for (const { target, layer } of files) {
    if (layer === undefined) continue;
    for (let folder = nameKey(parentOf(target)); folder !== '' && !owners.has(folder); folder = parentOf(folder))
      owners.set(folder, layer);
  }
  return owners;
}

/** The game's own files by the ends of their names. */
export function groupByExtension(files: readonly PresentFile[]): Map<string, PresentFile[]> {
  const groups = new Map<string, PresentFile[]>();
  for (const file of files) {
    if (file.layer !== undefined) continue;
    const extension = extensionOf(file.target);
    const group = groups.get(extension);
    if (group) group.push(file);
    else groups.set(extension, [file]);
  }
  return groups;
}

/** Files by their names. */
export function groupByName(files: readonly PresentFile[]): Map<string, TargetPath[]> {
  const groups = new Map<string, TargetPath[]>();
  for (const { target } of files) {
    const name = nameKey(baseName(target));
    const group = groups.get(name);
    if (group) group.push(target);
    else groups.set(name, [target]);
  }
  return groups;
}

/** Shorter names of folders and packs stand in lines by chance. */
const SHORTEST_NAME = 5;

/** Names by which a line can mean a pack, as words with blanks: what it is called, and folders that it alone brings. */
export function packFolders(files: readonly PresentFile[], nameOf: (layer: string) => string): Map<string, string> {
  const words = (name: string) =>
    nameKey(name)
      .replace(/[^\p{L}\p{N}]+/gu, ' ')
      .trim();
  const found = new Map<string, string>();
  const common = new Set<string>();
  const note = (name: string, layer: string | undefined) => {
    const known = found.get(name);
    if (layer === undefined || (known !== undefined && known !== layer)) common.add(name);
    else found.set(name, layer);
  };
  const folders = new Map<string, string | undefined>();
  for (const { target, layer } of files)
    for (let folder = parentOf(target); folder.includes('/'); folder = parentOf(folder)) {
      if (folders.has(folder) && folders.get(folder) === layer) break;
      folders.set(folder, folders.has(folder) ? undefined : layer);
    }
  for (const [folder, layer] of folders) note(words(baseName(folder)), layer);
  for (const layer of new Set(files.flatMap((file) => file.layer ?? []))) note(words(nameOf(layer)), layer);
  for (const name of found.keys()) if (common.has(name) || name.length < SHORTEST_NAME) found.delete(name);
  return found;
}
