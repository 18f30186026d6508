import { SatchelError, baseName, freeRoot, joinCards, parseCard, setStanding, studyGame } from '@/core';
import { forgetFolder } from '@/folders/bridge';
import type { Game } from '@/storage/memory';
import type { CardCommands } from '../contract';
import { folderAt } from '../game/folderAt';
import type { CommandsOf } from '../game/handlers';
import { checkRoots } from './checkRoots';
import { retell } from './effects';
import { isNested } from './nested';
import { changedCard, lessCard, takenCard } from './telling';

const title = 'Noting it';

export const cardCommands: CommandsOf<CardCommands> = {
  'add folder': {
    title: 'Looking at the folder',
    isNoDecision: true,
    run: async (desk, { title: called, folder }, options) => {
      const { game } = desk.open;
      const { given, handle, name, files, read } = await folderAt(folder, options);
      if (await isNested(game, given, handle)) throw new SatchelError('folder-twice', { name });
      const root = freeRoot(game.card);
      const found = await studyGame([{ id: root, title: called.trim().slice(0, 80) || name, files, read }], options);
      const changed: Game = {
        ...game,
        card: joinCards(game.card, found.card),
        statements: [...game.statements, ...found.statements],
        handles: { ...game.handles, ...(handle ? { [root]: handle } : {}) },
        given: { ...game.given, ...(given ? { [root]: given } : {}) },
      };
      await desk.changeGame(changed, options);
      return found.statements.filter(({ about }) => about.what !== 'root').map(({ says }) => says);
    },
  },
  'forget folder': {
    title: 'Forgetting the folder',
    run: async ({ games }, { id }) => {
      const user = games.find(({ given }) => Object.values(given).some((folder) => folder.id === id));
      if (user) throw new SatchelError('folder-in-use', { name: user.card.title });
      await forgetFolder(id);
    },
  },
  'set card': {
    title: 'Taking the game card',
    run: async (desk, { card: written, from }, options) => {
      const { game } = desk.open;
      const card = { ...parseCard(written), id: game.id };
      checkRoots(game, card);
      if (JSON.stringify(card) === JSON.stringify(game.card)) return desk.changeGame(game, options);
      const taken = from === undefined ? {} : { taken: takenCard(game, card, from) };
      return retell(desk, { ...game, card, ...taken }, options);
    },
  },
  tell: {
    title,
    run: (desk, { form, values, at }, options) => {
      const { game } = desk.open;
      const card = changedCard(game.card, { form, values, ...(at ? { at } : {}) });
      return retell(desk, { ...game, card }, options);
    },
  },
  untell: {
    title,
    run: (desk, { at }, options) => {
      const { game } = desk.open;
      return retell(desk, { ...game, card: lessCard(game.card, at) }, options);
    },
  },
  'set standing': {
    title,
    run: async (desk, { id, standing }, options) => {
      const { game } = desk.open;
      const statement = game.statements.find((one) => one.id === id);
      if (!statement) throw new SatchelError('unknown-thing', { what: 'statement of that name' });
      const { about } = statement;
      let settings: unknown[] = game.card.settings;
      // A file that is none of the player's settings is placed and replaced like any other.
      if (about.what === 'settings') {
        const { file: target, dialect } = about;
        const others = game.card.settings.filter((one) => one.target !== target);
        settings = standing === 'refused' ? others : [...others, { target, dialect, title: baseName(target) }];
      }
      const statements = setStanding(game.statements, id, standing);
      await retell(desk, { ...game, statements, card: parseCard({ ...game.card, settings }) }, options);
    },
  },
};
