import type { GameTree } from '../names/gameTree';
import { once, onceFor } from '../once';
import { baseName, nameKey, parentOf, stemOf } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';

/** Values of a settings file that name things of one folder of the game. */
export interface NamedThings {
  /** Of the value, or of the list. */
  path: string[];
  folder: string;
  isList: boolean;
}

const MOST_ENTRIES = 3000;
const MOST_ITEMS = 60;
const NAME = /^[\p{L}_][\p{L}\p{N}_ .-]{2,80}$/u;

/**
 * Where a settings file names things that lie beside each other in the game, as folders or as files without their
 * endings: lists of any form, and single values that name one of several.
 *
 * @example `boys: [kit, ned]`, where `boys` holds a folder for each
 */
export function namedThings(document: SettingsDocument, tree: GameTree): NamedThings[] {
  const values = valuesOf(document);
  const keys = new Map<string, number>();
  for (const { path } of values) keys.set(path.at(-1) ?? '', (keys.get(path.at(-1) ?? '') ?? 0) + 1);
  return values.flatMap(({ path, items, isList }) => {
    // A key of each of several sections tells what that section is.
    if (!isList && (keys.get(path.at(-1) ?? '') ?? 0) > 1) return [];
    if (items.length === 0 || items.length > MOST_ITEMS || !items.every((item) => NAME.test(item))) return [];
    const folder = homeOf(items.map(nameKey), tree, isList);
    return folder === undefined ? [] : [{ path, folder, isList }];
  });
}

interface Values {
  path: string[];
  items: string[];
  isList: boolean;
}

/** The values of a document, those of a list together. */
function valuesOf(document: SettingsDocument): Values[] {
  const lists = new Map<string, Values>();
  const found: Values[] = [];
  const entries = document.entries().slice(0, MOST_ENTRIES);
  // The first of several elements bears no number.
  const several = new Set(entries.map(({ path }) => path.join('\n')).filter((id) => id.endsWith('#2')));
  for (const { path, value } of entries) {
    const last = path.at(-1) ?? '';
    const bare = value.replace(/^"(.*)"$/, '$1');
    // An item by its number, an element of several, a name on a line of its own.
    const isElement = /#\d+$/.test(last) || several.has(`${path.join('\n')}#2`);
    const isItem = /^\d+$/.test(last) || (value !== '' && isElement);
    const isName = value === '' && !last.startsWith('@');
    if (isItem || isName) {
      const above = path.slice(0, -1);
      const id = above.join('\n');
      const list = lists.get(id) ?? { path: above, items: [], isList: true };
      if (!lists.has(id)) found.push(list);
      lists.set(id, list);
      list.items.push(isName ? last.replace(/#\d+$/, '') : bare);
    } else found.push({ path, ...itemsIn(bare) });
  }
  return found;
}

/** `"kit", "ned"`, `kit, ned`, `["kit"]`, or one name. */
function itemsIn(value: string): Pick<Values, 'items' | 'isList'> {
  const held = /^\[(.*)\]$/s.exec(value)?.[1];
  const sign = held === undefined ? [',', ';', '|'].find((one) => value.includes(one)) : ',';
  const items = (sign === undefined ? [value] : (held ?? value).split(sign)).map((one) =>
    one.trim().replace(/^["']|["']$/g, ''),
  );
  return { items: items.filter((one) => one !== ''), isList: sign !== undefined };
}

/** The folder in which all of them lie; a single one has to be one of several there, and nowhere else. */
function homeOf(items: readonly string[], tree: GameTree, isList: boolean): string | undefined {
  const [first, ...others] = items.map((item) => homesOf(item, tree));
  const homes = [...(first ?? [])].filter((home) => others.every((some) => some.has(home)));
  const [only, other] = homes;
  if (only === undefined || !only.includes('/') || (other !== undefined && !isList)) return undefined;
  if (!isList && thingsIn(only, tree) < 2) return undefined;
  return tree.folders.get(only);
}

const homesOf = (item: string, tree: GameTree): Set<string> =>
  new Set([...(tree.foldersByName.get(item) ?? []).map(parentOf), ...(stemsOf(tree)().get(item) ?? [])]);

const stemsOf = onceFor((tree: GameTree) =>
  once(() => {
    const found = new Map<string, Set<string>>();
    for (const [name, folders] of tree.foldersOfFile) {
      const stem = stemOf(name);
      const known = found.get(stem) ?? new Set<string>();
      found.set(stem, known);
      for (const folder of typeof folders === 'string' ? [folders] : folders) known.add(folder);
    }
    return found;
  }),
);

/** How many things lie in a folder: folders, or files of different names. */
function thingsIn(folder: string, { files, folders }: GameTree): number {
  const stems = new Set([...(files.get(folder)?.keys() ?? [])].map((name) => stemOf(baseName(name))));
  if (stems.size > 1) return stems.size;
  let inside = 0;
  for (const key of folders.keys()) if (parentOf(key) === folder && ++inside > 1) break;
  return inside;
}
