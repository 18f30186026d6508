import { monogram, nextColour, openPack, packName, sha256, type WorkOptions } from '@/core';
import { memory, type PackLayer } from '@/storage/memory';
import type { Session } from './session';

/** Reads a download, keeps it, and puts it on top of the packs in the stack. */
export async function bringIn(session: Session, file: Blob, name: string, options: Required<WorkOptions>): Promise<{ layer: string; known: boolean }> {
  const pack = await openPack(file, name, options);
  options.onProgress({ phase: 'Reading it through', done: 0, total: file.size, unit: 'bytes' });
  const hash = await sha256(file);
  const same = session.notes.find((note) => note.sha256 === hash);
  const layerOfSame = same && session.packLayers().find((layer) => layer.packId === same.id);
  if (layerOfSame) return { layer: layerOfSame.id, known: true };
  options.signal.throwIfAborted();
  const id = same?.id ?? crypto.randomUUID();
  if (!same) {
    options.onProgress({ phase: 'Keeping the download', done: 0, total: file.size, unit: 'bytes' });
    await memory.setArchive(id, file);
    const note = { id, game: session.game.id, file: name, size: file.size, sha256: hash, added: Date.now() };
    await memory.setPacks([...(await memory.packs([])), note]);
    session.notes = [...session.notes, note];
  }
  const { placement, confidence, choices } = await session.proposal(id);
  const others = session.packLayers();
  const title = packName(pack.name);
  const layer: PackLayer = {
    kind: 'pack', id: crypto.randomUUID(), packId: id, name: title, on: true, placement, confidence, reason: choices[0]?.reason ?? '',
    tag: { monogram: monogram(title, new Set(others.map(({ tag }) => tag.monogram))), colour: nextColour(others.map(({ tag }) => tag.colour)) },
  };
  const firstEdits = session.stack.layers.findIndex(({ kind }) => kind === 'edits');
  const layers = [...session.stack.layers];
  layers.splice(firstEdits < 0 ? layers.length : firstEdits, 0, layer);
  await session.saveStack({ layers });
  return { layer: layer.id, known: false };
}
