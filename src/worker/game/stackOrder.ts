import { SatchelError, orderLayers, proposedRules, type OrderRule, type PackLayer, type Stack } from '@/core';
import type { Session } from './session';

/** The order of the stack, and who wins where the order is not to decide. */

/** Takes an order of packs, the lowest first, as far as the rules let it. @throws SatchelError `order-cycle` */
export async function setOrder(
  session: Session,
  wanted: readonly string[],
  rules: readonly OrderRule[] = session.stack.order,
): Promise<void> {
  const packs = new Map(session.packLayers().map((layer) => [layer.id, layer]));
  const asked = [...wanted.filter((id) => packs.has(id)), ...[...packs.keys()].filter((id) => !wanted.includes(id))];
  const ordered = orderLayers(asked, rules);
  if (!ordered.ok)
    throw new SatchelError('order-cycle', { names: ordered.cycle.map((id) => `“${session.nameOf(id)}”`).join(', ') });
  const others = session.stack.layers.filter(({ kind }) => kind !== 'pack');
  await session.saveStack({
    order: [...rules],
    layers: [...ordered.order.map((id) => packs.get(id) as PackLayer), ...others],
  });
}

/** What says that a pack is a patch for another one puts it above that one, and keeps it there. */
export async function proposeOrder(session: Session, id: string): Promise<void> {
  const packs = await Promise.all(
    session
      .packLayers()
      .map(async (layer) => ({ id: layer.id, name: layer.name, facts: (await session.openPack(layer.packId)).facts })),
  );
  const rules = proposedRules(packs, id, session.stack.order);
  if (rules.length > session.stack.order.length)
    await setOrder(
      session,
      packs.map((pack) => pack.id),
      rules,
    );
}

/** Takes layers out of every rule and pick, or puts another one in their place. */
export function withoutLayers(
  session: Session,
  ids: readonly string[],
  instead?: string,
): { order: Stack['order']; picks: Stack['picks'] } {
  const swap = (one: string) => (instead !== undefined && ids.includes(one) ? instead : one);
  return {
    order: session.stack.order
      .map((rule) => ({ ...rule, lower: swap(rule.lower), upper: swap(rule.upper) }))
      .filter(({ lower, upper }) => !ids.includes(lower) && !ids.includes(upper)),
    picks: session.stack.picks
      .map((one) => ({ ...one, layer: swap(one.layer) }))
      .filter(({ layer }) => !ids.includes(layer)),
  };
}
