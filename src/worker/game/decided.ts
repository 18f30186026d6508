import { changesBetween, noted, treeOf, whatChanged, type Decisions } from '@/core';
import { memory } from '@/storage/memory';
import type { Session } from './session';
import { forgetUnused } from './unused';

/** Everything in a game that can be taken back, as it is now. */
export const decidedIn = ({ stack, game, notes, setUps }: Session): Decisions => ({
  stack,
  card: game.card,
  statements: game.statements,
  taken: game.taken,
  notes,
  setUps,
});

/** Notes what was decided since `before`, if anything, so that it can be taken back. */
export async function noteDecided(session: Session, before: Decisions): Promise<void> {
  const now = decidedIn(session);
  const isUntouched =
    before.stack === now.stack &&
    before.card === now.card &&
    before.notes === now.notes &&
    before.setUps === now.setUps;
  if (isUntouched && before.statements === now.statements) return;
  const changes = changesBetween(treeOf(before), treeOf(now));
  if (changes.length === 0) return;
  const [first = 'Something', ...others] = whatChanged(before, now);
  const says =
    others.length === 0 ? first : `${first}, and ${others.length === 1 ? others[0] : `${others.length} more`}`;
  session.history = noted(session.history, says.slice(0, LONGEST), Date.now(), changes);
  await memory.setHistory(session.game.id, session.history);
  await forgetUnused(session);
}

const LONGEST = 300;
