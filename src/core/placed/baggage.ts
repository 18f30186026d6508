import type { PackEntry } from '../archives/pack';
import { kindOf } from '../media/kinds';
import type { GameTree } from '../names/gameTree';
import { onceFor } from '../once';
import { baseName, extensionOf, isUnder, nameKey, parentOf } from '../paths/paths';
import { sharedFolder } from './packFolders';

/** Why a file of a pack does not go into the game. */
export type LeftOutReason =
  | 'read-me'
  | 'a program'
  | 'another choice'
  | 'another region'
  | 'cannot carry over'
  | 'no place known for it'
  | 'stays inside the archive'
  | 'picture of the result'
  | 'web link'
  | 'system file'
  | 'outside the placed folder'
  | 'no such folder in the game'
  | 'settings the game writes itself'
  | 'waits for your answer'
  | 'your choice';

/** One sentence for each reason. */
export const LEFT_OUT_SAYS: Record<LeftOutReason, string> = {
  'read-me': 'Meant to be read by you; the game does not use it.',
  'picture of the result': 'Shows what the pack looks like; the game does not use it.',
  'web link': 'A link to a page; the game does not use it.',
  'system file': 'Left behind by the computer the pack was made on.',
  'a program': 'A program or script. Packs do not need one to load, and the app never runs it.',
  'another choice': 'Belongs to a choice that was not taken.',
  'another region': 'Made for another region’s title id.',
  'cannot carry over': 'This edition of the game has no use for it.',
  'no place known for it': 'The app knows no place for it. Drag it to one if you do.',
  'stays inside the archive': 'The pack goes in as one file; the game opens it by itself.',
  'outside the placed folder': 'Lies outside the folder of the pack that matches the game.',
  'no such folder in the game':
    'The game has no folder of this name at this place. Take it in if you know that it belongs there.',
  'settings the game writes itself':
    'The game and you write into this file; replacing it would lose your own settings.',
  'waits for your answer': 'Where it goes depends on your answer above.',
  'your choice': 'You left it out.',
};

const TELLS_HOW =
  /^_*(read[ _-]?(me|this)|instruc|how[ _-]?to|install|set ?up|usage|start here|wh(at|ere) |liesmich|lies[ _-]?mich|anleitung|einbau|leeme|l[eé]ame|instala|lisez|lisezmoi|notice)/i;

const READ_ME =
  /^_*(read[ _-]?(me|this)|licen[cs]e|credits?|change[ _-]?log|instruc|how[ _-]?to|install|about|notes?\b|wh(at|ere) |liesmich|lies[ _-]?mich|anleitung|einbau|leeme|l[eé]ame|instala|lisez|lisezmoi|notice)/i;

/** `READ.ME`, `README.1ST`: what it is called says it, not its ending. */
const WHATEVER_ENDING = /^_*read[ ._-]?me(?:[ ._-]?(?:1st|first|now))?$/i;

const RESULT_FOLDER = /^(screen[ _-]?shots?|screens|previews?|pictures?|photos?|before|after|comparison)$/i;

const RESULT_NAME = /^(screen[ _-]?shot|preview|before|after|comparison|cover|thumb(nail)?)\b/i;

/** Files that computers leave behind, wherever they lie. Common practice. */
const isSystemFile = (path: string): boolean => SYSTEM_FILE.test(path);

const SYSTEM_FILE = /(?:^|\/)(?:__macosx\/|(?:\.ds_store|thumbs\.db|desktop\.ini|\._[^/]*)$)/i;

/** A file that only speaks to the reader, judged by its name: undefined where it does not look like one. */
export function forTheReader(path: string): LeftOutReason | undefined {
  if (isSystemFile(path)) return 'system file';
  if (WHATEVER_ENDING.test(baseName(path))) return 'read-me';
  if (extensionOf(path) === '' && TELLS_HOW.test(baseName(path))) return 'read-me';
  if (kindOf(path) !== 'text') return extensionOf(path) === 'webloc' ? 'web link' : undefined;
  if (['url', 'html', 'htm'].includes(extensionOf(path))) return 'web link';
  if (READ_ME.test(baseName(path))) return 'read-me';
  return undefined;
}

/** The files of a pack that do not only speak to the reader. */
export const forTheGame = onceFor((entries: readonly PackEntry[]): readonly PackEntry[] =>
  entries.filter(({ path }) => forTheReader(path) === undefined),
);

/** The one folder that holds all of them, '' where there is none. */
export const ownFolderOf = onceFor((entries: readonly PackEntry[]): string => sharedFolder(forTheGame(entries)));

/** A folder of pictures that show the result, judged by its name and those above it. */
export const isResultFolder = (folder: string): boolean => folder.split('/').some((name) => RESULT_FOLDER.test(name));

/** A picture that shows the result, judged by its own name and its folders'. */
export const showsTheResult = (path: string, inResultFolder = isResultFolder(parentOf(path))): boolean =>
  (inResultFolder || RESULT_NAME.test(baseName(path))) && kindOf(path) === 'picture';

/**
 * Is this the read-me to show? Higher is better, 0 is no. What tells how to install it comes before licences and
 * credits.
 */
export const readMeRank = (path: string): number => {
  const name = baseName(path);
  if (!['txt', 'md', 'nfo', 'rtf', ''].includes(extensionOf(path)) && !WHATEVER_ENDING.test(name)) return 0;
  const rank =
    TELLS_HOW.test(name) || WHATEVER_ENDING.test(name)
      ? 4
      : /install|read[ _-]?me|instruc|how to|what to do|^_*(?:infos?|information|about|notes?)\b/i.test(name)
        ? 3
        : READ_ME.test(name)
          ? 1
          : extensionOf(path) !== ''
            ? 2
            : 0;
  return rank * (10 - Math.min(9, path.split('/').length));
};

/** Programs and scripts to be started by hand. Libraries can be parts of a mod and are judged by where they go. */
export const isProgram = (path: string): boolean => PROGRAMS.has(extensionOf(path));

const PROGRAMS: ReadonlySet<string> = new Set(['exe', 'bat', 'cmd', 'ps1', 'sh', 'msi', 'com', 'scr', 'vbs']);

/**
 * Folders that hold a whole program, for instance an old copy of the one that plays the game: nothing in them is for
 * the game.
 */
export function programFolders(entries: readonly PackEntry[], tree: GameTree): string[] {
  const folders = [
    ...new Set(entries.filter(({ path }) => /\.exe$/i.test(path)).map(({ path }) => parentOf(path))),
  ].filter((folder) => folder !== '');
  return folders.filter(
    (folder) =>
      !entries.some(
        ({ path }) =>
          isUnder(path, folder) &&
          path
            .slice(folder.length + 1)
            .split('/')
            .slice(0, -1)
            .some((name) => tree.foldersByName.has(nameKey(name))),
      ),
  );
}
