import { formOf, tell } from '@/core';
import { chooseFolder, givenFolders } from '@/folders/bridge';
import type { CardQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';
import { effectOf } from './effects';

export const cardQuestions: QuestionsOf<CardQuestions> = {
  'given folders': () => givenFolders(),
  'choose folder': (_, { near }) => chooseFolder(near),
  card: ({ open }) => open.game.card,
  'taken card': ({ open }) => open.game.taken,
  statements: ({ open }) => open.game.statements,
  'preview telling': async ({ open }, { form, values, at }) => {
    const found = formOf(form);
    const told = found && tell(open.game.card, found, values, at);
    if (!told?.ok) return { wrong: { field: told?.field, why: told?.why ?? '' }, changes: [] };
    return { wrong: undefined, changes: await effectOf(open, told.card) };
  },
};
