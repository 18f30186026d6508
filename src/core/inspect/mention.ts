import type { PackEntry } from '../archives/pack';
import type { GameTree } from '../names/gameTree';
import type { Word } from './readMeSentences';

/** How a sentence speaks of something, by the words before it. */
export type Cue = 'into' | 'beside' | 'like' | 'over' | 'from' | 'inside' | undefined;

/** Something that a sentence names, and what that is in the pack and in the game. */
export interface Mention {
  words: string;
  start: number;
  end: number;
  cue: Cue;
  /** Folders and files of the pack. */
  packFolders: string[];
  packFiles: string[];
  /** Folders and files of the game, as targets. */
  gameFolders: string[];
  gameFiles: string[];
  /** Folders that do not exist yet, below one that does. */
  newFolders: string[];
  /** One that the sentence says to make, and how it is called. */
  called?: boolean;
  /** All that the pack holds, or all of one kind. */
  all: boolean;
  /** “the contents of”: what lies in the folder, not the folder. */
  contents: boolean;
  /** A comma or the like stands behind it. */
  stop: boolean;
}

/** What the names of a read-me can mean. */
export interface Ground {
  entries: readonly PackEntry[];
  tree: GameTree;
  roots: readonly { id: string; title: string }[];
  title: string;
  /** The file that was downloaded, where its name is known. */
  download?: string;
}

/** A name that so many of the game's folders or files have says nothing. */
export const COMMON = 12;

export const nothing = (first: Word, last: Word, sentence: string): Mention => ({
  words: sentence.slice(first.start, last.end),
  start: first.start,
  end: last.end,
  cue: undefined,
  packFolders: [],
  packFiles: [],
  gameFolders: [],
  gameFiles: [],
  newFolders: [],
  all: false,
  contents: false,
  stop: last.stop,
});
