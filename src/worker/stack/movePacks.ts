import { ORIGINAL, pick, type OrderRule, type Pick } from '@/core';
import { setOrder, withoutLayers } from '../game/stackOrder';
import type { Session } from '../game/session';

/** Moves packs together to a place counted from the bottom among the others; they keep their order. */
export async function moveTo(session: Session, layers: readonly string[], place: number): Promise<void> {
  const order = session.packLayers().map(({ id }) => id);
  const [moved, others] = [order.filter((id) => layers.includes(id)), order.filter((id) => !layers.includes(id))];
  others.splice(Math.max(0, Math.min(others.length, place)), 0, ...moved);
  if (moved.length > 0) await setOrder(session, others);
}

export function switchAll(session: Session, layers: readonly string[], on: boolean): Promise<void> {
  for (const id of layers) session.layer(id);
  return session.saveStack({
    layers: session.stack.layers.map((one) => (one.kind === 'pack' && layers.includes(one.id) ? { ...one, on } : one)),
  });
}

export const takeOut = (session: Session, ids: readonly string[]): Promise<void> =>
  session.saveStack({
    ...withoutLayers(session, ids),
    layers: session.stack.layers.filter(({ id }) => !ids.includes(id)),
  });

/** Says that one pack always lies above another. */
export async function addRule(session: Session, rule: OrderRule): Promise<void> {
  session.layer(rule.lower);
  session.layer(rule.upper);
  const rules = [...session.stack.order.filter((one) => one.lower !== rule.lower || one.upper !== rule.upper), rule];
  await setOrder(
    session,
    session.packLayers().map(({ id }) => id),
    rules,
  );
}

export const dropRule = (session: Session, lower: string, upper: string): Promise<void> =>
  session.saveStack({ order: session.stack.order.filter((one) => one.lower !== lower || one.upper !== upper) });

/** Lets a layer win one file, folder or kind; without one the order decides again. */
export async function setPick(
  session: Session,
  scope: Pick['scope'],
  at: string,
  layer: string | undefined,
): Promise<void> {
  if (layer !== undefined && layer !== ORIGINAL) session.layer(layer);
  await session.saveStack({ picks: pick(session.stack.picks, scope, at, layer) });
}
