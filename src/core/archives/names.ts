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

/**
 * Two letters for a pack's tag: the initials of its first two words, or its first two letters; another letter of the
 * name where those are taken.
 */
export function monogram(name: string, taken: ReadonlySet<string> = new Set()): string {
  const words = name.split(/[^\p{L}\p{N}]+/u).filter(Boolean);
  const letters = [...words.join('')];
  const first = letters[0]?.toUpperCase() ?? 'P';
  const seconds = [
    words[1] ? [...words[1]][0] : undefined,
    ...letters.slice(1),
    ...'ABCDEFGHIJKLMNOPQRSTUVWXYZ',
  ].filter((letter) => letter !== undefined);
  for (const letter of seconds) if (!taken.has(first + letter.toLowerCase())) return first + letter.toLowerCase();
  return `${first}${(seconds[0] ?? 'x').toLowerCase()}`;
}

/** The tag colour that is used least so far. */
export function nextColour(used: readonly number[]): number {
  const counts = Array.from(
    { length: TAG_COLOURS },
    (_, colour) => used.filter((other) => other % TAG_COLOURS === colour).length,
  );
  return counts.indexOf(Math.min(...counts));
}
