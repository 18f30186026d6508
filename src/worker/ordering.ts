import { ORIGINAL, SatchelError, orderLayers, packBase, pick, type OrderRule, type Pick, type TargetPath } from '@/core';
import type { PackLayer, Stack } from '@/storage/memory';
import type { Session } from './session';

/** The order of the stack, and who wins where the order is not to decide. */

/** Takes an order of packs, the lowest first, as far as the rules let it. @throws SatchelError `order-cycle` */
export async function setOrder(session: Session, wanted: readonly string[], rules: readonly OrderRule[] = session.stack.order): Promise<void> {
  const packs = new Map(session.packLayers().map((layer) => [layer.id, layer]));
  const asked = [...wanted.filter((id) => packs.has(id)), ...[...packs.keys()].filter((id) => !wanted.includes(id))];
  const ordered = orderLayers(asked, rules);
  if (!ordered.ok) throw new SatchelError('order-cycle', { names: ordered.cycle.map((id) => `“${session.nameOf(id)}”`).join(', ') });
  const others = session.stack.layers.filter(({ kind }) => kind !== 'pack');
  await session.saveStack({ order: [...rules], layers: [...ordered.order.map((id) => packs.get(id) as PackLayer), ...others] });
}

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
  await setOrder(session, session.packLayers().map(({ id }) => id), rules);
}

export const dropRule = (session: Session, lower: string, upper: string): Promise<void> =>
  session.saveStack({ order: session.stack.order.filter((one) => one.lower !== lower || one.upper !== upper) });

/** Lets a layer win one file, folder or kind; without one the order decides again. */
export async function setPick(session: Session, scope: Pick['scope'], at: string, layer: string | undefined): Promise<void> {
  if (layer !== undefined && layer !== ORIGINAL) session.layer(layer);
  await session.saveStack({ picks: pick(session.stack.picks, scope, at as TargetPath, layer) });
}

/** What says that a pack is a patch for another one puts it above that one, and keeps it there. */
export async function proposeOrder(session: Session, id: string): Promise<void> {
  const packs = await Promise.all(session.packLayers().map(async (layer) => ({ id: layer.id, name: layer.name, facts: (await session.openPack(layer.packId)).facts })));
  const mine = packs.find((pack) => pack.id === id);
  if (!mine) return;
  const rules = [...session.stack.order];
  for (const other of packs) {
    if (other === mine) continue;
    for (const [patch, base] of [[mine, other], [other, mine]] as const)
      if (packBase(patch.facts, [base]) && !rules.some((rule) => [rule.lower, rule.upper].sort().join() === [patch.id, base.id].sort().join())) {
        const rule = { lower: base.id, upper: patch.id, why: `“${patch.name}” says that it needs “${base.name}”, so it lies above it.` };
        // What the player has ruled before counts for more.
        if (orderLayers(packs.map((pack) => pack.id), [...rules, rule]).ok) rules.push(rule);
      }
  }
  if (rules.length > session.stack.order.length) await setOrder(session, session.packLayers().map((layer) => layer.id), rules);
}

/** Takes a layer out of every rule and pick, or puts another one in its place. */
export function withoutLayer(session: Session, id: string, instead?: string): { order: Stack['order']; picks: Stack['picks'] } {
  const swap = (one: string) => (one === id && instead !== undefined ? instead : one);
  return {
    order: session.stack.order.map((rule) => ({ ...rule, lower: swap(rule.lower), upper: swap(rule.upper) })).filter(({ lower, upper }) => lower !== id && upper !== id),
    picks: session.stack.picks.map((one) => ({ ...one, layer: swap(one.layer) })).filter(({ layer }) => layer !== id),
  };
}
