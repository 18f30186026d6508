import type { SettingsDocument } from './document';
import { dialects, type Dialect } from './dialects';
import { pathId, type Edit } from './edits';
import { openSettings } from './openSettings';
import { checkValue, type KeyRule } from './values';

/** What a changed text of a settings file comes to. */
export interface TextChange {
  edits: Edit[];
  /** The file with these edits made: all that a deployment would write. */
  text: string;
  /** The text also differs in what belongs to no key: comments, blank lines, order. That stays as it is in the file. */
  other: boolean;
}

/**
 * Takes a text as the player wrote it as edits of single keys: a settings file is also written by the game, so that
 * never the whole file is put in its place.
 *
 * @throws SatchelError `bad-value` where a value cannot be put in by itself
 */
export function editsOfText(document: SettingsDocument, text: string, dialect: Dialect): TextChange {
  const last = (one: SettingsDocument) => new Map(one.entries().map(({ path }) => [pathId(path), path]));
  const wanted = openSettings(text, dialect);
  const now = last(document);
  const then = last(wanted);
  const edits: Edit[] = [];
  for (const [key, path] of then) {
    const value = wanted.get(path);
    if (value !== undefined && (!now.has(key) || document.get(path) !== value)) edits.push({ path, value });
  }
  for (const [key, path] of now) if (!then.has(key) && wanted.get(path) === undefined) edits.push({ path });
  let changed = document;
  for (const { path, value } of edits) changed = value === undefined ? changed.remove(path) : changed.set(path, value);
  return { edits, text: changed.text, other: changed.text.replaceAll('\r\n', '\n') !== text.replaceAll('\r\n', '\n') };
}

/** A line that the game would not understand, or not as it looks. */
export interface LineMark {
  /** Counted from 1. */
  line: number;
  level: 'wrong' | 'note';
  says: string;
}

/** At most so many are given. */
const MOST_MARKS = 500;

const INDENTED = 'A blank stands before the key; many games do not find it then. It should begin at the first column.';
/** Comments and headings of sections. */
const OTHER_LINES = /^\s*([;#]|\/\/|\[.*\]\s*$)/;

/**
 * Looks for lines that would not work: blanks at the start of a line, a key without a value, lines that are none,
 * values out of range; and keys that the card does not know, as notes.
 *
 * @param known what the card says of keys, by path joined with line breaks, in small letters
 */
export function markLines(text: string, dialect: Dialect, known: ReadonlyMap<string, KeyRule>): LineMark[] {
  const marks: LineMark[] = [];
  const document = openSettings(text, dialect);
  const taken = new Set<number>();
  const put = (line: number, level: LineMark['level'], says: string) => {
    if (marks.length < MOST_MARKS) marks.push({ line, level, says });
  };
  const { lines } = dialects[dialect];
  for (const { path, value, line } of document.entries()) {
    taken.add(line);
    const rule = known.get(path.join('\n').toLowerCase());
    const wrong = rule && checkValue(rule, value);
    if (wrong) put(line, 'wrong', `“${value}” does not fit: ${wrong}.`);
    else if (!rule && known.size > 0) put(line, 'note', `“${path.join(' › ')}” is unknown to this game’s card.`);
    if (lines && value === '') put(line, 'wrong', `“${path.at(-1)}” has no value.`);
  }
  if (lines)
    text.split(/\r\n|\n|\r/).forEach((whole, i) => {
      const line = i + 1;
      if (whole.trim() === '') return;
      if (/^[ \t]/.test(whole) && taken.has(line) && !lines.indented) put(line, 'wrong', INDENTED);
      const belongs = OTHER_LINES.test(whole) || whole.startsWith('\ufeff') || lines.heading?.test(whole);
      if (!taken.has(line) && !belongs) put(line, 'wrong', lines.stray);
    });
  return marks.sort((a, b) => a.line - b.line);
}
