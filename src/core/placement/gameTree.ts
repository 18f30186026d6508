import { baseName, nameKey, parentOf } from '../paths/paths';

/** A game's folders as they are, prepared for being matched against a pack. Paths are targets, compared by key. */
export interface GameTree {
  /** Key of a folder to its spelling. */
  folders: Map<string, string>;
  /** Key of a file to its spelling. */
  files: Map<string, string>;
  /** Key of a folder's own name to the keys of all folders of that name. */
  foldersByName: Map<string, string[]>;
  filesByName: Map<string, string[]>;
  /** Key of a folder to the extensions of the files directly in it. */
  extensions: Map<string, Set<string>>;
}

/** @param targets every file of the game, as targets; files that packs brought are left away by the caller */
export function buildGameTree(roots: readonly string[], targets: Iterable<string>): GameTree {
  const tree: GameTree = { folders: new Map(), files: new Map(), foldersByName: new Map(), filesByName: new Map(), extensions: new Map() };
  const push = (map: Map<string, string[]>, name: string, key: string) => {
    const list = map.get(name);
    if (list) list.push(key);
    else map.set(name, [key]);
  };
  const addFolder = (path: string) => {
    for (let folder = path; folder !== ''; folder = parentOf(folder)) {
      const key = nameKey(folder);
      if (tree.folders.has(key)) return;
      tree.folders.set(key, folder);
      // A root's own id is not a folder name that a pack could repeat.
      if (folder.includes('/')) push(tree.foldersByName, baseName(key), key);
    }
  };
  for (const root of roots) addFolder(root);
  for (const target of targets) {
    const key = nameKey(target);
    tree.files.set(key, target);
    push(tree.filesByName, baseName(key), key);
    const folder = parentOf(target);
    addFolder(folder);
    const folderKey = parentOf(key);
    const dot = key.lastIndexOf('.');
    if (dot > key.lastIndexOf('/')) {
      const known = tree.extensions.get(folderKey);
      if (known) known.add(key.slice(dot + 1));
      else tree.extensions.set(folderKey, new Set([key.slice(dot + 1)]));
    }
  }
  return tree;
}
