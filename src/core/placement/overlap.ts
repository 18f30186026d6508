import type { GameTree } from '../names/gameTree';
import { extensionOf, nameKey } from '../paths/paths';
import { relOf, type PackNode } from './packTree';

/** What lies where when a folder of a pack is laid over a folder of the game. */
interface Overlap {
  exact: number;
  /** Sum over files of the same path, each counted by how rare its name is in the game. */
  rare: number;
  /** The same for folders of the same name. */
  folders: number;
  /** Files whose first folder is there, or whose ending is at home straight in the folder. */
  inside: number;
  /** Files whose ending is at home in the very folder they land in. */
  home: number;
  total: number;
  /** The folder with most files that both have, as the game spells it. */
  common: string;
}

/** How many folders of the game have a name. */
export const places = (tree: GameTree, folder: string): number => tree.foldersByName.get(folder)?.length ?? 1;

/** Lays a folder of a pack over a folder of the game and counts. */
export function overlapOf(node: PackNode, to: string, tree: GameTree): Overlap {
  const none: Overlap = { exact: 0, rare: 0, folders: 0, inside: 0, home: 0, total: node.count, common: '' };
  const made = { ...none, seen: new Set<string>() };
  let most = 0;
  for (const folder of node.folders) {
    const rel = relOf(folder, node);
    const { key, depth } = walkDown(rel, nameKey(to), tree);
    countFolders(rel.slice(0, depth), nameKey(to), made, tree);
    const atHome = depth === rel.length ? countFiles(folder.fileKeys, tree.files.get(key), made, tree) : 0;
    made.home += atHome;
    made.inside += depth > 0 ? folder.fileKeys.length : rel.length === 0 ? atHome : 0;
    if (depth > 0 && folder.fileKeys.length > most) {
      most = folder.fileKeys.length;
      made.common = tree.folders.get(key) ?? key;
    }
  }
  return made;
}

/** How far a path of folders is there in the game. */
function walkDown(rel: readonly string[], base: string, tree: GameTree): { key: string; depth: number } {
  let key = base;
  let depth = 0;
  for (let next; depth < rel.length && tree.folders.has((next = `${key}/${rel[depth] as string}`)); depth++) key = next;
  return { key, depth };
}

/** Counts the folders on the way that were not met before, each by how rare its name is. */
function countFolders(
  rel: readonly string[],
  base: string,
  made: Overlap & { seen: Set<string> },
  tree: GameTree,
): void {
  let key = base;
  for (const name of rel) {
    key = `${key}/${name}`;
    if (made.seen.has(key)) continue;
    made.seen.add(key);
    made.folders += 1 / places(tree, name);
  }
}

/** Counts files of the same name. @returns how many files of these endings are at home there */
function countFiles(
  fileKeys: readonly string[],
  own: ReadonlyMap<string, string> | undefined,
  made: Overlap,
  tree: GameTree,
): number {
  const endings = new Set([...(own?.keys() ?? [])].map(extensionOf));
  let atHome = 0;
  for (const file of fileKeys) {
    if (own?.has(file)) {
      const others = tree.foldersOfFile.get(file);
      made.exact++;
      made.rare += 1 / (Array.isArray(others) ? others.length : 1);
      atHome++;
    } else if (endings.has(extensionOf(file))) atHome++;
  }
  return atHome;
}
