/**
 * File-name rules of the strictest platform players use.
 * Source: Microsoft, "Naming Files, Paths, and Namespaces": reserved device names (with and without
 * extension), the characters < > : " / \ | ? * and 0-31, and no trailing dot or space.
 */
const RESERVED = /^(con|prn|aux|nul|conin\$|conout\$|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i;
/** Files of the app's own while it writes: a pack must not bring what would be taken for one. */
const OWN_FILE = /^\.satchel-.*\.(part|aside)$/i;

const CONTROL = /[\u0000-\u001f]/;
const FORBIDDEN = /[<>"|?*]/;

/**
 * Longest name of one file or folder that common disks keep: 255 UTF-16 units (NTFS, "Naming Files"), or 255 bytes of
 * UTF-8 (Linux, NAME_MAX in limits.h).
 */
const LONGEST_NAME = 255;
const BYTES = new TextEncoder();
/** No UTF-16 unit takes more bytes of UTF-8. */
const MOST_BYTES = 3;
const isTooLong = (name: string): boolean =>
  name.length > LONGEST_NAME || (name.length * MOST_BYTES > LONGEST_NAME && BYTES.encode(name).length > LONGEST_NAME);

export type NameProblem =
  | 'absolute'
  | 'drive letter'
  | 'goes up with ..'
  | 'control character'
  | 'colon'
  | 'forbidden character'
  | 'reserved name'
  | 'ends in a dot or a space'
  | 'name too long'
  | 'name of a file of this app'
  | 'empty name';

/** What is wrong with one file or folder name; undefined where nothing is. */
export function nameProblem(name: string): NameProblem | undefined {
  if (name === '') return 'empty name';
  if (name === '..' || name === '.') return 'goes up with ..';
  if (CONTROL.test(name)) return 'control character';
  if (name.includes(':')) return 'colon';
  if (FORBIDDEN.test(name)) return 'forbidden character';
  if (/[. ]$/.test(name)) return 'ends in a dot or a space';
  if (RESERVED.test(name)) return 'reserved name';
  if (isTooLong(name)) return 'name too long';
  if (OWN_FILE.test(name)) return 'name of a file of this app';
  return undefined;
}
