import { isSpare, type Folder, type PackNote } from '@/core';
import { memory } from '@/storage/memory';
import type { StorageView, StoredAt, StoredPack, StoredPart, StoredWhat } from '../contract';
import { mainFolder } from '../game/mainFolder';
import type { Session } from '../game/session';
import { needsIn } from '../game/unused';

/** What the folders of a vault and of a backup folder hold, by their names; the rest are records. */
const HOLDS: Record<string, StoredWhat> = { objects: 'originals', packs: 'packs', data: 'copies', 'set-up': 'set-ups' };

/** What lies in folders, by what it is. */
async function partsIn(folder: Folder, at: StoredAt, under: readonly (string | undefined)[]): Promise<StoredPart[]> {
  const parts = new Map<StoredWhat, StoredPart>();
  for (const one of under)
    for await (const { path, size } of folder.list(one)) {
      const what = HOLDS[path.slice(0, Math.max(0, path.indexOf('/')))] ?? 'records';
      const part = parts.get(what) ?? { what, at, files: 0, bytes: 0 };
      parts.set(what, { ...part, files: part.files + 1, bytes: part.bytes + size });
    }
  return [...parts.values()];
}

const sizeOf = ({ kept, size }: PackNote): number => kept?.size ?? size;
const inBrowser = (notes: readonly PackNote[], what: StoredWhat): StoredPart => ({
  what,
  at: 'browser',
  files: notes.length,
  bytes: notes.reduce((sum, note) => sum + sizeOf(note), 0),
});

/** Folders of the game itself that are kept in this browser. */
async function ownFolders({ workshop, game }: Session): Promise<StoredPart[]> {
  const part: StoredPart = { what: 'folders', at: 'browser', files: 0, bytes: 0 };
  if (game.kind !== 'demo') return [part];
  for (const { id } of game.card.roots)
    for await (const { size } of workshop.folders[id]?.list() ?? []) {
      part.files++;
      part.bytes += size;
    }
  return [part];
}

async function storedPacks(session: Session): Promise<StoredPack[]> {
  const needs = await needsIn(session);
  const names = new Map(session.packLayers().map(({ packId, name }) => [packId, name]));
  return session.notes
    .map((note): StoredPack => ({
      id: note.id,
      name: names.get(note.id) ?? note.file,
      file: note.file,
      bytes: sizeOf(note),
      at: note.there ? 'vault' : 'browser',
      needs: needs.get(note.id) ?? [],
      spare: isSpare(needs.get(note.id)),
    }))
    .sort((a, b) => b.bytes - a.bytes || (a.file < b.file ? -1 : 1));
}

/** What is left where the app keeps things. */
async function roomsOf({ workshop, game }: Session): Promise<StorageView['rooms']> {
  const { quota, usage = 0 } = (await navigator.storage?.estimate?.()) ?? {};
  const room = mainFolder(game) && (await workshop.vault.room?.());
  return [
    ...(quota === undefined ? [] : [{ at: 'browser' as const, left: quota - usage }]),
    ...(room ? [{ at: 'vault' as const, left: room.left }] : []),
  ];
}

/** What takes how much room. Everything is looked at anew. */
export async function storageView(session: Session): Promise<StorageView> {
  const { workshop, game, notes } = session;
  const { vault, backup } = workshop;
  const main = mainFolder(game);
  const at: StoredAt = main ? 'vault' : 'browser';
  const others = (await memory.packs([])).filter((note) => note.game !== game.id);
  const parts = [
    inBrowser(
      notes.filter(({ there }) => !there),
      'packs',
    ),
    inBrowser(
      others.filter(({ there }) => !there),
      'others',
    ),
    ...(await ownFolders(session)),
    ...(await partsIn(vault, at, [undefined])),
    // A folder that the player picked may hold other things, too.
    ...(backup ? await partsIn(backup, 'backup', ['data', 'set-up']) : []),
  ];
  const name = main?.backup ?? game.backup?.name;
  return {
    parts: parts.filter(({ files }) => files > 0),
    packs: await storedPacks(session),
    rooms: await roomsOf(session),
    names: name === undefined ? {} : { backup: name, ...(main ? { vault: name } : {}) },
  };
}
