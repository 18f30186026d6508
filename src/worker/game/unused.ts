import { packsIn, readState, type JsonObject } from '@/core';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { memory } from '@/storage/memory';
import type { Session } from './session';

/** Packs that going back or forth would bring into the stack. */
const packsOfHistory = ({ history }: Session): Set<string> =>
  packsIn([...history.past, ...history.future].flatMap(({ changes }) => changes as unknown as JsonObject[]));

/** Forgets archives that neither the stack, nor anything deployed, nor any step back or forth needs any more. */
export async function forgetUnused(session: Session): Promise<void> {
  const { vault } = session.workshop;
  const state = await readState(vault);
  const needed = new Set([
    ...session.packLayers().map(({ packId }) => packId),
    ...packsOfHistory(session),
    ...packsIn(session.setUps),
    ...state.files.flatMap(({ from }) => (from.kind === 'pack' ? [from.packId] : [])),
  ]);
  const gone = session.notes.filter(({ id }) => !needed.has(id));
  if (gone.length === 0) return;
  const ids = new Set(gone.map(({ id }) => id));
  session.notes = session.notes.filter(({ id }) => !ids.has(id));
  await memory.setPacks((await memory.packs([])).filter(({ id }) => !ids.has(id)));
  for (const { id, there } of gone) {
    if (there && vault instanceof BridgeFolder) await vault.removePack(id);
    await memory.removeArchive(id);
    session.packs.forget(id);
  }
}
