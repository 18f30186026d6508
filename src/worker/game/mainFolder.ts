import type { GivenFolder } from '@/bridge/wire';
import type { Game } from '@/storage/memory';

/** The folder that a game's vault lies beside, for games whose folders the app's own server opens. */
export const mainFolder = (game: Game): GivenFolder | undefined => Object.values(game.given)[0];
