import type { Placement } from '@/core';
import type { Session } from './session';
import { proposalFor } from './packProposal';

/** What the player decides about a pack's place, carried out on the stack. */

/** Takes the app's proposal under these decisions. */
export async function proposeWith(session: Session, id: string, decisions: Placement['decisions']): Promise<void> {
  const { placement, confidence, parts } = await proposalFor(session, session.layer(id).packId, decisions.answers);
  await session.replaceLayer(id, (layer) => ({ ...layer, confidence, parts, placement: { ...placement, decisions } }));
}
