import { kindOf } from '../media/kinds';
import { withoutArchiveEnding } from '../media/archiveEndings';

/** How many tag colours there are. */
export const TAG_COLOURS = 8;

/**
 * A pack's name out of its file's name: no extension, blanks for dashes and underscores, words with a capital.
 *
 * @example packName('weathered-quay-1.2.zip') // 'Weathered Quay 1.2'
 */
export function packName(file: string): string {
  const name = kindOf(file) === 'sound' ? file.slice(0, file.lastIndexOf('.')) : withoutArchiveEnding(file);
  const bare = name.replace(/[_-]+/g, ' ').trim();
  // A version keeps its small v.
  return (bare || file).replace(
    /(^|\s)(?!v\d)(\p{Ll})/gu,
    (_, gap: string, letter: string) => gap + letter.toUpperCase(),
  );
}

const LETTERS = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ'];
const DIGITS = [...'0123456789'];

/** One letter, large or small: some become two letters. */
const one = (letter: string): string => [...letter][0] ?? '';

/**
 * Two letters for a pack's tag: the initials of its first two words, or its first two letters; another letter of the
 * name where those are taken, then any letter or digit, then another first one. Of a series of hundreds each has its
 * own.
 */
export function monogram(name: string, taken: ReadonlySet<string> = new Set()): string {
  const [first = 'P', ...letters] = name.replace(/[^\p{L}\p{N}]+/gu, '');
  const initial = /^[^\p{L}\p{N}]*[\p{L}\p{N}]+[^\p{L}\p{N}]+([\p{L}\p{N}])/u.exec(name)?.[1];
  const seconds = [...(initial === undefined ? [] : [initial]), ...letters, ...LETTERS, ...DIGITS];
  const made = (a: string, b: string) => one(a.toUpperCase()) + one(b.toLowerCase());
  for (const a of [first, ...LETTERS]) for (const b of seconds) if (!taken.has(made(a, b))) return made(a, b);
  return made(first, seconds[0] ?? 'x');
}

/** The tag colour that is used least so far. */
export function nextColour(used: readonly number[]): number {
  const counts = Array.from(
    { length: TAG_COLOURS },
    (_, colour) => used.filter((other) => other % TAG_COLOURS === colour).length,
  );
  return counts.indexOf(Math.min(...counts));
}
