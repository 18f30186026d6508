import type { HistoryQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';

export const historyQuestions: QuestionsOf<HistoryQuestions> = {
  changes: ({ open: { history } }) => {
    const all = [...history.past, ...[...history.future].reverse()];
    return all.map(({ says, at }, i) => ({ says, at, undone: i >= history.past.length, steps: i + 1 })).reverse();
  },
};
