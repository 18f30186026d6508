import { SatchelError } from '../errors';
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

/** Splits into lines with offsets: sections `[name]`, keys `name = value`, comments with `;` or `#`, anything else kept as it is. */
function scan(text: string, inlineComments: boolean): Line[] {
  const lines: Line[] = [];
  let section: string | undefined;
  const ends = /\r\n|\n|\r/g;
  for (let start = text.startsWith('\ufeff') ? 1 : 0; start < text.length; ) {
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
        [line.valueStart, line.valueEnd] = trimmed(text, equals + 1, inlineComments ? commentAt(text, equals + 1, end) : end);
        line.key = text.slice(keyStart, keyEnd);
      }
    }
    lines.push(line);
    start = next;
  }
  return lines;
}

/** Where lines from `first` to `last` begin to go. A last line without a line end takes the line end before them along. */
const beforeOf = (text: string, first: Line, last: Line): number => (last.next > last.end ? first.start : first.start - (/(\r\n|\n|\r)$/.exec(text.slice(Math.max(0, first.start - 2), first.start))?.[0].length ?? 0));

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

/**
 * Opens a sectioned INI text. The last of several equal keys counts; names are looked for as they are written first and
 * in any case after that. Values are given as written, without the blanks around them; quotes stay.
 */
export function openIni(text: string, { inlineComments = false } = {}): SettingsDocument {
  let scanned: Line[] | undefined;
  const lines = () => (scanned ??= scan(text, inlineComments));
  const change = (edits: TextEdit[]): SettingsDocument => (edits.length === 0 ? document : openIni(applyEdits(text, edits), { inlineComments }));

  const find = (path: SettingsPath): Line | undefined => {
    const [section, key] = path.length > 1 ? [path[0], path[1]] : [undefined, path[0]];
    const inCase = (fold: (name: string) => string) =>
      lines().findLast((line) => line.key !== undefined && fold(line.key) === fold(key ?? '') && (line.section === undefined ? section === undefined : section !== undefined && fold(line.section) === fold(section)));
    return inCase((name) => name) ?? inCase((name) => name.toLowerCase());
  };

  const insert = (path: SettingsPath, value: string): TextEdit[] => {
    const [section, key] = path.length > 1 ? [path[0], path[1]] : [undefined, path[0]];
    const eol = /\r\n|\n|\r/.exec(text)?.[0] ?? '\n';
    const all = lines();
    const named = section === undefined ? undefined : all.findLast((line) => line.header && (line.section ?? '').toLowerCase() === section.toLowerCase());
    const place = section === undefined ? all.findLast((line) => line.section === undefined && line.key !== undefined) : named;
    if (section !== undefined && !place) {
      const gap = text === '' || text === '\ufeff' ? '' : /[\r\n]$/.test(text) ? '' : eol;
      return [{ offset: text.length, length: 0, content: `${gap}[${section}]${eol}${key}=${value}${eol}` }];
    }
    if (!place) return [{ offset: text.startsWith('\ufeff') ? 1 : 0, length: 0, content: `${key}=${value}${eol}` }];
    // After the section's last line that is not blank, at the first column, on a line of its own.
    let last = place;
    for (const line of all.slice(all.indexOf(place) + 1)) {
      if (line.header) break;
      if (trimmed(text, line.start, line.end)[0] < trimmed(text, line.start, line.end)[1]) last = line;
    }
    return last.next > last.end
      ? [{ offset: last.next, length: 0, content: `${key}=${value}${eol}` }]
      : [{ offset: last.end, length: 0, content: `${eol}${key}=${value}` }];
  };

  const document: SettingsDocument = {
    text,
    get: (path) => {
      const line = find(path);
      return line && text.slice(line.valueStart, line.valueEnd);
    },
    entries: () =>
      lines().flatMap((line, i): SettingsEntry[] =>
        line.key === undefined ? [] : [{ path: line.section === undefined ? [line.key] : [line.section, line.key], value: text.slice(line.valueStart, line.valueEnd), line: i + 1 }],
      ),
    set: (path, value) => {
      if (/[\r\n]/.test(path.join('') + value)) throw new SatchelError('bad-value', { value, why: 'it has a line break' });
      if (inlineComments && /(^|\s)[;#]/.test(value.replace(/"[^"]*"/g, ''))) throw new SatchelError('bad-value', { value, why: 'what stands behind a ; or # would be a comment' });
      const line = find(path);
      return change(line ? [{ offset: line.valueStart, length: line.valueEnd - line.valueStart, content: inlineComments && /[;#]/.test(text[line.valueEnd] ?? '') ? `${value} ` : value }] : insert(path, value));
    },
    remove: (path) => {
      const line = find(path);
      if (!line) return document;
      const all = lines();
      const at = all.indexOf(line);
      // A section that was made for this key alone, at the end of the file, goes with it.
      const head = all[at - 1];
      if (head?.header && text.slice(line.next).trim() === '' && all.slice(at + 1).length === 0) return change([{ offset: beforeOf(text, head, line), length: line.next - beforeOf(text, head, line), content: '' }]);
      const before = beforeOf(text, line, line);
      return change([{ offset: before, length: line.next - before, content: '' }]);
    },
  };
  return document;
}
