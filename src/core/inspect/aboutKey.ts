import { nameKey } from '../paths/paths';
import type { SettingsDocument } from '../settings/document';
import { speaksOf } from './readMeSentences';

/** A whole line that is a comment, in any of the forms. */
const COMMENT_LINE = /^\s*(?:#+|;+|\/\/+|--+|<!--|\/\*+|\*|rem\s)\s?(.*?)\s*(?:-->|\*\/)?\s*$/i;

/** A comment behind a value. */
const BEHIND = /\s(?:#|;|\/\/|--|<!--)\s+(.+?)\s*(?:-->)?\s*$/;

/** So many lines above a key are read, and so many characters in all. */
const ABOVE = 6;

const LONGEST = 400;

/** A text's lines, whatever its line ends are. */
export const splitLines = (text: string): string[] => text.split(/\r\n|\n|\r/);

/**
 * What the file itself says of a key: the comment in its line, or in the lines right above it.
 *
 * @param line of the key, counted from 1
 */
export function commentAt(lines: readonly string[], line: number): string | undefined {
  const behind = BEHIND.exec(lines[line - 1] ?? '')?.[1];
  if (behind !== undefined && /\p{L}{2}/u.test(behind)) return behind.slice(0, LONGEST);
  const above: string[] = [];
  let at = line - 2;
  for (; at >= 0 && above.length < ABOVE; at--) {
    const said = COMMENT_LINE.exec(lines[at] ?? '')?.[1];
    if (said === undefined) break;
    if (/^\W*[\w.-]+\s*=/.test(said)) continue;
    above.unshift(said);
  }
  const all = above
    .join(' ')
    .replace(/\s+/g, ' ')
    .replace(/[-=*#~_]{3,}/g, '')
    .trim();
  if (at < 0 && isHead(all, lines, line)) return undefined;
  return /\p{L}{2}/u.test(all) ? all.slice(0, LONGEST) : undefined;
}

/**
 * Does what stands at the top of a file say what the file is? It does where it speaks of nothing in the line below, and
 * no line further down has words of its own.
 */
function isHead(said: string, lines: readonly string[], line: number): boolean {
  const words = new Set(said.toLowerCase().match(/\p{L}{3,}/gu));
  if (
    (lines[line - 1] ?? '')
      .replace(/(\p{Ll})(\p{Lu})/gu, '$1 $2')
      .toLowerCase()
      .match(/\p{L}{3,}/gu)
      ?.some((word) => words.has(word))
  )
    return false;
  const below = lines.slice(line);
  return (
    below.some((one) => one.trim() !== '') &&
    !below.some((one, i) => COMMENT_LINE.test(one) && (below[i + 1] ?? '').trim() !== '')
  );
}

/** What is said of a key beyond the game's card. */
export interface AboutKey {
  /** The comment in its own file. */
  comment: string | undefined;
  /** Keys of the same name in other files. */
  elsewhere: { file: string; path: string[]; value: string }[];
  /** Lines of read-mes that speak of it. */
  said: { pack: string; line: number; text: string }[];
}

const MOST = 8;

/** Shorter names are words of every read-me. */
const SHORTEST = 4;

/** What the file's own comments, other settings files and read-mes say of a key. */
export function aboutKey(
  { file, path }: { file: string; path: readonly string[] },
  documents: ReadonlyMap<string, SettingsDocument>,
  readMes: readonly { pack: string; text: string }[],
): AboutKey {
  const name = (path.at(-1) ?? '').replace(/^@/, '').replace(/#\d+$/, '');
  const key = nameKey(name);
  const own = documents.get(file);
  const line = own
    ?.entries()
    .find(
      (entry) =>
        entry.path.length === path.length && entry.path.every((one, i) => nameKey(one) === nameKey(path[i] as string)),
    )?.line;
  const elsewhere = [...documents].flatMap(([other, document]) =>
    document
      .entries()
      .filter(
        (entry) =>
          nameKey((entry.path.at(-1) ?? '').replace(/^@/, '').replace(/#\d+$/, '')) === key &&
          !(other === file && nameKey(entry.path.join('\n')) === nameKey(path.join('\n'))),
      )
      .map((entry) => ({ file: other, path: entry.path, value: entry.value })),
  );
  const said =
    name.length < SHORTEST
      ? []
      : readMes.flatMap(({ pack, text }) =>
          splitLines(text).flatMap((whole, i) =>
            speaksOf(whole, name) ? [{ pack, line: i + 1, text: whole.trim().slice(0, LONGEST) }] : [],
          ),
        );
  return {
    comment: own && line !== undefined ? commentAt(splitLines(own.text), line) : undefined,
    elsewhere: elsewhere.slice(0, MOST),
    said: said.slice(0, MOST),
  };
}
