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
      if (stem.length > 2) add(this.files, stem, path);
    }
  }
}

/** The game's folders that a written path means: the longest end of it that the game has. */
export function foldersOf(
  key: string,
  { tree, roots, title }: Ground,
  whole = false,
): { found: string[]; fresh: string[] } {
  const names = key
    .replace(/^(?:\.{1,3}|…|~|[a-z]:|%\w+%|<[^>]*>)\//, '')
    .split('/')
    .filter(Boolean);
  const own = roots.filter(
    (root) =>
      nameKey(root.title) === names[0] || (nameKey(title) === names[0] && root === roots[0]) || root.id === names[0],
  );
  // A folder to be made below one that is there: only where the path says which.
  const fresh = (): string | undefined => {
    for (let cut = names.length - 1; cut > 0 && !whole; cut--) {
      const above = foldersOf(names.slice(0, cut).join('/'), { tree, roots, title } as Ground).found;
      if (above.length === 1) return `${above[0] as string}/${names.slice(cut).join('/')}`;
    }
    return undefined;
  };
  for (let from = 0; from < (whole ? Math.min(1, names.length) : names.length); from++) {
    // What stands before it is a folder of the game, too, but not this one's: another place is meant.
    if (from > 0 && names.slice(0, from).some((name) => tree.foldersByName.has(name))) {
      const made = fresh();
      if (made !== undefined) return { found: [], fresh: [made] };
      // The folder right above it is one of the game, and none of those has it.
      if (tree.foldersByName.has(names[from - 1] as string)) return { found: [], fresh: [] };
    }
    const rest = names.slice(from);
    const last = rest.at(-1) as string;
    const end = `/${rest.join('/')}`;
    const found = (tree.foldersByName.get(last) ?? []).filter((one) => `/${one}`.endsWith(end));
    if (found.length > 0 && found.length <= COMMON)
      return { found: found.map((one) => tree.folders.get(one) as string), fresh: [] };
  }
  // “Documents/My Game”: where it lies on the computer, and what the folder is called.
  const called =
    names.length > 1 && !names.slice(0, -1).some((name) => name.includes(' ') || tree.foldersByName.has(name))
      ? roots.filter((root) => nameKey(root.title) === names.at(-1))
      : [];
  if (called.length > 0) return { found: called.map(({ id }) => id), fresh: [] };
  if (own.length > 0 && names.length === 1) return { found: own.map(({ id }) => id), fresh: [] };
  const made = fresh();
  return { found: [], fresh: made === undefined ? [] : [made] };
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
