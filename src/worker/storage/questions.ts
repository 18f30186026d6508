import type { QuestionsOf } from '../game/handlers';
import type { StorageQuestions } from '../contract';
import { storageView } from './view';

export const storageQuestions: QuestionsOf<StorageQuestions> = {
  storage: ({ open }) => storageView(open),
};
