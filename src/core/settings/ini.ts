import { SatchelError } from '../errors';
import { once } from '../once';
import { applyEdits, type SettingsDocument, type SettingsEntry, type SettingsPath, type TextEdit } from './document';

interface Line {
  start: number;
  /** End of the line's text, before its line end. */
  end: number;
  /** Where the next line starts. */
  next: number;
  section: string | undefined;
  /** Set on lines that hold a key. */
  key?: string;
  valueStart: number;
  valueEnd: number;
  header: boolean;
}

const trimmed = (text: string, start: number, end: number): [number, number] => {
  while (start < end && /\s/.test(text[start] as string)) start++;
  while (end > start && /\s/.test(text[end - 1] as string)) end--;
  return [start, end];
};

/**
 * Splits into lines with offsets: sections `[name]`, keys `name = value`, comments with `;` or `#`, anything else kept
 * as it is.
 */
function scan(text: string, inlineComments: boolean): Line[] {
  const lines: Line[] = [];
  let section: string | undefined;
  const ends = /\r\n|\n|\r/g;
  for (let start = text.startsWith('\ufeff') ? 1 : 0; start < text.length;) {
    ends.lastIndex = start;
    const found = ends.exec(text);
    const end = found ? found.index : text.length;
    const next = found ? found.index + found[0].length : text.length;
    const line: Line = { start, end, next, section, valueStart: end, valueEnd: end, header: false };
    const [from, to] = trimmed(text, start, end);
    const first = text[from];
    if (first === '[' && text[to - 1] === ']') {
      section = text.slice(from + 1, to - 1).trim();
      line.section = section;
      line.header = true;
    } else if (from < to && first !== ';' && first !== '#') {
      const equals = text.indexOf('=', from);
      if (equals > from && equals < to) {
        const [keyStart, keyEnd] = trimmed(text, from, equals);
        [line.valueStart, line.valueEnd] = trimmed(
          text,
          equals + 1,
          inlineComments ? commentAt(text, equals + 1, end) : end,
        );
        line.key = text.slice(keyStart, keyEnd);
      }
    }
    lines.push(line);
    start = next;
  }
  return lines;
}

/**
 * Where lines from `first` to `last` begin to go. A last line without a line end takes the line end before them along.
 */
const beforeOf = (text: string, first: Line, last: Line): number =>
  last.next > last.end
    ? first.start
    : first.start - (/(\r\n|\n|\r)$/.exec(text.slice(Math.max(0, first.start - 2), first.start))?.[0].length ?? 0);

/** Where a comment behind a value begins: a blank and `;` or `#`, outside of quotes. */
function commentAt(text: string, start: number, end: number): number {
  let quoted = false;
  for (let at = start; at < end; at++) {
    const one = text[at] as string;
    if (one === '"') quoted = !quoted;
    else if (!quoted && (one === ';' || one === '#') && /\s/.test(text[at - 1] ?? '')) return at;
  }
  return end;
}

const keyOf = (section: string | undefined, key: string): string =>
  section === undefined ? key : `${section}\n${key}`;

const placeOf = (path: SettingsPath): [section: string | undefined, key: string] =>
  path.length > 1 ? [path[0], path[1] ?? ''] : [undefined, path[0] ?? ''];

/** The last line of each key, by its name as `fold` leaves it. */
const lastOf = (lines: readonly Line[], fold: (name: string) => string): ReadonlyMap<string, Line> =>
  new Map(lines.flatMap((line) => (line.key === undefined ? [] : [[fold(keyOf(line.section, line.key)), line]])));

/** A new key: after its section's last line that is not blank, at the first column, on a line of its own. */
function insertion(text: string, lines: readonly Line[], path: SettingsPath, value: string): TextEdit {
  const [section, key] = placeOf(path);
  const eol = /\r\n|\n|\r/.exec(text)?.[0] ?? '\n';
  const place =
    section === undefined
      ? lines.findLast((line) => line.section === undefined && line.key !== undefined)
      : lines.findLast((line) => line.header && (line.section ?? '').toLowerCase() === section.toLowerCase());
  if (section !== undefined && !place) {
    const gap = text === '' || text === '\ufeff' || /[\r\n]$/.test(text) ? '' : eol;
    return { offset: text.length, length: 0, content: `${gap}[${section}]${eol}${key}=${value}${eol}` };
  }
  if (!place) return { offset: text.startsWith('\ufeff') ? 1 : 0, length: 0, content: `${key}=${value}${eol}` };
  let last = place;
  for (let at = lines.indexOf(place) + 1; at < lines.length; at++) {
    const line = lines[at] as Line;
    if (line.header) break;
    const [from, to] = trimmed(text, line.start, line.end);
    if (from < to) last = line;
  }
  return last.next > last.end
    ? { offset: last.next, length: 0, content: `${key}=${value}${eol}` }
    : { offset: last.end, length: 0, content: `${eol}${key}=${value}` };
}

/** A key goes with its line; a section that was made for it alone, at the end of the file, goes too. */
function removal(text: string, lines: readonly Line[], line: Line): TextEdit {
  const at = lines.indexOf(line);
  const head = lines[at - 1];
  const alone = head?.header && at === lines.length - 1 && text.slice(line.next).trim() === '';
  const from = beforeOf(text, alone ? head : line, line);
  return { offset: from, length: line.next - from, content: '' };
}

/**
 * Opens a sectioned INI text. The last of several equal keys counts; names are looked for as they are written first and
 * in any case after that. Values are given as written, without the blanks around them; quotes stay.
 */
export function openIni(text: string, { inlineComments = false } = {}): SettingsDocument {
  const lines = once(() => scan(text, inlineComments));
  const asWritten = once(() => lastOf(lines(), (name) => name));
  const inAnyCase = once(() => lastOf(lines(), (name) => name.toLowerCase()));
  const find = (path: SettingsPath): Line | undefined => {
    const id = keyOf(...placeOf(path));
    return asWritten().get(id) ?? inAnyCase().get(id.toLowerCase());
  };
  const change = (edit: TextEdit) => openIni(applyEdits(text, [edit]), { inlineComments });

  const document: SettingsDocument = {
    text,
    get: (path) => {
      const line = find(path);
      return line && text.slice(line.valueStart, line.valueEnd);
    },
    entries: () =>
      lines().flatMap((line, i): SettingsEntry[] =>
        line.key === undefined
          ? []
          : [
              {
                path: line.section === undefined ? [line.key] : [line.section, line.key],
                value: text.slice(line.valueStart, line.valueEnd),
                line: i + 1,
              },
            ],
      ),
    set: (path, value) => {
      if (/[\r\n]/.test(path.join('') + value))
        throw new SatchelError('bad-value', { value, why: 'it has a line break' });
      if (inlineComments && /(^|\s)[;#]/.test(value.replace(/"[^"]*"/g, '')))
        throw new SatchelError('bad-value', { value, why: 'what stands behind a ; or # would be a comment' });
      const line = find(path);
      if (!line) return change(insertion(text, lines(), path, value));
      const { valueStart, valueEnd } = line;
      const close = inlineComments && /[;#]/.test(text[valueEnd] ?? '');
      return change({ offset: valueStart, length: valueEnd - valueStart, content: close ? `${value} ` : value });
    },
    remove: (path) => {
      const line = find(path);
      return line ? change(removal(text, lines(), line)) : document;
    },
  };
  return document;
}
