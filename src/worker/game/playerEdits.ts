import {
  SatchelError,
  applySettings,
  listItems,
  nameKey,
  openSettings,
  pathId,
  withItem,
  withoutItem,
  type Edit,
  type SettingsDocument,
  type SettingsFile,
  type TargetPath,
} from '@/core';
import type { Said, SettingsCommands } from '../contract';
import type { Session } from './session';

export function settingsFile(session: Session, file: string): SettingsFile {
  const found = session.picture.settingsFiles.find(({ target }) => nameKey(target) === nameKey(file));
  if (!found) throw new SatchelError('unknown-thing', { what: 'settings file of that name' });
  return found;
}

/** A settings file that edits go onto at the next deployment; undefined where there is none yet. */
export const groundOf = ({ picture }: Session, target: TargetPath): SettingsDocument | undefined =>
  picture.coming.get(target)?.document ?? picture.settings.get(target);

/** A settings file as it will be after the next deployment. */
export function futureDocument(session: Session, file: string): SettingsDocument {
  const { target, dialect } = settingsFile(session, file);
  const now = groundOf(session, target) ?? openSettings('', dialect);
  try {
    return applySettings(now, session.picture.resolution.living.get(nameKey(target))?.edits ?? []).document;
  } catch (error) {
    // What a pack wants and the file cannot hold is told in the plan.
    if (error instanceof SatchelError) return now;
    throw error;
  }
}

/** Takes edits as the player's own. A value that the file cannot hold is refused here, not in the next plan. */
export async function noteEdits(session: Session, file: string, wanted: readonly Edit[]): Promise<void> {
  if (wanted.length === 0) return;
  const { target } = settingsFile(session, file);
  let document = futureDocument(session, target);
  for (const { path, value } of wanted)
    document = value === undefined ? document.remove(path) : document.set(path, value);
  const keys = new Set(wanted.map(({ path }) => pathId(path)));
  await session.setEdits(target, (edits) => [
    ...edits.filter((edit) => !keys.has(pathId(edit.path))),
    ...wanted.map(({ path, value }) => ({ path, ...(value === undefined ? {} : { value }) })),
  ]);
}

export async function changeList(
  session: Session,
  { file, path, item, on }: Said<SettingsCommands['list item']>,
): Promise<void> {
  const { target, keys } = settingsFile(session, file);
  const rule = keys.find((key) => nameKey(pathId(key.path)) === nameKey(pathId(path)));
  const separator = rule?.list ?? ',';
  if (item.trim() === '' || item.includes(separator))
    throw new SatchelError('bad-value', {
      value: item,
      why: `an item of the list is not empty and has no “${separator}” in it`,
    });
  const before = futureDocument(session, target).get(path) ?? rule?.default ?? '';
  const value = on ? withItem(before, separator, item.trim()) : withoutItem(before, separator, item);
  if (value !== before || listItems(before, separator).length === 0)
    await noteEdits(session, target, [{ path, value }]);
}
