import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { emptyStack, noHistory, packNoteSchema } from '@/core';
import type { Ask } from '@/folders/bridge';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { memory } from '@/storage/memory';
import type { Session } from './session';
import { Seen } from './seen';
import { forgetUnused } from './unused';

const note = (id: string) =>
  packNoteSchema.parse({ id, game: 'g', file: `${id}.zip`, size: 1, sha256: 'a'.repeat(64), added: 1 });

describe('packs that nothing needs any more', () => {
  it('go from the browser, and from beside the originals where they were sent', async () => {
    const removed: string[] = [];
    const server: Ask = async (address, { method = 'GET' } = {}) => {
      if (method === 'DELETE') removed.push(new URL(address, 'http://x').searchParams.get('path') ?? '');
      return Response.json(method === 'DELETE' ? true : null);
    };
    const forgotten: string[] = [];
    const session = {
      stack: { ...emptyStack, layers: [{ kind: 'pack', id: 'l', packId: 'needed' }] },
      setUps: [],
      history: noHistory,
      seen: new Seen(),
      workshop: { vault: new BridgeFolder('0123456789abcdef', 'vault', server) },
      notes: [note('needed'), note('spare')],
      packs: { forget: (id: string) => forgotten.push(id) },
    } as unknown as Session;
    await memory.setPacks([...session.notes, { ...note('other game'), game: 'h' }]);
    await forgetUnused(session);
    expect(session.notes.map(({ id }) => id)).toEqual(['needed']);
    expect((await memory.packs([])).map(({ id }) => id)).toEqual(['needed', 'other game']);
    expect([removed, forgotten]).toEqual([['packs/spare.zip'], ['spare']]);
  });
});
