import { onceFor } from '../once';
import { baseName, nameKey, parentOf } from '../paths/paths';

/** A game's folders as they are, prepared for being matched against a pack. Paths are targets, compared by key. */
export interface GameTree {
  /** Key of a folder to its spelling. */
  folders: Map<string, string>;
  /** Key of a folder's own name to the keys of all folders of that name. */
  foldersByName: Map<string, string[]>;
  /** Key of a folder to the files directly in it: key of the own name to the target as it is spelled. */
  files: Map<string, Map<string, string>>;
  /** Key of a file's own name to the key of the one folder that has it, or of all of them. */
  foldersOfFile: Map<string, string | string[]>;
  /** Every file as it was given. */
  targets: readonly string[];
}

/** The file of this key as the game spells it, undefined where the game has none. */
export const gameFile = (tree: GameTree, key: string): string | undefined =>
  tree.files.get(parentOf(key))?.get(baseName(key));

/** How many folders lie straight in each, by its key. */
export const foldersInEach = onceFor(({ folders }: GameTree): ReadonlyMap<string, number> => {
  const counts = new Map<string, number>();
  for (const folder of folders.keys()) counts.set(parentOf(folder), (counts.get(parentOf(folder)) ?? 0) + 1);
  return counts;
});

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
  const tree: GameTree = {
    folders: new Map(),
    foldersByName: new Map(),
    files: new Map(),
    foldersOfFile: new Map(),
    targets: Array.isArray(targets) ? (targets as string[]) : [...targets],
  };
  const addFolder = (path: string) => {
    for (let folder = path; folder !== ''; folder = parentOf(folder)) {
      const key = nameKey(folder);
      if (tree.folders.has(key)) return;
      tree.folders.set(key, folder);
      if (!folder.includes('/')) return;
      // A root's own id is not a folder name that a pack could repeat.
      const name = baseName(key);
      const others = tree.foldersByName.get(name);
      if (others) others.push(key);
      else tree.foldersByName.set(name, [key]);
    }
  };
  for (const root of roots) addFolder(root);
  let folder: string | undefined;
  let folderKey = '';
  let inside = new Map<string, string>();
  for (const target of targets) {
    const cut = Math.max(0, target.lastIndexOf('/'));
    // Neighbours mostly lie in one folder.
    if (cut !== folder?.length || !target.startsWith(folder)) {
      folder = target.slice(0, cut);
      addFolder(folder);
      folderKey = nameKey(folder);
      inside = tree.files.get(folderKey) ?? new Map<string, string>();
      tree.files.set(folderKey, inside);
    }
    const name = nameKey(target.slice(cut === 0 ? 0 : cut + 1));
    inside.set(name, target);
    const others = tree.foldersOfFile.get(name);
    if (others === undefined) tree.foldersOfFile.set(name, folderKey);
    else if (typeof others === 'string') tree.foldersOfFile.set(name, [others, folderKey]);
    else others.push(folderKey);
  }
  return tree;
}
