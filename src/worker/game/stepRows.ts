import { holdsAll, nameKey, searchWords, type JournalStep, type PlanStep } from '@/core';
import type { Row, StepRow } from '../contract';
import type { Session } from './session';

/** Rows are found as a list and made only for the part that is shown. */
export type LazyRow = () => Row;

export function stepRows(session: Session, steps: readonly (PlanStep | JournalStep)[], search: string): LazyRow[] {
  const words = searchWords(search);
  const tags = new Map(session.packLayers().map((layer) => [layer.id, layer.tag]));
  return steps
    .filter(({ target }) => holdsAll(nameKey(target), words))
    .map((step) => (): StepRow => ({
      path: step.target,
      action: step.action,
      target: step.target,
      tag: tags.get(step.layer),
      reason: 'reason' in step ? step.reason : session.nameOf(step.layer),
      size: 'size' in step ? step.size : step.after.kind === 'absent' ? 0 : step.after.size,
    }));
}
