import type { GivenFolder } from '@/bridge/wire';
import type { GameCard, Statement } from '@/core';
import type { TakenCard } from '@/storage/memory';

export type { TakenCard } from '@/storage/memory';
/** What a sentence would change before it is told: or the blank that does not fit, and why. */
export interface TellingPreview {
  wrong: { field: string | undefined; why: string } | undefined;
  changes: { layer: string; pack: string; now: string; then: string }[];
}

/** The blanks of a sentence, and where the sentence stands that it takes the place of. */
export interface Told {
  form: string;
  values: Record<string, string>;
  at?: (string | number)[];
}

export interface CardCommands {
  /** One more folder of the open game, of the same kind as its first. @returns what was found in it, as sentences */
  'add folder'(message: { title: string; folder: FileSystemDirectoryHandle | string }): string[];
  /** Takes a folder away that was chosen in the computer's dialog; no game may use it. */
  'forget folder'(message: { id: string }): void;
  /** Takes another card for the open game; `from`: the name of the file that it came in. */
  'set card'(message: { card: unknown; from?: string }): void;
  tell(message: Told): void;
  untell(message: { at: (string | number)[] }): void;
  /** The player says that something the app knows is so, or is not. */
  'set standing'(message: { id: string; standing: Statement['standing'] }): void;
}

export interface CardQuestions {
  /** Folders that the app was started with; `closed` where this browser does not know the key. */
  'given folders'(): { folders: GivenFolder[]; closed: boolean; asks: boolean };
  /**
   * Opens this computer's own folder dialog. `near`: a folder of this name is looked for in the usual places. Undefined
   * where the player changed their mind.
   */
  'choose folder'(message: { near?: string }): GivenFolder | undefined;
  /** The card of the open game. */
  card(): GameCard;
  /** What the card brought that was taken from a file last. */
  'taken card'(): TakenCard | undefined;
  /** What the app knows of the open game. */
  statements(): Statement[];
  /** What telling the app a sentence would change. */
  'preview telling'(message: Told): TellingPreview;
}
