import { stepActions, updateEffects, type Plan, type StepAction } from '@/core';
import type { PlanView } from '../contract';
import type { Session } from './session';

/** Conflicts and changes that are sent to be shown; the figures count all. */
export const LISTED = 300;

export function planView(session: Session, plan: Plan): PlanView {
  const counts = Object.fromEntries(stepActions.map((action) => [action, 0])) as Record<StepAction, number>;
  for (const { action } of plan.steps) counts[action]++;
  return {
    counts,
    bytes: plan.steps.reduce((sum, { size }) => sum + size, 0),
    total: plan.steps.length,
    unchanged: plan.unchanged,
    drifted: {
      total: plan.drifted.length,
      some: plan.drifted.slice(0, LISTED).map((one) => ({ ...one, name: session.nameOf(one.layer) })),
      effects: plan === session.picture.plan ? effectsOf(session) : [],
    },
    leftAlone: plan.leftAlone,
    refused: plan.refused,
  };
}

const effectsOf = ({ picture, nameOf }: Session): string[] =>
  updateEffects({
    drifted: picture.plan.drifted,
    merges: picture.merges.map(({ note: { name, target } }) => ({ name, target })),
    nameOf,
  });
