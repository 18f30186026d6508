import { stepActions } from '@/core';
import { oneOr, count, size } from '@/ui/shared/format';
import type { PlanView } from '@/worker/contract';
import { ACTION_WORDS } from './actionWords';

/** What a plan comes to: one figure for each kind of step that occurs. */
export function PlanFigures({ plan }: { plan: PlanView }) {
  return (
    <div className="figures">
      {stepActions
        .filter((action) => plan.counts[action] > 0)
        .map((action) => (
          <div key={action}>
            <b className={`verb-${action}`}>{count(plan.counts[action])}</b>
            <span>{ACTION_WORDS[action][oneOr(plan.counts[action], 'one', 'more')]}</span>
          </div>
        ))}
      <div>
        <b>{count(plan.unchanged)}</b>
        <span>already as they should be</span>
      </div>
      <div>
        <b>{size(plan.bytes)}</b>
        <span>to be written</span>
      </div>
    </div>
  );
}
