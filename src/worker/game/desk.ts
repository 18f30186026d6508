import type { WorkOptions } from '@/core';
import type { Game, SetAside } from '@/storage/memory';
import type { GameView } from '../contract';
import type { Session } from './session';

/** What a step may use of the tab: the open game, and the games that the player has. */
export interface Desk {
  /** The open game. @throws SatchelError where none is open */
  readonly open: Session;
  /** The open game, where one is. */
  readonly opened: Session | undefined;
  readonly games: readonly Game[];
  /** The game that is open, or was to be opened and cannot be. */
  readonly current: Game | undefined;
  /** What is shown of the open game. */
  readonly view: GameView | undefined;
  saveGames(games: Game[]): Promise<void>;
  /** Opens a game, or says on its page why it cannot be opened. */
  choose(game: Game, options: WorkOptions): Promise<void>;
  /** Takes other facts about a game that is here, and opens it again. */
  changeGame(changed: Game, options: WorkOptions): Promise<void>;
  /** Notes what is known of the open game, and goes on with it. */
  keepGame(changed: Game): Promise<void>;
  /** Closes the open game. */
  leave(): void;
  /**
   * Opens the current game again where it could not be opened, else looks at it; a start of a real game shows in its
   * log.
   */
  lookAgain(options: WorkOptions): Promise<void>;
  /** Something that was remembered could not be read, and was set aside: the player is told. */
  tellAside(aside: readonly SetAside[]): void;
  /** What the start had found to be finished or taken back was seen. */
  forgetRecovery(): void;
}
