import { parseTarget } from '@/core';
import type { InGameQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';
import { fileNow, presentView } from './inGame';

export const inGameQuestions: QuestionsOf<InGameQuestions> = {
  'present files': ({ open }) => presentView(open),
  'file now': ({ open }, { target }) => fileNow(open, parseTarget(target)),
};
