import { PLAYERS_NAMES } from '../names/rootWords';
import type { PackEntry } from '../archives/pack';
import { gameFile } from '../names/gameTree';
import { baseName, extensionOf, nameKey } from '../paths/paths';
import { packFolders } from '../placed/packFolders';
import { COMMON, type Ground } from './mention';

/** Names of the pack, made once for a read-me. */
export class PackNames {
  readonly folders = new Map<string, string[]>();
  readonly files = new Map<string, string[]>();
  readonly endings: ReadonlySet<string>;

  constructor(entries: readonly PackEntry[]) {
    this.endings = new Set(entries.map(({ path }) => extensionOf(path)));
    const add = (map: Map<string, string[]>, key: string, path: string) => {
      const known = map.get(key);
      if (!known) map.set(key, [path]);
      else if (known.length <= COMMON && !known.includes(path)) known.push(path);
    };
    const seen = new Set<string>();
    for (const { names } of packFolders(entries))
      for (let depth = names.length; depth > 0; depth--) {
        const path = names.slice(0, depth).join('/');
        if (seen.has(path)) break;
        seen.add(path);
        for (let from = 0; from < depth; from++) add(this.folders, nameKey(names.slice(from, depth).join('/')), path);
      }
    for (const { path } of entries.slice(0, 20_000)) {
      const name = nameKey(baseName(path));
      add(this.files, name, path);
      if (path.includes('/')) add(this.files, nameKey(path), path);
      const stem = name.replace(/\.[^.]+$/, '');
      if (stem.length > 2 || /^\p{L}\d$/u.test(stem)) add(this.files, stem, path);
    }
  }
}

interface NamedFolders {
  /** Folders that the game has. */
  found: string[];
  /** A folder to be made below one that is there. */
  fresh: string[];
}

/** The game's folders that a written path means: the longest end of it that the game has. */
export function foldersOf(key: string, ground: Ground, whole = false): NamedFolders {
  const names = key
    .replace(/^(?:\.{1,3}|…|~|[a-z]:|%\w+%|<[^>]*>)\//, '')
    .split('/')
    .filter(Boolean);
  const { tree } = ground;
  const inGame = (name: string) => tree.foldersByName.has(name);
  for (let from = 0; from < (whole ? Math.min(1, names.length) : names.length); from++) {
    // What stands before it is a folder of the game, too, but not this one's: another place is meant.
    if (from > 0 && names.slice(0, from).some(inGame)) {
      const made = freshIn(names, ground, whole);
      // Or the folder right above it is one of the game, and none of those has it.
      if (made !== undefined || inGame(names[from - 1] as string)) return { found: [], fresh: made ? [made] : [] };
    }
    const end = `/${names.slice(from).join('/')}`;
    const found = (tree.foldersByName.get(names.at(-1) as string) ?? []).filter((one) => `/${one}`.endsWith(end));
    if (found.length > 0 && found.length <= COMMON)
      return { found: found.map((one) => tree.folders.get(one) as string), fresh: [] };
  }
  const roots = rootsNamed(names, ground);
  if (roots.length > 0) return { found: roots, fresh: [] };
  const made = freshIn(names, ground, whole);
  return { found: [], fresh: made === undefined ? [] : [made] };
}

/** A folder to be made below one that is there: only where the path says which. */
function freshIn(names: readonly string[], ground: Ground, whole: boolean): string | undefined {
  for (let cut = names.length - 1; cut > 0 && !whole; cut--) {
    const above = foldersOf(names.slice(0, cut).join('/'), ground).found;
    if (above.length === 1) return `${above[0] as string}/${names.slice(cut).join('/')}`;
  }
  return undefined;
}

/** A root by its title, or as “Documents/My Game”: where it lies on the computer, and what the folder is called. */
function rootsNamed(names: readonly string[], { tree, roots, title }: Ground): string[] {
  const above = names.slice(0, -1);
  if (above.length === 0) {
    const [name] = names;
    const isTitle = (root: (typeof roots)[number]) => nameKey(title) === name && root === roots[0];
    return roots
      .filter((root) => nameKey(root.title) === name || isTitle(root) || root.id === name)
      .map(({ id }) => id);
  }
  if (above.some((name) => (name.includes(' ') && !PLAYERS_NAMES.has(name)) || tree.foldersByName.has(name))) return [];
  const called = roots.filter((root) => nameKey(root.title) === names.at(-1));
  // The program's folder can bear the same name; it does not lie there.
  const players = called.filter((root) => root !== roots[0]);
  const isPlayers = players.length > 0 && above.some((name) => PLAYERS_NAMES.has(name));
  return (isPlayers ? players : called).map(({ id }) => id);
}

export function filesOf(key: string, { tree }: Ground, whole: boolean): string[] {
  const names = key.split('/');
  for (let from = 0; from < (whole ? 1 : names.length); from++) {
    const end = `/${names.slice(from).join('/')}`;
    const folders = tree.foldersOfFile.get(names.at(-1) as string);
    const found = (folders === undefined ? [] : typeof folders === 'string' ? [folders] : folders)
      .map((folder) => `${folder}/${names.at(-1) as string}`)
      .filter((one) => `/${one}`.endsWith(end));
    if (found.length > 0 && found.length <= COMMON) return found.map((one) => gameFile(tree, one) as string);
  }
  return [];
}
