import { WRITTEN, type PackNote, type Written } from '@/core';
import type { Session } from './session';

/** More of each is not kept, in characters. */
const LONGEST: Record<keyof Written, number> = {
  page: 64 * 1024,
  origin: 2000,
  version: 100,
  remember: 4000,
  heading: 100,
};

/** Writes what the player says of packs into their notes; an empty text takes it out, what is not named stays. */
export async function writeNotes(session: Session, packIds: readonly string[], written: Written): Promise<void> {
  const change = (note: PackNote): PackNote => {
    if (!packIds.includes(note.id)) return note;
    const changed = { ...note };
    for (const part of WRITTEN) {
      const text = written[part]?.trim().slice(0, LONGEST[part]);
      if (text === '') delete changed[part];
      else if (text !== undefined) changed[part] = text;
    }
    return changed;
  };
  await session.saveNotes(session.notes.map(change));
}
