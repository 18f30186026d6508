import { memory } from '@/storage/memory';
import { type PackNote } from '@/core';
import { proposeWith } from '../game/placing';
import type { Session } from '../game/session';

/** More of a pasted page is not kept, in characters. */
const LONGEST_PAGE = 64 * 1024;

/**
 * Keeps the text of the page that a pack came from. What it says can change where the pack goes, unless the player has
 * placed it.
 */
export async function takePage(session: Session, id: string, text: string): Promise<void> {
  const { packId, placement, confidence } = session.layer(id);
  const page = text.trim().slice(0, LONGEST_PAGE);
  const change = (note: PackNote): PackNote => {
    const { page: _before, ...rest } = note;
    return note.id !== packId ? note : page === '' ? rest : { ...rest, page };
  };
  session.notes = session.notes.map(change);
  await memory.setPacks((await memory.packs([])).map(change));
  session.forgetPage(packId);
  if (confidence !== 'chosen') await proposeWith(session, id, placement.decisions);
}
