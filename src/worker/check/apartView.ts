import { halve } from '@/core';
import type { ApartView } from '../contract';
import type { Session } from '../game/session';

export function apartView(session: Session): ApartView | undefined {
  const { apart } = session.stack;
  if (!apart) return undefined;
  const named = (ids: readonly string[]) => ids.map((layer) => ({ layer, name: session.nameOf(layer) }));
  const step = apart.why === 'halving' ? halve(apart.suspects, apart.answers) : undefined;
  return {
    why: apart.why,
    step,
    starts: apart.answers.length,
    on: named(
      session
        .packLayers()
        .filter(({ on }) => on)
        .map(({ id }) => id),
    ),
    culprits: step?.next === 'found' ? named(step.culprits) : step?.next === 'more' ? named(step.among) : [],
    pending: session.picture.plan.steps.length > 0,
  };
}
