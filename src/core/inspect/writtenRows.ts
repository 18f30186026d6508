import { onceFor } from '../once';
import { nameKey } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';
import { isWellFormed, openSettings } from '../settings/openSettings';
import { bareKey } from './keyIndex';
import { MOST_ENTRIES, isPluralOf } from './listsInFiles';
import { isNoRequest } from './noRequest';
import type { ReadSoFar } from './readSoFar';

/** Things of one kind that a settings file describes: elements of one name beside each other, objects of a list. */
interface Rows {
  /** What they stand in. */
  above: readonly string[];
  /** Of elements: their name. */
  element: string | undefined;
  rows: Row[];
  /** The key by which one is told from the others. */
  id: string;
}

/** The keys of one thing, as they are compared, with their values; and where it stands. */
interface Row {
  path: readonly string[];
  values: ReadonlyMap<string, { key: string; value: string }>;
}

/** One as a text has it, with its place there. */
interface Written extends Omit<Row, 'path'> {
  element: string | undefined;
  at: number;
  length: number;
}

type Found = Rows & { file: number };

const MOST_WRITTEN = 60;
/** What things are called by. */
const CALLED = ['id', 'name', 'key', 'mod', 'file', 'folder', 'path', 'title'];

const ELEMENTS =
  /<([A-Za-z_][\w.-]*)(?:\s+[\w.:-]+\s*=\s*(?:"[^"<]*"|'[^'<]*'))+\s*(?:\/>|>(?:[^<>]{0,200}<\/\1>)?)|<([A-Za-z_][\w.-]*)>\s*(?:<([A-Za-z_][\w.-]*)>[^<>]*<\/\3>\s*){1,30}<\/\2>/g;
const OBJECTS = /\{[^{}[\]]{3,2000}\}/g;

const ITEMS = /^([ \t]*)- [\w.-]{1,60}:[ \t]+\S.*(?:\n\1[ \t]+[\w.-]{1,60}:[ \t]+\S.*)*/gm;

/** Something comes in place of something else. */
const REPLACES =
  /(?<!\p{L})(?:replac|chang|turn|becom|instead|swap|ersetz|änder|statt|sustitu|reempla|cambi|remplac)|->|=>|→/iu;

/**
 * Reads things that are written as the file has others of their kind: `<ship id="tug" cost="9"/>`, `{ "id": "tug" }`,
 * `- id: tug`. One that is called as none of them is comes to them; of one that is there the values are set.
 *
 * @param text without what is told of going back
 * @param known gets what is asked for
 * @returns the text without them, as long as it was
 */
export function writtenRows(text: string, known: ReadSoFar): string {
  if (!/[<{]|^[ \t]*- [\w.-]+:/m.test(text)) return text;
  const all = known.index.files.flatMap(({ document }, file) => rowsOf(document).map((rows) => ({ ...rows, file })));
  if (all.length === 0) return text;
  const reader = new RowReader(text, known);
  let rest = text;
  for (const written of writtenIn(text)) {
    const { at, length } = written;
    const rows = rowsFor(written, all, text.slice(0, at), known);
    if (!rows) continue;
    rest = rest.slice(0, at) + rest.slice(at, at + length).replace(/[^\n]/g, ' ') + rest.slice(at + length);
    if (!isRefused(text, written)) reader.take(written, rows);
  }
  return rest;
}

/** Takes one after the other: one may come in place of the one before it. */
class RowReader {
  private readonly more = new Map<string, number>();
  /** The last one that the file has just so. */
  private before: { rows: Found; row: Row; end: number } | undefined;

  constructor(
    private readonly text: string,
    private readonly known: ReadSoFar,
  ) {}

  take(written: Written, rows: Found): void {
    const { at, length, values } = written;
    const id = values.get(rows.id)?.value ?? '';
    const called = rows.rows.find((row) => nameKey(row.values.get(rows.id)?.value ?? '') === nameKey(id));
    const isThere = called && [...values].every(([key, one]) => called.values.get(key)?.value === one.value);
    const row = called ?? this.replacedBy(written, rows) ?? nextRow(rows, id, this.more);
    this.before = isThere ? { rows, row, end: at + length } : undefined;
    if (!isThere) ask(written, { rows, row, line: this.text.slice(0, at).split('\n').length }, this.known);
  }

  /** “Replace `<a id="x"/>` with `<a id="y"/>`”: the one that goes. */
  private replacedBy({ at }: Written, rows: Found): Row | undefined {
    const { before, text } = this;
    if (before?.rows !== rows) return undefined;
    const said = text.slice(Math.max(0, text.lastIndexOf('\n\n', before.end - 1)), at);
    return REPLACES.test(said) ? before.row : undefined;
  }
}

/** Is it forbidden, left to the reader, or told of something else? */
function isRefused(text: string, { at, length }: Written): boolean {
  const before = text.slice(Math.max(0, at - 400), at);
  const from = Math.max(
    0,
    ...[...before.matchAll(/[.!?]\s|\n\s*\n|\n(?=\s*(?:[-*•]|\d+[.)])\s)/g)].map((end) => end.index + 1),
  );
  const sentence = before.slice(from).trimStart().replaceAll('\n', ' ');
  const rest = /^[^\n.!?]{0,200}/.exec(text.slice(at + length))?.[0] ?? '';
  return isNoRequest(`${sentence}x${rest}`, sentence.length, 1);
}

/** Those that one belongs to: all its keys are keys of theirs; of several, where the text spoke of the file last. */
function rowsFor(written: Written, all: readonly Found[], before: string, known: ReadSoFar): Found | undefined {
  const found = all.filter(
    ({ element, rows, id }) =>
      (element === undefined) === (written.element === undefined) &&
      bareKey(element ?? '') === bareKey(written.element ?? '') &&
      written.values.has(id) &&
      [...written.values.keys()].every((key) => rows.some(({ values }) => values.has(key))),
  );
  if (found.length < 2) return found[0];
  const low = nameKey(before);
  const last = (one: Found) => low.lastIndexOf(known.index.files[one.file]?.name ?? '\n');
  const latest = Math.max(...found.map(last));
  const spoken = latest < 0 ? found : found.filter((one) => last(one) === latest);
  return spoken.length === 1 ? spoken[0] : undefined;
}

/** Where one more comes to stand. */
function nextRow({ above, element, rows, file }: Found, called: string, more: Map<string, number>): Row {
  const id = [file, ...above, element].join('\n');
  const one = `${id}\n${nameKey(called)}`;
  const extra = more.get(one) ?? (more.get(id) ?? 0) + 1;
  more.set(one, extra);
  more.set(id, Math.max(extra, more.get(id) ?? 0));
  return { path: [...above, nameOf(element, rows.length + extra - 1, firstOf(rows))], values: new Map() };
}

/** Its values, where they are not so already. */
function ask({ values }: Written, to: { rows: Found; row: Row; line: number }, known: ReadSoFar): void {
  const { file: index } = to.rows;
  const target = known.index.files[index]?.target;
  // An element that has attributes already gets no text any more: that comes first.
  const ordered = [...values].sort(([a], [b]) => Number(a !== '') - Number(b !== ''));
  for (const [name, { key, value }] of ordered) {
    const has = to.row.values.get(name);
    if (!target || has?.value === value) continue;
    const like = has ?? to.rows.rows.map((row) => row.values.get(name)).find((one) => one !== undefined);
    const path = name === '' ? [...to.row.path] : [...to.row.path, like?.key ?? key];
    known.found.push({
      kind: 'key',
      file: target,
      path,
      value,
      line: to.line,
      ...(has ? { now: has.value } : {}),
    });
  }
}

function writtenIn(text: string): Written[] {
  const pieces = [
    ...[...text.matchAll(ELEMENTS)].map((found) => ({ found, form: 'xml' as const })),
    ...[...text.matchAll(OBJECTS)].map((found) => ({ found, form: 'json' as const })),
    ...[...text.matchAll(ITEMS)].map((found) => ({ found, form: 'yaml' as const })),
  ].slice(0, MOST_WRITTEN);
  return pieces
    .sort((a, b) => a.found.index - b.found.index)
    .flatMap(({ found: [whole, name, other], found: { index: at }, form }) => {
      const values: Keyed = new Map();
      // `{ file = "reel.ogg" }` is a block without a name.
      const isBlock = form === 'json' && !isWellFormed(whole, 'json');
      const document = isBlock ? openSettings(`block ${whole}`, 'blocks') : openSettings(whole, form);
      for (const { path, value } of document.entries()) {
        const [key = '', more] = form === 'json' && !isBlock ? path : path.slice(1);
        if (more === undefined && (key !== '' || form === 'xml')) values.set(bareKey(key), { key, value });
      }
      return values.size === 0 ? [] : [{ element: name ?? other, values, at, length: whole.length, form }];
    })
    .map(({ form, element, ...one }) => ({ ...one, element: form === 'xml' ? element : undefined }));
}

/** All that a document describes as things of one kind. */
const rowsOf = onceFor((document: SettingsDocument): readonly Rows[] => {
  const isXml = /^\ufeff?\s*</.test(document.text);
  const groups = new Map<string, { above: string[]; element: string | undefined; rows: Map<string, Keyed> }>();
  for (const { path, value } of document.entries().slice(0, MOST_ENTRIES)) {
    const [key = '', row = ''] = [path.at(-1), path.at(-2)];
    const isRow = isXml ? path.length > 2 && !row.startsWith('@') : /^\d+$/.test(row) && !/^\d+$/.test(key);
    if (!isRow) continue;
    const above = path.slice(0, -2);
    const element = isXml ? row.replace(/#\d+$/, '') : undefined;
    const id = [...above, element].join('\n');
    const group = groups.get(id) ?? { above, element, rows: new Map<string, Keyed>() };
    groups.set(id, group);
    const values = group.rows.get(row) ?? (new Map() as Keyed);
    group.rows.set(row, values.set(bareKey(key), { key, value }));
  }
  return [...groups.values()].flatMap(({ above, element, rows: byName }) => {
    const rows = [...byName].map(([name, values]) => {
      // The text of an element with attributes.
      const text = isXml ? document.get([...above, name]) : undefined;
      return { path: [...above, name], values: text === undefined ? values : values.set('', { key: '', value: text }) };
    });
    const id = idOf(rows);
    const first = firstOf(rows);
    // Sections that bear numbers are another thing.
    const isCounted =
      rows.every(({ path }, i) => path.at(-1) === nameOf(element, i, first)) && (first === 0 || above.length > 0);
    const isList =
      rows.length > 1 || element === undefined || isPluralOf(bareKey(above.at(-1) ?? ''), nameKey(element));
    return id !== undefined && isCounted && isList ? [{ above, element, rows, id }] : [];
  });
});

type Keyed = Map<string, { key: string; value: string }>;
/** Some forms count from 0, others from 1. */
const firstOf = (rows: readonly Row[]): number => (rows[0]?.path.at(-1) === '1' ? 1 : 0);
const nameOf = (element: string | undefined, i: number, first: number): string =>
  element === undefined ? String(first + i) : i === 0 ? element : `${element}#${i + 1}`;

/** The key by which each is told from the others: one that has another value in each. */
function idOf(rows: readonly Row[]): string | undefined {
  const [first] = rows;
  const keys = [...(first?.values.keys() ?? [])].filter((key) => {
    const said = rows.map(({ values }) => values.get(key)?.value);
    return !said.includes(undefined) && new Set(said).size === rows.length;
  });
  const isText = (key: string) => rows.every(({ values }) => !/^-?[\d.]*$/.test(values.get(key)?.value ?? ''));
  return CALLED.find((key) => keys.includes(key)) ?? (rows.length > 1 ? keys.find(isText) : undefined);
}
