import { baseName, nameKey, parentOf } from '../paths/paths';

/** A game's folders as they are, prepared for being matched against a pack. Paths are targets, compared by key. */
export interface GameTree {
  /** Key of a folder to its spelling. */
  folders: Map<string, string>;
  /** Key of a file to its spelling. */
  files: Map<string, string>;
  /** Key of a folder's own name to the keys of all folders of that name. */
  foldersByName: Map<string, string[]>;
  /** Key of a file's own name to the key of the one file of that name, or of all of them. */
  filesByName: Map<string, string | string[]>;
  /** Key of a folder to the extensions of the files directly in it. */
  extensions: Map<string, Set<string>>;
}

const lastTrees = new WeakMap<object, { roots: string; tree: GameTree }>();

/** The same as `buildGameTree`, kept for as long as the list of files is: many packs are placed over one game. */
export function gameTreeOf(roots: readonly string[], targets: Iterable<string>): GameTree {
  const known = lastTrees.get(targets);
  const id = roots.join('/');
  if (known?.roots === id) return known.tree;
  const tree = buildGameTree(roots, targets);
  lastTrees.set(targets, { roots: id, tree });
  return tree;
}

/** @param targets every file of the game, as targets; files that packs brought are left away by the caller */
export function buildGameTree(roots: readonly string[], targets: Iterable<string>): GameTree {
  const tree: GameTree = { folders: new Map(), files: new Map(), foldersByName: new Map(), filesByName: new Map(), extensions: new Map() };
  const push = (map: Map<string, string[]>, name: string, key: string) => {
    const list = map.get(name);
    if (list) list.push(key);
    else map.set(name, [key]);
  };
  const seen = new Set<string>();
  const addFolder = (path: string) => {
    for (let folder = path; folder !== '' && !seen.has(folder); folder = parentOf(folder)) {
      seen.add(folder);
      const key = nameKey(folder);
      if (tree.folders.has(key)) continue;
      tree.folders.set(key, folder);
      // A root's own id is not a folder name that a pack could repeat.
      if (folder.includes('/')) push(tree.foldersByName, baseName(key), key);
    }
  };
  for (const root of roots) addFolder(root);
  let folder = '';
  let extensions = new Set<string>();
  for (const target of targets) {
    const cut = target.lastIndexOf('/');
    // Neighbours mostly lie in one folder.
    if (cut !== folder.length || !target.startsWith(folder)) {
      folder = target.slice(0, Math.max(0, cut));
      addFolder(folder);
      extensions = tree.extensions.get(nameKey(folder)) ?? new Set();
      tree.extensions.set(nameKey(folder), extensions);
    }
    const key = nameKey(target);
    const name = key.slice(key.lastIndexOf('/') + 1);
    tree.files.set(key, target);
    const others = tree.filesByName.get(name);
    if (others === undefined) tree.filesByName.set(name, key);
    else if (typeof others === 'string') tree.filesByName.set(name, [others, key]);
    else others.push(key);
    const dot = name.lastIndexOf('.');
    if (dot >= 0) extensions.add(name.slice(dot + 1));
  }
  return tree;
}
