import 'fake-indexeddb/auto';
import { describe, expect, it, vi } from 'vitest';
import { emptyStack, noHistory, packNoteSchema, plainCard } from '@/core';
import type { Ask } from '@/folders/bridge';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { memory } from '@/storage/memory';
import { Session, type SessionParts } from './session';
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
    const session = new Session({
      game: { id: 'g', card: plainCard('g', 'G') },
      stack: { ...emptyStack, layers: [{ kind: 'pack', id: 'l', packId: 'needed' }] },
      setUps: [],
      history: noHistory,
      workshop: { vault: new BridgeFolder('0123456789abcdef', 'vault', server) },
      notes: [note('needed'), note('spare')],
    } as unknown as SessionParts);
    const forget = vi.spyOn(session.packs, 'forget');
    await memory.setPacks([...session.notes, { ...note('other game'), game: 'h' }]);
    await forgetUnused(session);
    expect(session.notes.map(({ id }) => id)).toEqual(['needed']);
    expect((await memory.packs([])).map(({ id }) => id).sort()).toEqual(['needed', 'other game']);
    expect([removed, forget.mock.calls]).toEqual([['packs/spare.zip'], [['spare']]]);
  });
});
