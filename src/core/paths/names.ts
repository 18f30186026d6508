/**
 * File-name rules of the strictest platform players use.
 * Source: Microsoft, "Naming Files, Paths, and Namespaces": reserved device names (with and without
 * extension), the characters < > : " / \ | ? * and 0-31, and no trailing dot or space.
 */
const RESERVED = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(\.|$)/i;
 
const CONTROL = /[\u0000-\u001f]/;
const FORBIDDEN = /[<>"|?*]/;

/** Longest name of one file or folder that common disks keep, in UTF-16 units (NTFS, "Naming Files"). */
export const LONGEST_NAME = 255;

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
  if (name.length > LONGEST_NAME) return 'name too long';
  return undefined;
}
