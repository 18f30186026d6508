import { carryDecisions, type Placement, type PackLayer } from '@/core';
import { withoutLayers } from '../game/stackOrder';
import type { Session } from '../game/session';
import { placementAt, proposalFor } from '../game/packProposal';

/**
 * Puts one pack in the place of another release of it, with the player's decisions: same place in the stack, same tag.
 */
export async function replaceRelease(session: Session, id: string, earlierId: string): Promise<void> {
  const [layer, earlier] = [session.layer(id), session.layer(earlierId)];
  const [{ pack }, { pack: before }] = [await session.openPack(layer.packId), await session.openPack(earlier.packId)];
  const decisions = carryDecisions(earlier.placement.decisions, before.entries, pack.entries);
  const proposal = await proposalFor(session, layer.packId, decisions.answers);
  // A place that the player chose for the old one holds for the new one too.
  const chosen = earlier.confidence === 'chosen' ? earlier.placement.rules[0] : undefined;
  const base: Placement =
    chosen?.as === 'files'
      ? await placementAt(session, layer.packId, proposal.placement.rules[0]?.from ?? '', chosen.to)
      : proposal.placement;
  const next: PackLayer = {
    ...layer,
    tag: earlier.tag,
    on: earlier.on,
    confidence: chosen ? 'chosen' : proposal.confidence,
    parts: chosen ? earlier.parts : proposal.parts,
    placement: { ...base, decisions },
  };
  const swap = (one: string) => (one === earlierId ? id : one);
  const layers = session.stack.layers
    .filter((one) => one.id !== id)
    .map((one): typeof one => {
      if (one.id === earlierId) return next;
      return one.kind === 'merge' ? { ...one, sources: one.sources.map(swap) } : one;
    });
  await session.saveStack({ ...withoutLayers(session, [earlierId], id), layers });
}
