import { baseName, extensionOf, isUnder, nameKey, parentOf, staysInside, type TargetPath } from '../paths/paths';
import type { Dialect } from '../settings/dialects';
import { dialectByName } from '../settings/dialects';
import { openSettings } from '../settings/openSettings';
import type { GameTree } from '../names/gameTree';
import type { SettingsDocument } from '../settings/document';
import { kindOf } from '../media/kinds';
import { NamesInGame } from './namesInGame';
import { arePairs, dialectOf } from './settingsText';
import type { Family } from '../names/families';
import type { Knowledge } from '../names/knowledge';

/** A settings file that the study found. */
export interface FoundSettings {
  target: TargetPath;
  dialect: Dialect;
  title: string;
  document?: SettingsDocument;
}

/** Larger files are not read, in bytes: of them an ending says that they are settings, or they are data. */
const LARGEST = 512 * 1024;
const LARGEST_BY_NAME = 32 * 1024 * 1024;
/** So many texts are read at most: those near the top first. */
export const MOST_READ = 400;
/** In one folder with more files of an ending than this, they are contents of the game. */
const MANY = 12;

const SETTINGS_NAME =
  /(?:settings?|options?|config(?:uration)?|prefs?|preferences|controls|keys|launch|startup|user|game|engine|profile)/i;
/** A name that settings have and nothing else. */
const SURELY_SETTINGS = /(?:settings?|options?|config(?:uration)?|prefs?|preferences)|\.(?:conf|cfg|config|opts?|rc)$/i;
const NO_SETTINGS = new Set(['log', 'md', 'htm', 'html', 'pdf']);
const NOT_TEXT = new Set(['picture', 'texture', 'sound', 'model', 'archive', 'program']);

/**
 * How soon a file is to be read, the lower the sooner; undefined for one of many that no word speaks for.
 *
 * @param many there are many of its ending in its folder
 */
function rankOf(target: string, named: ReadonlySet<string>, many: boolean): number | undefined {
  const name = baseName(target);
  if (named.has(nameKey(name))) return 0;
  const worded = SETTINGS_NAME.test(name);
  if (many && !worded) return undefined;
  const known = worded || dialectByName(target) !== undefined;
  return target.split('/').length + (known ? 0 : 3) + (many ? 20 : 0);
}

/**
 * Files whose text could be settings: small, near the top, not one of many. The likeliest first; those too large to be
 * read by themselves.
 *
 * @param named names of files of which read-mes speak, in small letters
 */
export function settingsCandidates(
  files: Iterable<{ target: string; size: number }>,
  { homes }: Knowledge,
  named: ReadonlySet<string> = new Set(),
): { read: string[]; large: string[] } {
  const found: { target: string; rank: number }[] = [];
  const large: string[] = [];
  let folder = '';
  let key = '';
  for (const { target, size } of files) {
    if (size > LARGEST && size < LARGEST_BY_NAME && dialectByName(target) === 'ini') large.push(target);
    const ending = extensionOf(target);
    if (size === 0 || size > LARGEST || NOT_TEXT.has(kindOf(target)) || NO_SETTINGS.has(ending)) continue;
    // Neighbours mostly lie in one folder.
    const cut = target.lastIndexOf('/');
    if (cut !== folder.length || !target.startsWith(folder)) {
      folder = target.slice(0, cut);
      key = nameKey(folder);
    }
    const rank = rankOf(target, named, (homes.get(ending)?.get(key) ?? 0) > MANY);
    if (rank !== undefined) found.push({ target, rank });
  }
  return {
    read: found
      .sort((a, b) => a.rank - b.rank || (a.target < b.target ? -1 : 1))
      .slice(0, MOST_READ)
      .map(({ target }) => target),
    large: large.sort().slice(0, 20),
  };
}

/** Which of the texts are settings files, in which form, and what they are called where two share a name. */
export function settingsFrom(
  texts: ReadonlyMap<string, string>,
  unread: readonly string[],
  { knowledge, tree }: { knowledge: Knowledge; tree: GameTree },
  named: ReadonlySet<string> = new Set(),
): FoundSettings[] {
  const found: FoundSettings[] = [];
  const names = new NamesInGame(tree);
  for (const [target, text] of texts) {
    if (!staysInside(target)) continue;
    const { dialect, isSure } = formOf(target, text, names);
    if (dialect === undefined) continue;
    if (!isSure && !named.has(nameKey(baseName(target))) && isContents(target, dialect, knowledge)) continue;
    const document = openSettings(text, dialect);
    const entries = document.entries();
    if (entries.length === 0 || entries.length > 20_000) continue;
    found.push({ target, dialect, title: baseName(target), document });
  }
  dropData(found, named);
  // Without their texts only names speak: an INI ending is the surest of them.
  for (const target of unread)
    if (dialectByName(target) === 'ini' && staysInside(target))
      found.push({ target, dialect: 'ini', title: baseName(target) });
  const titles = new Map<string, number>();
  for (const { title } of found) titles.set(nameKey(title), (titles.get(nameKey(title)) ?? 0) + 1);
  return found.map((file) =>
    (titles.get(nameKey(file.title)) ?? 0) > 1
      ? { ...file, title: `${file.title} (${baseName(parentOf(file.target))})`.slice(0, 80) }
      : file,
  );
}

/** Its dialect; sure where it only lists names of the game's own things. */
function formOf(target: string, text: string, names: NamesInGame): { dialect: Dialect | undefined; isSure: boolean } {
  const dialect = dialectOf(text, (word) => word !== '' && names.has(word));
  if (dialect !== undefined) return { dialect, isSure: false };
  const isSure = names.areListed(baseName(target), text);
  // A command is one word.
  if (isSure) return { dialect: /^[ \t]*[^\s#;/].*\S[ \t]+\S/m.test(text) ? 'names' : 'commands', isSure };
  return { dialect: SURELY_SETTINGS.test(baseName(target)) && arePairs(text) ? 'commands' : undefined, isSure };
}

/** Of two files' keys so many are the same: they are records of one kind. */
const SAME_KEYS = 0.6;

/**
 * Files of one ending beside each other with the same keys are data of things (a goat, a hen), as long as no name says
 * that they are settings.
 */
function dropData(found: FoundSettings[], named: ReadonlySet<string>): void {
  const beside = new Map<string, FoundSettings[]>();
  for (const file of found) {
    const name = baseName(file.target);
    if (
      SETTINGS_NAME.test(name) ||
      named.has(nameKey(name)) ||
      dialectByName(file.target) !== undefined ||
      file.target.split('/').length < 3
    )
      continue;
    const key = `${nameKey(parentOf(file.target))}\n${extensionOf(file.target)}`;
    beside.set(key, [...(beside.get(key) ?? []), file]);
  }
  for (const files of beside.values()) {
    const keys = files.map(({ document }) => new Set(document?.entries().map(({ path }) => nameKey(path.join('\n')))));
    const [first] = keys;
    if (files.length < 2 || !first) continue;
    const alike = keys.every(
      (one) => [...one].filter((key) => first.has(key)).length >= Math.max(one.size, first.size) * SAME_KEYS,
    );
    if (alike) for (const file of files) found.splice(found.indexOf(file), 1);
  }
}

/**
 * The kind of thing that a file holds the values of: each of them has one of this name. It belongs to the thing, in the
 * game's own folder.
 */
export const thingOf = (target: string, { familyOf }: Knowledge, root: string): Family | undefined => {
  const family = isUnder(target, root) ? familyOf.get(nameKey(parentOf(target))) : undefined;
  return family?.core.has(`F:${nameKey(baseName(target))}`) ? family : undefined;
};

/** Data that the game has many of beside each other: a recipe, a quest, a language. */
function isContents(target: string, dialect: Dialect, { homes }: Knowledge): boolean {
  const many = homes.get(extensionOf(target))?.get(nameKey(parentOf(target))) ?? 0;
  if (dialect === 'language') return many < 1;
  return many >= 3 && !/(?:settings?|options?|config|prefs?|preferences|\.ini$|\.cfg$)/i.test(baseName(target));
}

const NAMES = 'It names folders in ';
/** What a card says of a key whose values are folders of the game. */
export const namesFoldersIn = (folder: string): string => `${NAMES}“${baseName(folder)}”.`;
export const isNamingKey = (meaning: string): boolean => meaning.startsWith(NAMES);

/** Numbered sections of a settings file, and the key in them that names a folder of the game. */
interface NumberedFound {
  section: string;
  first: number;
  key?: string;
  inside?: string;
}

/** Finds sections `[stem 1]`, `[stem 2]`, and which of their keys names folders. */
export function numberedIn({ target, document }: FoundSettings, tree: GameTree): NumberedFound | undefined {
  if (!document) return undefined;
  const stems = new Map<string, { numbers: Set<number>; values: Map<string, string[]> }>();
  for (const { path, value } of document.entries()) {
    const fit = path.length === 2 ? /^(.*?\S)[ .:_-]*(\d{1,4})$/.exec(path[0] as string) : null;
    if (!fit) continue;
    const stem = fit[1] as string;
    const known = stems.get(stem) ?? { numbers: new Set<number>(), values: new Map<string, string[]>() };
    stems.set(stem, known);
    known.numbers.add(Number(fit[2]));
    known.values.set(path[1] as string, [...(known.values.get(path[1] as string) ?? []), value]);
  }
  const best = [...stems]
    .filter(([, { numbers }]) => numbers.size > 0)
    .sort((a, b) => b[1].numbers.size - a[1].numbers.size || (a[0] < b[0] ? -1 : 1))[0];
  if (!best) return undefined;
  const [section, { numbers, values }] = best;
  const made: NumberedFound = { section, first: Math.min(...numbers) };
  for (const [key, all] of values) {
    const homes = all.map((value) => (tree.foldersByName.get(nameKey(value.replaceAll('"', ''))) ?? []).map(parentOf));
    const inside = (homes[0] ?? []).find(
      (folder) =>
        homes.every((some) => some.includes(folder)) &&
        (isUnder(nameKey(folder), nameKey(parentOf(target))) || homes.length > 1),
    );
    if (inside !== undefined && inside.includes('/') && tree.folders.has(inside))
      return { ...made, key, inside: tree.folders.get(inside) as string };
  }
  return made;
}

/** Where a game looks for files, in order: a key that stands several times and always names a folder of one root. */
interface SearchFound {
  path: string[];
  root: string;
  /** The word before a folder that stands for every folder inside it. */
  each?: string;
}

/** Finds a search order in a settings file. */
export function searchOrderIn(
  { document }: FoundSettings,
  { folders }: GameTree,
  roots: readonly { id: string }[],
): SearchFound | undefined {
  if (!document) return undefined;
  const groups = new Map<string, { path: string[]; values: string[] }>();
  for (const { path, value } of document.entries().slice(0, 3000)) {
    const bare = path.map((name) => name.replace(/#\d+$/, ''));
    const known = groups.get(bare.join('\n')) ?? { path: bare, values: [] };
    groups.set(bare.join('\n'), known);
    known.values.push(value);
  }
  for (const { path, values } of groups.values()) {
    if (values.length < 2 || values.length > 100) continue;
    const split = values.map((value) => /^(?:(\p{L}{1,20})\s+)?"?([^"]+?)"?$/u.exec(value.trim()));
    const words = new Set(split.flatMap((one) => (one?.[1] === undefined ? [] : [one[1]])));
    const [each] = words;
    if (words.size > 1 || split.some((one) => !one)) continue;
    const names = split.map((one) =>
      nameKey((one?.[2] ?? '').replaceAll('\\', '/').replace(/^\.\//, '').replace(/\/+$/, '')),
    );
    const root = roots.find(({ id }) => names.every((name) => folders.has(`${nameKey(id)}/${name}`)));
    if (root) return { path, root: root.id, ...(each === undefined ? {} : { each }) };
  }
  return undefined;
}

const itemOf = (written: string): string =>
  nameKey(written.trim().replaceAll('"', '').replaceAll('\\', '/').replace(/\/+$/, ''));

const canBeFolders = (items: readonly string[]): boolean =>
  items.length > 0 && items.length <= 50 && items.every((item) => item.length <= 120 && /\p{L}/u.test(item));

/** The folder of the game in which all of them are folders; none of its roots. */
function homeOfAll(items: readonly string[], tree: GameTree): string | undefined {
  const [first = [], ...others] = items.map((item) =>
    (tree.foldersByName.get(baseName(item)) ?? [])
      .filter((folder) => `/${folder}`.endsWith(`/${item}`))
      .map((folder) => folder.slice(0, Math.max(0, folder.length - item.length - 1))),
  );
  const home = first.find((one) => others.every((some) => some.includes(one)));
  return home?.includes('/') && tree.folders.has(home) ? home : undefined;
}

/** Keys that name folders of the game, one by one or as a list. */
export function namingKeys(
  { document }: FoundSettings,
  tree: GameTree,
): { path: string[]; list?: string; folder: string }[] {
  const found: { path: string[]; list?: string; folder: string }[] = [];
  if (!document) return found;
  for (const { path, value } of document.entries().slice(0, 3000)) {
    const list = [',', ';', '|', ':'].find((one) => value.includes(one));
    const items = (list === undefined ? [value] : value.split(list)).map(itemOf).filter((item) => item !== '');
    if (!canBeFolders(items)) continue;
    const folder = homeOfAll(items, tree);
    // A single name has to be that of one folder only.
    const isPlain = list !== undefined || (tree.foldersByName.get(items[0] as string)?.length ?? 0) === 1;
    if (folder !== undefined && isPlain)
      found.push({ path, ...(list === undefined ? {} : { list }), folder: tree.folders.get(folder) as string });
  }
  return found;
}
