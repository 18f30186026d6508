import { once, onceFor } from '../once';
import type { SettingsDocument, SettingsEntry } from '../settings/document';

/** More of a file's values are not looked at. */
export const MOST_ENTRIES = 20_000;

/** A file, or a block of one, that holds nothing but names. */
export interface NameList {
  file: number;
  /** Of the block; empty where it is the whole file. */
  path: readonly string[];
  names: readonly string[];
}

/** Where a document holds nothing but names: the whole of it, or blocks, by their paths. */
export const namesOf = onceFor((document: SettingsDocument): readonly Omit<NameList, 'file'>[] => {
  const lists = new Map<string, { path: string[]; names: string[] } | undefined>();
  const lines = once(() => document.text.split(/\r\n|\n|\r/));
  for (const { path, value, line } of document.entries().slice(0, MOST_ENTRIES)) {
    const above = path.slice(0, -1);
    const name = path.at(-1) as string;
    const id = above.join('\n');
    const list = lists.has(id) ? lists.get(id) : { path: above, names: [] };
    // A sign behind it makes it a key that is still empty.
    const isKey = value !== '' || (above.length > 0 && hasSign(lines()[line - 1] ?? '', name));
    if (!isKey) list?.names.push(name);
    lists.set(id, isKey ? undefined : list);
    // What holds a block holds more than names.
    if (above.length > 0) lists.set(above.slice(0, -1).join('\n'), undefined);
  }
  return [...lists.values()].filter((list) => list !== undefined);
});

const hasSign = (line: string, name: string): boolean =>
  /^["']?\s*[=:]/.test(line.slice(line.indexOf(name) + name.length));

/**
 * The commands of a file: all words that they begin with, the same with what stands behind them, and the names of those
 * that stand there several times.
 */
export const commandsOf = onceFor((document: SettingsDocument) => {
  const words = new Set<string>();
  const named = new Set<string>();
  const lists = new Map<string, string[]>();
  const lines = document.text.split(/\r\n|\n|\r/);
  for (const { path, value, line } of document.entries()) {
    const [command, name, more] = path;
    if (command === undefined || name === undefined || more !== undefined) continue;
    const [first, second, rest] = (lines[line - 1] ?? '').trim().split(/\s+/, 3);
    // Other forms have a sign between the two.
    if (first !== command || second !== name) continue;
    words.add(command);
    named.add(`${command} ${name}`);
    if (value !== '' || rest !== undefined) continue;
    const names = lists.get(command);
    if (names) names.push(name);
    else lists.set(command, [name]);
  }
  for (const [command, names] of lists) if (names.length < 2) lists.delete(command);
  return { words, named, lists };
});

/** Keys of a file with nothing but blanks between them and their one value: `weather drizzle`. */
export const plainKeysOf = onceFor((document: SettingsDocument): ReadonlySet<string> => {
  const lines = document.text.split(/\r\n|\n|\r/);
  const isPlain = ({ path: [key, more], value, line }: SettingsEntry) =>
    more === undefined && (lines[line - 1] ?? '').trim().split(/\s+/).join(' ') === `${key} ${value}`;
  return new Set(
    document
      .entries()
      .filter(isPlain)
      .map(({ path }) => path[0] as string),
  );
});

/** Is a document nothing but a list: `["base", "weather"]`? */
export const isList = onceFor((document: SettingsDocument) => /^\s*\[\s*"/.test(document.text.slice(0, 200)));

/** Holds a key an empty list of its form, to which items can come, and no text `[]`? */
export const isEmptyList = (document: SettingsDocument, { value }: Pick<SettingsEntry, 'value'>): boolean =>
  EMPTY.test(value) && hasLists(document);
const EMPTY = /^\[\s*\]$/;

/** Tried once, at the first of them: all of one file are of one form. */
const hasLists = onceFor((document: SettingsDocument): boolean => {
  const { path, value } = document.entries().find((entry) => EMPTY.test(entry.value)) ?? {};
  if (path === undefined) return false;
  try {
    const filled = document.set([...path, '0'], 'x');
    return filled.get([...path, '0']) === 'x' && ![value, 'x'].includes(filled.get(path) ?? '');
  } catch {
    return false;
  }
});

export const isPluralOf = (name: string, one: string): boolean =>
  [`${one}s`, `${one}es`, one.replace(/y$/, 'ies')].includes(name) && name !== one;
