import { SatchelError, gameCardSchema, rootTitle, studyGame, type WorkOptions } from '@/core';
import type { Game } from '@/storage/memory';
import type { HomeCommands } from '../contract';
import type { Desk } from '../game/desk';
import { folderAt } from '../game/folderAt';
import type { CommandsOf } from '../game/handlers';
import { eraseGame } from '../game/opening';
import { demoGames, fetchDemo, seedDemo } from '../game/demoGame';

export const homeCommands: CommandsOf<HomeCommands> = {
  'open demo': {
    title: 'Setting up the demo games',
    isNoDecision: true,
    run: async (desk, _, options) => {
      for (const id of await demoGames()) await addDemo(desk, id, options);
      const first = desk.games.find(({ kind }) => kind === 'demo');
      if (first) await desk.choose(first, options);
    },
  },
  'reset demo': {
    title: 'Starting the demo over',
    isNoDecision: true,
    run: (desk, _, options) => resetDemo(desk, options),
  },
  'add game': {
    title: 'Looking at the game’s folder',
    isNoDecision: true,
    run: async (desk, { title, folder }, options) => {
      const id = `game-${Date.now().toString(36)}`;
      const { given, handle, name, files, read } = await folderAt(folder, options);
      const called = title.trim().slice(0, 80) || name;
      const found = await studyGame([{ id: 'game', title: called, files, read }], { title: called, ...options });
      const roots = found.card.roots.map((root) => ({ ...root, title: rootTitle(root.markers.length > 0) }));
      const game: Game = {
        id,
        card: { ...found.card, id, roots },
        kind: given ? 'bridge' : 'picked',
        handles: handle ? { game: handle } : {},
        given: given ? { game: given } : {},
        statements: found.statements,
      };
      await desk.saveGames([...desk.games, game]);
      await desk.choose(game, options);
    },
  },
  'choose game': {
    title: 'Opening the game',
    isNoDecision: true,
    run: async (desk, { id }, options) => {
      const game = desk.games.find((one) => one.id === id);
      if (!game) throw new SatchelError('unknown-thing', { what: 'game of that name' });
      await desk.choose(game, options);
    },
  },
  'remove game': {
    title: 'Removing the game from the app',
    isNoDecision: true,
    run: async (desk, { id }, options) => {
      const game = desk.games.find((one) => one.id === id);
      if (!game) return;
      const { opened } = desk;
      if (opened?.game.id === id && opened.picture.state.files.length > 0)
        throw new SatchelError('still-deployed', { name: game.card.title });
      desk.leave();
      await desk.saveGames(desk.games.filter((one) => one.id !== id));
      await eraseGame(game);
      const next = desk.games[0];
      if (next) await desk.choose(next, options);
    },
  },
  'look again': {
    title: 'Looking at the folders again',
    isNoDecision: true,
    run: (desk, _, options) => desk.lookAgain(options),
  },
};

/** Sets up one of the demo's games, unless it is here. */
async function addDemo(desk: Desk, id: string, options: WorkOptions): Promise<Game> {
  const known = desk.games.find((game) => game.id === id);
  if (known) return known;
  const card = gameCardSchema.parse(await (await fetchDemo(`${id}.json`)).json());
  const game: Game = { id: card.id, card, kind: 'demo', handles: {}, given: {}, statements: [] };
  await eraseGame(game);
  await seedDemo(game, options);
  await desk.saveGames([...desk.games, game]);
  return game;
}

/** The open demo game as it was at first, in its place among the others. */
async function resetDemo(desk: Desk, options: WorkOptions): Promise<void> {
  const isDemo = ({ kind }: Game) => kind === 'demo';
  const game = desk.games.find((one) => one.id === desk.opened?.game.id && isDemo(one)) ?? desk.games.find(isDemo);
  if (!game) throw new SatchelError('unknown-thing', { what: 'demo game' });
  desk.leave();
  const place = desk.games.indexOf(game);
  await desk.saveGames(desk.games.filter((other) => other !== game));
  const fresh = await addDemo(desk, game.id, options);
  const others = desk.games.filter((other) => other !== fresh);
  await desk.saveGames([...others.slice(0, place), fresh, ...others.slice(place)]);
  await desk.choose(fresh, options);
}
