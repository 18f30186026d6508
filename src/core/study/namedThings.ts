import { bracketed, separatorOf } from '../inspect/listedNames';
import { namesOf } from '../inspect/listsInFiles';
import { foldersInEach, type GameTree } from '../names/gameTree';
import { onceFor } from '../once';
import { nameKey, parentOf, stemOf } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';
import { listItems } from '../settings/listValues';

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
  items: readonly string[];
  isList: boolean;
}

/** The values of a document, those of a list together. */
function valuesOf(document: SettingsDocument): Values[] {
  const names = namesOf(document).map(({ path, names: items }) => ({ path: [...path], items, isList: true }));
  const inNames = new Set(names.map(({ path }) => path.join('\n')));
  const lists = new Map<string, { path: string[]; items: string[]; isList: true }>();
  const singles: Values[] = [];
  const entries = document.entries().slice(0, MOST_ENTRIES);
  // The first of several elements bears no number.
  const several = new Set(entries.map(({ path }) => path.join('\n')).filter((id) => id.endsWith('#2')));
  for (const { path, value } of entries) {
    const [above, last] = [path.slice(0, -1), path.at(-1) ?? ''];
    const id = above.join('\n');
    if (inNames.has(id)) continue;
    const isItem = /^\d+$|#\d+$/.test(last) || several.has(`${path.join('\n')}#2`);
    const list = lists.get(id) ?? { path: above, items: [], isList: true };
    if (isItem) lists.set(id, list);
    if (isItem) list.items.push(value.replace(/^"(.*)"$/, '$1'));
    else singles.push({ path, ...itemsIn(value.replace(/^"(.*)"$/, '$1')) });
  }
  return [...names, ...lists.values(), ...singles];
}

/** `kit, ned`, `["kit"]`, or one name. */
function itemsIn(value: string): Pick<Values, 'items' | 'isList'> {
  const held = bracketed(value, (item) => item);
  const sign = separatorOf(value);
  if (held) return { items: [...held], isList: true };
  return sign === undefined ? { items: [value], isList: false } : { items: listItems(value, sign), isList: true };
}

/** The folder in which all of them lie; a single one has to be one of several there, and nowhere else. */
function homeOf(items: readonly string[], tree: GameTree, isList: boolean): string | undefined {
  const [first, ...others] = items.map((item) => homesOf(item, tree));
  const homes = [...(first ?? [])].filter((home) => others.every((some) => some.has(home)));
  const [only, other] = homes;
  if (only === undefined || !only.includes('/') || (other !== undefined && !isList)) return undefined;
  return isList || hasSeveral(only, tree) ? tree.folders.get(only) : undefined;
}

const homesOf = (item: string, tree: GameTree): Set<string> =>
  new Set([...(tree.foldersByName.get(item) ?? []).map(parentOf), ...(foldersOfStem(tree).get(item) ?? [])]);

const foldersOfStem = onceFor((tree: GameTree): ReadonlyMap<string, ReadonlySet<string>> => {
  const found = new Map<string, Set<string>>();
  for (const [name, folders] of tree.foldersOfFile) {
    const known = found.get(stemOf(name)) ?? new Set<string>();
    found.set(stemOf(name), known);
    for (const folder of typeof folders === 'string' ? [folders] : folders) known.add(folder);
  }
  return found;
});

/** Lie several things in a folder: folders, or files of different names? */
const hasSeveral = (folder: string, tree: GameTree): boolean =>
  (foldersInEach(tree).get(folder) ?? 0) > 1 ||
  new Set([...(tree.files.get(folder)?.keys() ?? [])].map((name) => stemOf(name))).size > 1;
