import type { QueryOf } from '../contract';
import type { Session } from '../game/session';
import { stepRows, type LazyRow } from '../game/stepRows';

/** The steps of the plan. */
export function planRows(session: Session, { action, search }: QueryOf<'plan'>): LazyRow[] {
  const steps = session.picture.plan.steps.filter((step) => action === 'all' || step.action === action);
  return stepRows(session, steps, search);
}
