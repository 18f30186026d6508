import { ORIGINAL, pick, type OrderRule, type Pick, type TargetPath } from '@/core';
import { setOrder } from '../game/order';
import type { Session } from '../game/session';

/** Moves a pack to a place counted from the bottom. */
export async function moveTo(session: Session, id: string, place: number): Promise<void> {
  const order = session.packLayers().map((layer) => layer.id);
  const from = order.indexOf(id);
  if (from < 0) return;
  order.splice(from, 1);
  order.splice(Math.max(0, Math.min(order.length, place)), 0, id);
  await setOrder(session, order);
}

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
  await session.saveStack({ picks: pick(session.stack.picks, scope, at as TargetPath, layer) });
}
