import type { Failure } from '@/core';
import type { Game } from '@/storage/memory';
import type { ClosedGame, GameView } from '../contract';
import { mainFolder } from '../game/mainFolder';

/** What the app has to be started with for a game. */
export function bridgedView(game: Game): GameView['bridged'] {
  const main = mainFolder(game);
  // Each game has a folder of its own in it.
  return (
    main && {
      folders: Object.values(game.given).map(({ path }) => path),
      backup: main.backup.replace(/[/\\][^/\\]+$/, ''),
    }
  );
}

/** A game that cannot be opened now. */
export function closedGame(game: Game, how: ClosedGame['how'], failure?: Failure): ClosedGame {
  const folders = game.card.roots.flatMap(({ id }) => game.given[id]?.path ?? game.handles[id]?.name ?? []);
  return { id: game.id, title: game.card.title, folders, how, backup: bridgedView(game)?.backup, failure };
}
