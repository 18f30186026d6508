import { nameKey } from '../paths/paths';
import { isWellFormed, openSettings } from '../settings/openSettings';
import { bareKey } from './keyIndex';
import { asksForALine } from './listedNames';
import { isNoRequest } from './noRequest';
import type { ReadSoFar } from './readSoFar';
import { firstOf, nameOf, rowsOf, type Keyed, type Row, type Rows } from './rowsInFiles';

/** One as a text has it, with its place there. */
interface Written extends Omit<Row, 'path'> {
  element: string | undefined;
  at: number;
  length: number;
}

type Found = Rows & { file: number };

const MOST_WRITTEN = 60;
const ELEMENTS =
  /<([A-Za-z_][\w.-]*)(?:\s+[\w.:-]+\s*=\s*(?:"[^"<]*"|'[^'<]*'))+\s*(?:\/>|>(?:[^<>]{0,200}<\/\1>)?)|<([A-Za-z_][\w.-]*)>\s*(?:<([A-Za-z_][\w.-]*)>[^<>]*<\/\3>\s*){1,30}<\/\2>|<([A-Za-z_][\w.-]*)>[^<>\n]{1,120}<\/\4>/g;
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
    const replaced = called ? undefined : this.replacedBy(written, rows);
    if (!called && !replaced && !this.isAskedFor(written, rows)) return;
    const row = called ?? replaced ?? nextRow(rows, id, this.more);
    this.before = isThere ? { rows, row, end: at + length } : undefined;
    if (!isThere) ask(written, { rows, row, line: this.text.slice(0, at).split('\n').length }, this.known);
  }

  /** An element with nothing but a text may only be spoken of: “it is said to hold `<fish>pike</fish>`”. */
  private isAskedFor({ at, length }: Written, rows: Found): boolean {
    const { text, before } = this;
    if (rows.id !== '') return true;
    const from = text.lastIndexOf('\n', at) + 1;
    const line = /^[^\n]*/.exec(text.slice(from))?.[0] ?? '';
    // “Below `<mod>salt</mod>` comes `<mod>grit</mod>`.”
    return line.trim().length === length || before?.rows === rows || asksForALine(line);
  }

  /** “Replace `<a id="x"/>` with `<a id="y"/>`”: the one that goes. */
  private replacedBy({ at }: Written, rows: Found): Row | undefined {
    const { before, text } = this;
    if (before?.rows !== rows) return undefined;
    const said = text.slice(Math.max(0, text.lastIndexOf('\n\n', before.end - 1)), at);
    return REPLACES.test(said) ? before.row : undefined;
  }
}

/** “Remove `<mod>salt</mod>`”: nothing that is to come. */
const GOES_AWAY = /(?<!\p{L})(?:remov|delet|eras|entfern|lösch|borra|quita|supprim|retir)\p{L}*(?!\p{L})[^<{]*$/iu;

/** Is it forbidden, left to the reader, or told of something else? */
function isRefused(text: string, { at, length }: Written): boolean {
  const before = text.slice(Math.max(0, at - 400), at);
  const from = Math.max(
    0,
    ...[...before.matchAll(/[.!?]\s|\n\s*\n|\n(?=\s*(?:[-*•]|\d+[.)])\s)/g)].map((end) => end.index + 1),
  );
  const sentence = before.slice(from).trimStart().replaceAll('\n', ' ');
  const rest = /^[^\n.!?]{0,200}/.exec(text.slice(at + length))?.[0] ?? '';
  return GOES_AWAY.test(sentence) || isNoRequest(`${sentence}x${rest}`, sentence.length, 1);
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
    .flatMap(({ found: [whole, ...names], found: { index: at }, form }) => {
      const values: Keyed = new Map();
      // `{ file = "reel.ogg" }` is a block without a name.
      const isBlock = form === 'json' && !isWellFormed(whole, 'json');
      const document = isBlock ? openSettings(`block ${whole}`, 'blocks') : openSettings(whole, form);
      for (const { path, value } of document.entries()) {
        const [key = '', more] = form === 'json' && !isBlock ? path : path.slice(1);
        if (more === undefined && (key !== '' || form === 'xml')) values.set(bareKey(key), { key, value });
      }
      return values.size === 0
        ? []
        : [{ element: names[0] ?? names[1] ?? names[3], values, at, length: whole.length, form }];
    })
    .map(({ form, element, ...one }) => ({ ...one, element: form === 'xml' ? element : undefined }));
}
