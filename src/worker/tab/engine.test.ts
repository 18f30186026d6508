import 'fake-indexeddb/auto';
import localforage from 'localforage';
import { describe, expect, it, vi } from 'vitest';
import { gullwickFolders } from '@/demo/gullwick';
import { BrowserFolder } from '@/folders/browser';
import { memory } from '@/storage/memory';
import { Seat, blob, demo, eachInItsBrowser, reloaded } from '../../../tests/support/seat';
import type { PlaceRow } from '../contract';

eachInItsBrowser();

describe('the engine', () => {
  it('begins without a game, and sets up the demo', async () => {
    const seat = await new Seat().start();
    expect(seat.snapshot).toMatchObject({ ready: true, readOnly: false, games: [], game: undefined });
    await seat.engine.change({ do: 'open demo' });
    expect(seat.game).toMatchObject({
      id: 'gullwick',
      demo: true,
      packs: [],
      roots: [
        { id: 'program', files: 46 },
        { id: 'user', files: 8 },
      ],
      plan: { total: 0 },
    });
    expect(seat.game.guide.step).toBe('bring-in');
  });

  it('goes the whole way, and nothing is lost by a reload at any point', async () => {
    let seat = await demo();
    const { layer } = await seat.fromShelf('weathered-quay-1.2.zip');
    expect(seat.game.packs[0]).toMatchObject({
      layer,
      name: 'Weathered Quay 1.2',
      files: 217,
      placement: { parts: [{ to: 'program' }], confidence: 'sure', placed: 214, fresh: 198, replacing: 16, leftOut: 3 },
    });
    expect(seat.game.guide).toMatchObject({ step: 'settings', attention: { settings: 1, deploy: 214 } });

    seat = await reloaded();
    expect(seat.game.packs[0]?.placement.placed).toBe(214);
    await seat.engine.change({
      do: 'set edits',
      file: 'user/ferries.ini',
      edits: [{ path: ['Graphics', 'AddonTextures'], value: '1' }],
    });
    expect(seat.game.switches[0]).toMatchObject({ on: false, pending: true, neededBy: 214 });
    expect(seat.game.plan).toMatchObject({ total: 215, counts: { add: 198, replace: 16, edit: 1 } });

    seat = await reloaded();
    expect(await seat.engine.change({ do: 'deploy' })).toMatchObject({ landed: 215, number: 1 });
    expect(seat.game).toMatchObject({
      plan: { total: 0 },
      deployed: { packs: 1, covered: 0, files: 214, originals: 17, edits: 1 },
    });
    expect(seat.jobs.some(({ phase }) => phase === 'Writing and reading back')).toBe(true);

    seat = await reloaded();
    await seat.engine.change({ do: 'trial run' });
    expect(seat.game.check).toMatchObject({ fresh: true, loaded: 214, counted: 214 });
    expect(seat.game.check.findings.map(({ level }) => level)).toEqual(['good']);

    seat = await reloaded();
    expect(seat.game.check.fresh).toBe(true);
    await seat.engine.change({ do: 'put all back' });
    expect(seat.game.deployed).toEqual({ packs: 0, covered: 0, files: 0, originals: 0, edits: 0 });
    expect(seat.game.plan.total).toBe(215);
    expect(seat.game.guide.sentence).toContain('Everything is back as it was');
    const own = gullwickFolders();
    for (const root of ['program', 'user'] as const) {
      const folder = await BrowserFolder.open(`gullwick-${root}`);
      for (const [path, data] of Object.entries(own[root]))
        expect(Buffer.compare(await folder.readBytes(path), data), path).toBe(0);
    }
  });

  it('brings in what it can of many downloads, and says of each other why not', async () => {
    const seat = await demo();
    const good = (i: number) => ({ name: `boat ${i}.zip`, data: blob({ 'assets/models/boats/heron.mesh': `${i}` }) });
    const files = [
      good(1),
      { name: 'nothing.zip', data: new Blob([]) },
      good(2),
      { name: 'page.zip', data: new Blob(['<html>']) },
      { ...good(1), name: 'again.zip' },
      good(3),
    ];
    const { brought, refused } = await seat.engine.change({ do: 'bring in', files });
    expect(brought.map(({ known }) => known)).toEqual([false, false, true, false]);
    expect(refused.map(({ name, failure }) => `${name} ${failure.code}`)).toEqual([
      'nothing.zip empty',
      'page.zip not-an-archive',
    ]);
    expect(seat.game.packs.map(({ name }) => name)).toEqual(['Boat 1', 'Boat 2', 'Boat 3']);
    // Stopped in the middle: what came in stays, and the rest is named.
    const work = seat.engine.change({ do: 'bring in', files: [good(4), good(5), good(6)] });
    await vi.waitFor(() => expect(seat.jobs.some(({ phase }) => phase.startsWith('2 of 3'))).toBe(true), {
      interval: 1,
      timeout: 120_000,
    });
    await seat.engine.cancel();
    const stopped = await work;
    expect(stopped.brought.length).toBeGreaterThan(0);
    expect(stopped.brought.length + stopped.refused.length).toBe(3);
    for (const { failure } of stopped.refused) expect(failure.code).toBe('cancelled');
    expect(seat.game.packs).toHaveLength(3 + stopped.brought.length);
  });

  it('knows a pack that is brought in a second time, whatever its name', async () => {
    const seat = await demo();
    const pack = blob({ 'boats/heron.png': 'x' });
    const first = await seat.bringIn(pack, 'one.zip');
    expect(await seat.bringIn(pack, 'the same again.zip')).toEqual({ layer: first.layer, known: true });
    expect(seat.game.packs).toHaveLength(1);
  });

  it('refuses a bad download and is as it was', async () => {
    const seat = await demo();
    const before = JSON.stringify(seat.game);
    await expect(seat.bringIn(new Blob([]), 'nothing.zip')).rejects.toMatchObject({ code: 'empty' });
    await expect(seat.fromShelf('soggy-download.zip')).rejects.toMatchObject({ code: 'damaged' });
    await expect(seat.fromShelf('no-such.zip')).rejects.toMatchObject({ code: 'unknown-thing' });
    expect(JSON.stringify(seat.game)).toBe(before);
  });

  it('does not deploy a pack whose place it is not sure of, until the player says so', async () => {
    const seat = await demo();
    const { layer } = await seat.bringIn(blob({ 'odd/thing.dat': 'x' }), 'odd.zip');
    expect(seat.game).toMatchObject({ plan: { total: 0 }, guide: { step: 'place', attention: { place: 1 } } });
    await expect(
      seat.engine.change({ do: 'place at', layer, strip: 'odd', base: 'nowhere/else' }),
    ).rejects.toMatchObject({ code: 'bad-target' });
    await expect(
      seat.engine.change({ do: 'place at', layer, strip: 'odd', base: 'program/../../etc' }),
    ).rejects.toMatchObject({ code: 'bad-target' });
    await seat.engine.change({ do: 'place at', layer, strip: 'odd', base: 'program/addons/odd/' });
    expect(seat.game).toMatchObject({
      plan: { total: 1 },
      packs: [{ placement: { parts: [{ to: 'program/addons/odd' }], confidence: 'chosen' } }],
    });
  });

  /** Every file of the game's simulated folders, as text. */

  it('gives rows piece by piece, with what happens to each file', async () => {
    const seat = await demo();
    const { layer } = await seat.fromShelf('painted-boats.zip');
    const place = async (open: string[], search = '') =>
      (await seat.engine.ask({ ask: 'rows', query: { view: 'place', layer, open, search }, offset: 0, limit: 100 }))
        .rows as PlaceRow[];
    expect((await place([])).map(({ path, placed, files, goesTo }) => [path, placed, files, goesTo])).toEqual([
      ['boats', 7, 7, 'program/assets/textures/boats'],
      ['readme.md', 0, 1, undefined],
    ]);
    expect((await place([], 'tern'))[0]).toMatchObject({
      goesTo: 'program/assets/textures/boats/tern.png',
      effect: 'replaces',
    });
    await seat.engine.change({ do: 'take file', layer, path: 'boats/tern.png', takeIn: false });
    expect((await place([], 'tern'))[0]).toMatchObject({ goesTo: undefined, leftOut: 'You left it out.' });
    expect(
      await seat.engine.ask({
        ask: 'rows',
        query: { view: 'plan', action: 'replace', search: '' },
        offset: 4,
        limit: 100,
      }),
    ).toMatchObject({
      total: 6,
      rows: [{ action: 'replace' }, { action: 'replace' }],
    });
    await seat.engine.change({ do: 'deploy' });
    expect(
      await seat.engine.ask({
        ask: 'rows',
        query: { view: 'ledger', number: 1, search: 'heron' },
        offset: 0,
        limit: 10,
      }),
    ).toMatchObject({
      total: 1,
      rows: [{ target: 'program/assets/textures/boats/heron.png' }],
    });
  });

  it('shows texts as text, and only texts', async () => {
    const seat = await demo();
    const { layer } = await seat.bringIn(blob({ 'boats/heron.png': 'x', 'readme.txt': '\ufeff<b>hello</b>' }), 'a.zip');
    expect(await seat.engine.ask({ ask: 'text in pack', layer, path: 'readme.txt' })).toBe('<b>hello</b>');
    await expect(seat.engine.ask({ ask: 'text in pack', layer, path: 'boats/heron.png' })).rejects.toMatchObject({
      code: 'not-text',
    });
    await expect(seat.engine.ask({ ask: 'text in pack', layer, path: 'not/there' })).rejects.toMatchObject({
      code: 'not-text',
    });
  });

  it('lets a second tab look, not write, and hands over', async () => {
    const first = await demo();
    await first.engine.change({ do: 'fetch from shelf', file: 'painted-boats.zip' });
    // What the first one has written and not yet taken into its index.
    const items = localforage.createInstance({ name: `satchel-folder-${first.game.id}-vault`, storeName: 'bytes' });
    await items.setItem('under way', new Uint8Array(3));
    // What the first one does when it is left alone is done.
    await vi.waitFor(() => expect(first.game.safety.copies.readAt).toBeGreaterThan(0), { timeout: 120_000 });
    const writes = (['put', 'delete', 'clear'] as const).map((name) => vi.spyOn(IDBObjectStore.prototype, name));
    const second = await new Seat().start();
    for (const spy of writes) expect(spy).not.toHaveBeenCalled();
    vi.restoreAllMocks();
    expect(second.snapshot).toMatchObject({ readOnly: true, game: { packs: [{ name: 'Painted Boats' }] } });
    await expect(second.engine.change({ do: 'deploy' })).rejects.toMatchObject({ code: 'read-only-tab' });
    expect(second.game.plan.total).toBe(7);
  });

  it('does not list folders that take long again for changes that write nothing to them, but does to deploy', async () => {
    const seat = await demo();
    const { layer } = await seat.fromShelf('painted-boats.zip');
    const { list } = BrowserFolder.prototype;
    let listings = 0;
    vi.spyOn(BrowserFolder.prototype, 'list').mockImplementation(async function* (this: BrowserFolder, under) {
      if (under === undefined) {
        listings++;
        await new Promise((go) => setTimeout(go, 400));
        // Somebody else's, each time another one.
        yield { path: `theirs ${listings}`, size: 1, modified: 1 };
      }
      yield* list.call(this, under);
    });
    await seat.engine.change({ do: 'switch packs', layers: [layer], on: false });
    expect(listings).toBe(2);
    expect(seat.game).toMatchObject({ plan: { total: 0 }, roots: [{ files: 47 }, { files: 9 }] });
    await seat.engine.change({ do: 'switch packs', layers: [layer], on: true });
    expect(listings).toBe(2);
    expect(seat.game.plan.total).toBe(7);
    await seat.engine.change({ do: 'deploy' });
    expect(listings).toBe(6);
    expect(seat.game).toMatchObject({ plan: { total: 0 }, deployed: { files: 7 } });
    await seat.engine.change({ do: 'look again' });
    expect(listings).toBe(8);
    await seat.engine.change({ do: 'check deployed' });
    expect(listings).toBe(10);
    vi.restoreAllMocks();
  });

  it('sets a pack aside whose archive the browser has lost, says so, and has it back by its content', async () => {
    let seat = await demo();
    const lost = blob({ 'boats/heron.png': 'x' });
    await seat.bringIn(lost, 'lost.zip');
    await memory.removeArchive(seat.game.packs[0]?.packId as string);
    seat = await reloaded();
    expect(seat.game.packs).toEqual([]);
    expect(seat.snapshot?.trouble.map(({ code }) => code)).toEqual(['source-missing']);
    expect(seat.game.waiting).toMatchObject([{ name: 'Lost', file: 'lost.zip' }]);
    const { layer } = await seat.bringIn(blob({ 'boats/heron.png': 'another' }), 'lost.zip');
    expect(seat.game.waiting).toHaveLength(1);
    expect(await seat.bringIn(lost, 'called otherwise.zip')).toMatchObject({
      layer: seat.game.packs[0]?.layer,
      known: false,
    });
    expect(seat.game.packs.map((pack) => pack.name)).toEqual(['Lost', 'Lost']);
    expect(seat.game.packs[0]?.layer).not.toBe(layer);
    expect(seat.game.waiting).toEqual([]);
  });

  it('does not forget a game while packs are in its folders', async () => {
    const seat = await demo();
    await seat.bringIn(blob({ 'boats/heron.png': 'x' }), 'a.zip');
    await seat.engine.change({ do: 'deploy' });
    await expect(seat.engine.change({ do: 'remove game', id: 'gullwick' })).rejects.toMatchObject({
      code: 'still-deployed',
    });
    await seat.engine.change({ do: 'put all back' });
    await seat.engine.change({ do: 'remove game', id: 'gullwick' });
    await seat.engine.change({ do: 'remove game', id: 'tinplate' });
    await seat.engine.change({ do: 'remove game', id: 'hedgerow' });
    expect(seat.snapshot).toMatchObject({ games: [], game: undefined });
  });
});
