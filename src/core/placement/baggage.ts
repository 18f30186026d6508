import { kindOf } from '../media/kinds';
import { baseName, extensionOf } from '../paths/paths';

/** Why a file of a pack does not go into the game. */
export type LeftOutReason = 'read-me' | 'picture of the result' | 'web link' | 'system file' | 'outside the placed folder' | 'no such folder in the game' | 'settings the game writes itself' | 'your choice';

/** One sentence for each reason. */
export const LEFT_OUT_SAYS: Record<LeftOutReason, string> = {
  'read-me': 'Meant to be read by you; the game does not use it.',
  'picture of the result': 'Shows what the pack looks like; the game does not use it.',
  'web link': 'A link to a page; the game does not use it.',
  'system file': 'Left behind by the computer the pack was made on.',
  'outside the placed folder': 'Lies outside the folder of the pack that matches the game.',
  'no such folder in the game': 'The game has no folder of this name at this place. Take it in if you know that it belongs there.',
  'settings the game writes itself': 'The game and you write into this file; replacing it would lose your own settings.',
  'your choice': 'You left it out.',
};

const READ_ME = /^(read[ _-]?me|licen[cs]e|credits?|change[ _-]?log|instructions?|how[ _-]?to|install(ation)?|about|notes?)\b/i;
const RESULT_FOLDER = /^(screen[ _-]?shots?|screens|previews?|pictures?|photos?|before|after|comparison)$/i;
const RESULT_NAME = /^(screen[ _-]?shot|preview|before|after|comparison|cover|thumb(nail)?)\b/i;

/** Files that computers leave behind, wherever they lie. Common practice. */
export const isSystemFile = (path: string): boolean =>
  /(^|\/)__macosx\//i.test(path) || /^(\.ds_store|thumbs\.db|desktop\.ini|\._.*)$/i.test(baseName(path));

/** A file that only speaks to the reader, judged by its name: undefined where it does not look like one. */
export function forTheReader(path: string): LeftOutReason | undefined {
  if (isSystemFile(path)) return 'system file';
  if (['url', 'webloc', 'html', 'htm'].includes(extensionOf(path))) return 'web link';
  if (READ_ME.test(baseName(path)) && kindOf(path) === 'text') return 'read-me';
  return undefined;
}

/** A picture that shows the result, judged by its own name and its folders'. */
export const showsTheResult = (path: string): boolean =>
  kindOf(path) === 'picture' && (RESULT_NAME.test(baseName(path)) || path.split('/').slice(0, -1).some((folder) => RESULT_FOLDER.test(folder)));

/** Is this the read-me to show? Higher is better, 0 is no. */
export const readMeRank = (path: string): number => {
  if (!['txt', 'md', ''].includes(extensionOf(path))) return 0;
  return (READ_ME.test(baseName(path)) ? 2 : extensionOf(path) === 'txt' ? 1 : 0) * (10 - Math.min(9, path.split('/').length));
};
