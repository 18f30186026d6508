import type { Failure, Progress, Recovery, Stuck } from '@/core';
import type { GameView } from './gameView';

/** A game that cannot be opened now, and why. */
export interface ClosedGame {
  id: string;
  title: string;
  /** Its folders, as the player knows them. */
  folders: string[];
  /** The browser wants its permission again; the app was started without its folders; anything else. */
  how: 'permission' | 'not-started-with' | 'failed';
  /** Where its originals are, for folders of the app's own server. */
  backup: string | undefined;
  failure: Failure | undefined;
}

export type ServerState = 'here' | 'gone' | 'key';

export interface Snapshot {
  ready: boolean;
  /** Another tab holds the game; this one can only look. */
  readOnly: boolean;
  /** `folders`: ids of those that the app was started with. */
  games: { id: string; title: string; demo: boolean; folders: string[] }[];
  game: GameView | undefined;
  /** The game that was to be opened and cannot be now. */
  closed: ClosedGame | undefined;
  /**
   * How the app's own server was met when it was asked last: it answered, it did not, or it does not take this page's
   * key.
   */
  server: ServerState;
  /** Counts up with every change; rows shown from an earlier one are asked for again. */
  revision: number;
  recovery: Recovery | undefined;
  /** What came of the game's last start, where it was noticed while the page is open. */
  heard: { at: number; level: 'note' | 'wrong'; says: string } | undefined;
  /** The game goes on from what lay beside its originals, written then. */
  foundAt: number | undefined;
  /** Things that could not be remembered, or the reason why the game cannot be opened. */
  trouble: Failure[];
}

/** Work under way. */
export interface Job extends Progress {
  /** It waits: a file cannot be written. */
  stuck?: Stuck;
  title: string;
  canCancel: boolean;
}
