import { SatchelError, readLog } from '@/core';
import type { CheckQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';
import { reportOf } from './report';

export const checkQuestions: QuestionsOf<CheckQuestions> = {
  'test rule': ({ open }, { pattern }) => {
    const text = open.picture.log?.text ?? '';
    const { messages } = readLog(text, [{ id: 'trial', pattern, level: 'note', says: 'x' }]);
    return messages.reduce((sum, { count }) => sum + count, 0);
  },
  report: ({ open, view }) => {
    if (!view) throw new SatchelError('unknown-thing', { what: 'open game' });
    return reportOf(open, { packs: view.packs, check: view.check, overlapping: view.stack.overlapping });
  },
};
