import { pathId, numberedSections, removeNumbered, type SettingsFile } from '@/core';
import type { Session } from '../game/session';
import { futureDocument, noteEdits } from '../game/playerEdits';

/** Takes one of the numbered sections out. What was only wanted and never there needs no edit to go. */
export async function removeSection(
  session: Session,
  { target, numbered }: SettingsFile,
  section: string,
): Promise<void> {
  const gone =
    numbered &&
    numberedSections(futureDocument(session, target), numbered.section).find((one) => one.section === section);
  if (!gone) return;
  const mine = session.editsLayers().find(({ file }) => file === target)?.edits ?? [];
  const there = session.picture.settings.get(target);
  const edits = removeNumbered(gone);
  const wishes = edits.filter(
    ({ path }) => there?.get(path) === undefined && mine.some((edit) => pathId(edit.path) === pathId(path)),
  );
  if (wishes.length > 0)
    await session.setEdits(target, (all) =>
      all.filter((edit) => !wishes.some(({ path }) => pathId(path) === pathId(edit.path))),
    );
  await noteEdits(
    session,
    target,
    edits.filter((edit) => !wishes.includes(edit)),
  );
}
