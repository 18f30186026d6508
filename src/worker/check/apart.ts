import { halve, isNeeded, type HalvingStep } from '@/core';
import type { Session } from '../game/session';

/** Packs in use or not; one that came in since stays as it is. */
export const setUse = (session: Session, on: ReadonlySet<string>, before: readonly { id: string }[]) =>
  session.stack.layers.map((layer) =>
    layer.kind === 'pack' && before.some(({ id }) => id === layer.id) ? { ...layer, on: on.has(layer.id) } : layer,
  );

export async function takeStep(session: Session, apart: NonNullable<Session['stack']['apart']>): Promise<void> {
  const step: HalvingStep = halve(apart.suspects, apart.answers);
  const on = step.next === 'try' ? new Set(step.on) : new Set(apart.before.filter((one) => one.on).map(({ id }) => id));
  await session.saveStack({ apart, layers: setUse(session, on, apart.before) });
}

/** Packs that a pack says it needs, and those that they need. */
export async function neededBy(session: Session, id: string): Promise<string[]> {
  const found: string[] = [];
  for (let waiting = [id]; waiting.length > 0;) {
    const { facts } = await session.openPack(session.layer(waiting.pop() as string).packId);
    const needs = facts.filter(({ kind }) => kind === 'needs').map(({ value }) => value);
    for (const { id: other, name } of session.packLayers())
      if (other !== id && !found.includes(other) && needs.some((need) => isNeeded(need, name))) {
        found.push(other);
        waiting.push(other);
      }
  }
  return found;
}
