import { checklistOf, proposeSettings, type ChecklistItem, type Placement, type SettingProposal, type SettingsDocument, type TargetPath } from '@/core';
import type { PackLayer } from '@/storage/memory';
import type { Session } from './session';

/** The opened settings files as a list, the same one for as long as they are the same. */
const lists = new WeakMap<ReadonlyMap<string, SettingsDocument>, { target: TargetPath; document: SettingsDocument }[]>();
const known = new WeakMap<Placement, { documents: object; asked: SettingProposal[]; steps: ChecklistItem[] }>();

function documentsOf({ picture }: Session): { target: TargetPath; document: SettingsDocument }[] {
  const before = lists.get(picture.settings);
  if (before) return before;
  const made = [...picture.settings].map(([target, document]) => ({ target: target as TargetPath, document }));
  lists.set(picture.settings, made);
  return made;
}

/** What a pack's read-me asks to set in this game, and the read-me as a list of steps; remembered until one of them changes. */
export async function askedBy(session: Session, layer: PackLayer): Promise<{ asked: readonly SettingProposal[]; steps: readonly ChecklistItem[] }> {
  const documents = documentsOf(session);
  const { placement } = layer;
  const before = known.get(placement);
  if (before?.documents === documents) return before;
  const { pack, readMe } = await session.openPack(layer.packId);
  const { card, statements } = session.game;
  const asked = readMe ? proposeSettings({ card, statements, documents, readMe, entries: pack.entries, placement }) : [];
  const steps = readMe ? checklistOf({ entries: pack.entries, card, gameFiles: session.picture.ownFiles, readMe, placement, proposals: asked }) : [];
  const made = { documents, asked, steps };
  known.set(placement, made);
  return made;
}
