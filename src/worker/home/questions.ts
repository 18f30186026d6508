import type { HomeQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';

export const homeQuestions: QuestionsOf<HomeQuestions> = {
  handles: ({ current }) => [...Object.values(current?.handles ?? {}), ...(current?.backup ? [current.backup] : [])],
};
