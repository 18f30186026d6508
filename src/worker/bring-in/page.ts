import { memory } from '@/storage/memory';
import { WRITTEN, type PackNote, type Written } from '@/core';
import { proposeWith } from '../game/placing';
import type { Session } from '../game/session';

/** More of each is not kept, in characters. */
const LONGEST: Record<keyof Written, number> = { page: 64 * 1024, origin: 2000, version: 100, remember: 4000 };

/** Writes what the player says of a pack into its note; an empty text takes it out, what is not named stays. */
export async function writeNote(session: Session, packId: string, written: Written): Promise<void> {
  const change = (note: PackNote): PackNote => {
    if (note.id !== packId) return note;
    const changed = { ...note };
    for (const part of WRITTEN) {
      const text = written[part]?.trim().slice(0, LONGEST[part]);
      if (text === '') delete changed[part];
      else if (text !== undefined) changed[part] = text;
    }
    return changed;
  };
  session.notes = session.notes.map(change);
  await memory.setPacks((await memory.packs([])).map(change));
}

/**
 * Keeps the text of the page that a pack came from. What it says can change where the pack goes, unless the player has
 * placed it.
 */
export async function takePage(session: Session, id: string, page: string): Promise<void> {
  const { packId, placement, confidence } = session.layer(id);
  await writeNote(session, packId, { page });
  session.forgetPage(packId);
  if (confidence !== 'chosen') await proposeWith(session, id, placement.decisions);
}
