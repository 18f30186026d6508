import { needsOfPacks, type Need } from '@/core';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { memory } from '@/storage/memory';
import type { Session } from './session';
import { stateNow } from './stateNow';

/** What needs each pack of a game. */
export async function needsIn(session: Session): Promise<Map<string, Need[]>> {
  const { stack, setUps, history } = session;
  const { files } = await stateNow(session);
  const deployed = files.flatMap(({ from }) => (from.kind === 'pack' ? [from.packId] : []));
  return needsOfPacks({ stack, setUps, history, deployed });
}

/** Forgets archives that neither the stack, nor anything deployed, nor a set-up, nor any step back or forth needs. */
export async function forgetUnused(session: Session): Promise<void> {
  const { vault } = session.workshop;
  const needs = await needsIn(session);
  const gone = session.notes.filter(({ id }) => !needs.has(id));
  if (gone.length === 0) return;
  const ids = new Set(gone.map(({ id }) => id));
  await session.saveNotes(session.notes.filter(({ id }) => !ids.has(id)));
  for (const { id } of gone) {
    await memory.removeArchive(id);
    session.packs.forget(id);
    if (vault instanceof BridgeFolder) await vault.removePack(id);
  }
}
