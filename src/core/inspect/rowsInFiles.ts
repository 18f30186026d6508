import { onceFor } from '../once';
import { nameKey } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';
import { bareKey } from './keyIndex';
import { MOST_ENTRIES, isPluralOf } from './listsInFiles';

/** Things of one kind that a settings file describes: elements of one name beside each other, objects of a list. */
export interface Rows {
  /** What they stand in. */
  above: readonly string[];
  /** Of elements: their name. */
  element: string | undefined;
  rows: Row[];
  /** The key by which one is told from the others; '' for their text. */
  id: string;
}

/** One of them: where it stands, and its values by their keys as they are compared. */
export interface Row {
  path: readonly string[];
  values: Keyed;
}

export type Keyed = Map<string, { key: string; value: string }>;

/** What things are called by. */
const CALLED = ['id', 'name', 'key', 'mod', 'file', 'folder', 'path', 'title'];

type Group = Pick<Rows, 'above' | 'element'> & { rows: Map<string, Keyed> };

/** All that a document describes as things of one kind. */
export const rowsOf = onceFor((document: SettingsDocument): readonly Rows[] => {
  const groups = /^\ufeff?\s*</.test(document.text) ? elementsOf(document) : objectsOf(document);
  return groups.flatMap(({ above, element, rows: byName }) => {
    const rows = [...byName].map(([name, values]) => ({ path: [...above, name], values }));
    const id = idOf(rows);
    const first = firstOf(rows);
    const isCounted = rows.every(({ path }, i) => path.at(-1) === nameOf(element, i, first));
    // Sections that bear numbers are another thing.
    const isNumbered = first > 0 && above.length === 0;
    const isList =
      rows.length > 1 || element === undefined || isPluralOf(bareKey(above.at(-1) ?? ''), nameKey(element));
    return id !== undefined && isCounted && !isNumbered && isList ? [{ above, element, rows, id }] : [];
  });
});

/** Some forms count from 0, others from 1. */
export const firstOf = (rows: readonly Row[]): number => (rows[0]?.path.at(-1) === '1' ? 1 : 0);

/** What the one of a number is called, counted from 0. @param first the number of the first one in the file */
export const nameOf = (element: string | undefined, i: number, first: number): string =>
  element === undefined ? String(first + i) : i === 0 ? element : `${element}#${i + 1}`;

function put(
  groups: Map<string, Group>,
  path: readonly string[],
  { key, value }: { key: string; value: string },
  element?: string,
): void {
  const [above, name] = [path.slice(0, -1), path.at(-1) as string];
  const id = [...above, element].join('\n');
  const group = groups.get(id) ?? { above, element, rows: new Map<string, Keyed>() };
  groups.set(id, group);
  const values: Keyed = group.rows.get(name) ?? (new Map() as Keyed);
  group.rows.set(name, values.set(bareKey(key), { key, value }));
}

/** Objects in lists. */
function objectsOf(document: SettingsDocument): Group[] {
  const groups = new Map<string, Group>();
  for (const { path, value } of document.entries().slice(0, MOST_ENTRIES)) {
    const [key = '', row = ''] = [path.at(-1), path.at(-2)];
    if (/^\d+$/.test(row) && !/^\d+$/.test(key)) put(groups, path.slice(0, -1), { key, value });
  }
  return [...groups.values()];
}

/** Elements with attributes, with elements in them, or with nothing but a text: `<mod>salt</mod>`. */
function elementsOf(document: SettingsDocument): Group[] {
  const groups = new Map<string, Group>();
  const bare = (path: readonly string[]) => (path.at(-1) ?? '').replace(/#\d+$/, '');
  for (const { path, value } of document.entries().slice(0, MOST_ENTRIES)) {
    const [above, key = ''] = [path.slice(0, -1), path.at(-1)];
    if (above.length > 1) put(groups, above, { key, value }, bare(above));
    if (above.length > 0 && !key.startsWith('@')) put(groups, path, { key: '', value }, bare(path));
  }
  return [...groups.values()];
}

/** The key by which each is told from the others: one that has another value in each. */
function idOf(rows: readonly Row[]): string | undefined {
  const [first] = rows;
  const keys = [...(first?.values.keys() ?? [])].filter((key) => {
    const said = rows.map(({ values }) => values.get(key)?.value);
    return !said.includes(undefined) && new Set(said).size === rows.length;
  });
  const isText = (key: string) => rows.every(({ values }) => !/^-?[\d.]*$/.test(values.get(key)?.value ?? ''));
  const isPlain = first?.values.size === 1 && keys[0] === '';
  return CALLED.find((key) => keys.includes(key)) ?? (rows.length > 1 || isPlain ? keys.find(isText) : undefined);
}
