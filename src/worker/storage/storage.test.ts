import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { emptyStack, noHistory, plainCard } from '@/core';
import { BrowserFolder } from '@/folders/browser';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { memory } from '@/storage/memory';
import { Seen } from '../game/seen';
import type { Session } from '../game/session';
import { storageView } from './view';
import { blob, demo, eachInItsBrowser, reloaded } from '../../../tests/support/seat';

eachInItsBrowser();

const boat = (content: string) => blob({ 'boats/heron.png': content });

describe('what takes how much room', () => {
  it('is added up by what lies there, and says of every pack what needs it', async () => {
    const seat = await demo();
    const [low, high] = [boat('low'), boat('a higher one')];
    await seat.bringIn(low, 'low.zip');
    await seat.bringIn(high, 'high.zip');
    await seat.engine.change({ do: 'keep set-up', name: 'alone', of: 'now' });
    await seat.engine.change({ do: 'deploy' });
    const view = await seat.engine.ask({ ask: 'storage' });
    expect(view.packs.map(({ name, bytes, needs, spare }) => [name, bytes, needs, spare])).toEqual([
      ['High', high.size, ['stack', 'deployed', { setUp: 'alone' }, 'undo'], false],
      ['Low', low.size, ['stack', { setUp: 'alone' }, 'undo'], false],
    ]);
    // Held against what the folders themselves say.
    const sum = async (name: string, under?: string) => {
      let [files, bytes] = [0, 0];
      for await (const { size } of (await BrowserFolder.open(name, { onlyLook: true })).list(under)) {
        files++;
        bytes += size;
      }
      return { files, bytes };
    };
    const part = (what: string) => view.parts.find((one) => one.what === what);
    expect(part('packs')).toEqual({ what: 'packs', at: 'browser', files: 2, bytes: low.size + high.size });
    expect(part('originals')).toMatchObject(await sum(`${seat.game.id}-vault`, 'objects'));
    expect(part('originals')?.files).toBe(1);
    const [program, user] = [await sum(`${seat.game.id}-program`), await sum(`${seat.game.id}-user`)];
    expect(part('folders')).toMatchObject({
      files: program.files + user.files,
      bytes: program.bytes + user.bytes,
    });
    expect(part('copies')).toBeUndefined();
  });

  it('of a game of the app’s own server: what lies beside its originals, and what lies there of others is not counted', async () => {
    const given = { id: '0123456789abcdef', path: '/games/quay', name: 'quay', backup: '/originals/quay' };
    const session = {
      workshop: {
        folders: {},
        vault: new MemoryFolder({ 'objects/ab/abcd': '12345', 'packs/p.zip': '123', 'ledger/1.json': '123456789012' }),
        backup: new MemoryFolder({ 'data/game/a': '12345', 'set-up/1.json': '12', 'holiday.jpg': '1234567' }),
      },
      game: { id: 'quay', kind: 'bridge', card: plainCard('quay', 'Quay'), given: { game: given }, handles: {} },
      notes: [],
      stack: emptyStack,
      setUps: [],
      history: noHistory,
      seen: new Seen(),
      packLayers: () => [],
    } as unknown as Session;
    const { parts, names, packs } = await storageView(session);
    expect(parts.filter(({ at }) => at !== 'browser')).toEqual([
      { what: 'originals', at: 'vault', files: 1, bytes: 5 },
      { what: 'packs', at: 'vault', files: 1, bytes: 3 },
      { what: 'records', at: 'vault', files: 1, bytes: 12 },
      { what: 'copies', at: 'backup', files: 1, bytes: 5 },
      { what: 'set-ups', at: 'backup', files: 1, bytes: 2 },
    ]);
    expect([names, packs]).toEqual([{ vault: given.backup, backup: given.backup }, []]);
  });

  it('packs that only Undo needs are let go: their files are gone, and Undo leads no further back than it can', async () => {
    const seat = await demo();
    await seat.bringIn(boat('low'), 'low.zip');
    const { layer = '' } = seat.game.packs[0] ?? {};
    await seat.engine.change({ do: 'take out', layers: [layer] });
    await seat.bringIn(boat('high'), 'high.zip');
    const [spare] = (await seat.engine.ask({ ask: 'storage' })).packs.filter((one) => one.spare);
    expect(spare).toMatchObject({ file: 'low.zip', needs: ['undo'] });
    const kept = (await seat.engine.ask({ ask: 'storage' })).packs.filter((one) => !one.spare);
    // What is needed is never let go, whoever asks for it.
    await seat.engine.change({ do: 'let packs go', ids: [spare?.id ?? '', ...kept.map(({ id }) => id)] });
    expect(seat.game.packs.map(({ name }) => name)).toEqual(['High']);
    expect(await memory.archive(spare?.id ?? '')).toBeUndefined();
    const again = await reloaded();
    expect((await again.engine.ask({ ask: 'storage' })).packs.map(({ file }) => file)).toEqual(['high.zip']);
    expect(again.game.history.undo).toMatch(/High/);
    await again.engine.change({ do: 'go to step', steps: 0 });
    expect(again.game.packs).toEqual([]);
    expect(again.game.waiting).toEqual([]);
    await again.engine.change({ do: 'go to step', steps: 1 });
    expect(again.game.packs.map(({ name }) => name)).toEqual(['High']);
  });
});
