import { proposeWith } from '../game/placing';
import type { Session } from '../game/session';
import { writeNotes } from '../game/written';

/**
 * Keeps the text of the page that a pack came from. What it says can change where the pack goes, unless the player has
 * placed it.
 */
export async function takePage(session: Session, id: string, page: string): Promise<void> {
  const { packId, placement, confidence } = session.layer(id);
  await writeNotes(session, [packId], { page });
  session.forgetPage(packId);
  if (confidence !== 'chosen') await proposeWith(session, id, placement.decisions);
}
