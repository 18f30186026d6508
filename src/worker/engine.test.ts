import 'fake-indexeddb/auto';
import localforage from 'localforage';
import { describe, expect, it, vi } from 'vitest';
import { noDecisions, openPack, type TargetPath } from '@/core';
import { DEMO_GAMES } from '@/demo/games';
import { gullwickFolders } from '@/demo/gullwick';
import { SHELF } from '@/demo/shelf';
import { BrowserFolder } from '@/folders/browser';
import { emptyStack, memory } from '@/storage/memory';
import { Seat, blob, demo, eachInItsBrowser, folders, reloaded } from '../../tests/support/seat';
import type { PlaceRow, StepRow } from './api';

eachInItsBrowser();

describe('the engine', () => {
  it('begins without a game, and sets up the demo', async () => {
    const seat = await new Seat().start();
    expect(seat.snapshot).toMatchObject({ ready: true, readOnly: false, games: [], game: undefined });
    await seat.engine.openDemo();
    expect(seat.game).toMatchObject({ id: 'gullwick', demo: true, packs: [], roots: [{ id: 'program', files: 46 }, { id: 'user', files: 8 }], plan: { total: 0 } });
    expect(seat.game.guide.step).toBe('bring-in');
  });

  it('goes the whole way, and nothing is lost by a reload at any point', async () => {
    let seat = await demo();
    const { layer } = await seat.fromShelf('weathered-quay-1.2.zip');
    expect(seat.game.packs[0]).toMatchObject({ layer, name: 'Weathered Quay 1.2', files: 217, placement: { parts: [{ to: 'program' }], confidence: 'sure', placed: 214, fresh: 198, replacing: 16, leftOut: 3 } });
    expect(seat.game.guide).toMatchObject({ step: 'settings', attention: { settings: 1, deploy: 214 } });

    seat = await reloaded();
    expect(seat.game.packs[0]?.placement.placed).toBe(214);
    await seat.engine.setEdit('user/ferries.ini', ['Graphics', 'AddonTextures'], '1');
    expect(seat.game.switches[0]).toMatchObject({ on: false, pending: true, neededBy: 214 });
    expect(seat.game.plan).toMatchObject({ total: 215, counts: { add: 198, replace: 16, edit: 1 } });

    seat = await reloaded();
    expect(await seat.engine.deploy()).toMatchObject({ landed: 215, number: 1 });
    expect(seat.game).toMatchObject({ plan: { total: 0 }, deployed: { packs: 1, files: 214, originals: 17, edits: 1 } });
    expect(seat.jobs.some(({ phase }) => phase === 'Writing and reading back')).toBe(true);

    seat = await reloaded();
    await seat.engine.trialRun();
    expect(seat.game.check).toMatchObject({ fresh: true, loaded: 214, counted: 214 });
    expect(seat.game.check.findings.map(({ level }) => level)).toEqual(['good']);

    seat = await reloaded();
    expect(seat.game.check.fresh).toBe(true);
    await seat.engine.putBack();
    expect(seat.game.deployed).toEqual({ packs: 0, files: 0, originals: 0, edits: 0 });
    expect(seat.game.plan.total).toBe(215);
    expect(seat.game.guide.sentence).toContain('Everything is back as it was');
    const own = gullwickFolders();
    for (const root of ['program', 'user'] as const) {
      const folder = await BrowserFolder.open(`gullwick-${root}`);
      for (const [path, data] of Object.entries(own[root])) expect(Buffer.compare(await folder.readBytes(path), data), path).toBe(0);
    }
  });

  it('brings in what it can of many downloads, and says of each other why not', async () => {
    const seat = await demo();
    const good = (i: number) => ({ name: `boat ${i}.zip`, data: blob({ 'assets/models/boats/heron.mesh': `${i}` }) });
    const files = [good(1), { name: 'nothing.zip', data: new Blob([]) }, good(2), { name: 'page.zip', data: new Blob(['<html>']) }, { ...good(1), name: 'again.zip' }, good(3)];
    const { brought, refused } = await seat.engine.bringIn(files);
    expect(brought.map(({ known }) => known)).toEqual([false, false, true, false]);
    expect(refused.map(({ name, failure }) => `${name} ${failure.code}`)).toEqual(['nothing.zip empty', 'page.zip not-an-archive']);
    expect(seat.game.packs.map(({ name }) => name)).toEqual(['Boat 1', 'Boat 2', 'Boat 3']);
    // Stopped in the middle: what came in stays, and the rest is named.
    const work = seat.engine.bringIn([good(4), good(5), good(6)]);
    await vi.waitFor(() => expect(seat.jobs.some(({ phase }) => phase.startsWith('2 of 3'))).toBe(true), { interval: 1 });
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
    await expect(seat.engine.setBase(layer, 'odd', 'nowhere/else')).rejects.toMatchObject({ code: 'bad-target' });
    await expect(seat.engine.setBase(layer, 'odd', 'program/../../etc')).rejects.toMatchObject({ code: 'bad-target' });
    await seat.engine.setBase(layer, 'odd', 'program/addons/odd/');
    expect(seat.game).toMatchObject({ plan: { total: 1 }, packs: [{ placement: { parts: [{ to: 'program/addons/odd' }], confidence: 'chosen' } }] });
  });

  /** Every file of the game's simulated folders, as text. */
  const folders = async (): Promise<Record<string, string>> => {
    const found: Record<string, string> = {};
    for (const root of ['program', 'user']) {
      const folder = await BrowserFolder.open(`gullwick-${root}`);
      for await (const { path } of folder.list()) found[`${root}/${path}`] = await (await folder.read(path)).text();
    }
    return found;
  };

  it('goes back to the state after any earlier deployment, byte for byte, and forward again', async () => {
    const seat = await demo();
    const states: Record<string, string>[] = [];
    const deploy = async () => {
      await seat.engine.deploy();
      states.push(await folders());
    };
    const low = (await seat.bringIn(blob({ 'boats/heron.png': 'low', 'boats/extra.png': 'low' }), 'low.zip')).layer;
    await deploy();
    await seat.bringIn(blob({ 'boats/heron.png': 'high' }), 'high.zip');
    await seat.engine.setEdit('user/ferries.ini', ['Graphics', 'AddonTextures'], '1');
    await deploy();
    await seat.engine.changeStack({ do: 'pick', scope: 'file', at: 'program/assets/textures/boats/heron.png', layer: low });
    await seat.engine.changeStack({ do: 'leave out', layer: low, target: 'program/assets/textures/boats/extra.png' });
    await deploy();
    expect(seat.game.states).toEqual([1, 2, 3]);
    for (const number of [1, 3, 2]) {
      expect(await seat.engine.goBack(number)).toEqual([]);
      // The plan first; nothing is written yet.
      expect(seat.game.plan.total).toBeGreaterThan(0);
      await seat.engine.deploy();
      expect(await folders()).toEqual(states[number - 1]);
    }
    await seat.engine.takeOut(low);
    expect(await seat.engine.goBack(1)).toEqual([]);
    // Its archive is let go only when nothing of it is deployed any more.
    await seat.engine.setOn(low, false);
    await seat.engine.deploy();
    await seat.engine.takeOut(low);
    expect(await seat.engine.goBack(1)).toEqual(['Low']);
    await expect(seat.engine.goBack(99)).rejects.toMatchObject({ code: 'unknown-thing' });
  });

  it('a backup bag puts the game back in a browser that has lost everything but the folders', async () => {
    const seat = await demo();
    const before = await folders();
    await seat.fromShelf('weathered-quay-1.2.zip');
    await seat.engine.setEdit('user/ferries.ini', ['Graphics', 'AddonTextures'], '1');
    await seat.engine.deploy();
    expect(JSON.parse(await seat.engine.exportPlan('json'))).toMatchObject({ steps: [], unchanged: 215 });
    const { blob: bag } = await seat.engine.exportBag();
    await expect(seat.engine.importBag(new File([bag], 'bag.zip'))).rejects.toMatchObject({ code: 'bag-not-needed' });
    await BrowserFolder.drop('gullwick-vault');
    await memory.setStack('gullwick', emptyStack);
    const fresh = await reloaded();
    expect(fresh.game.deployed.files).toBe(0);
    expect(await fresh.engine.importBag(new File([bag], 'bag.zip'))).toEqual({ originals: 17, title: 'Gullwick Ferries' });
    expect(fresh.game.putBack.total).toBe(215);
    await fresh.engine.putBack();
    expect(await folders()).toEqual(before);
  });

  it('merges one file out of two packs, waits for what is undecided, and is made anew when a pack changes', async () => {
    const seat = await demo();
    await seat.fromShelf('warm-words.zip');
    const { layer: slang } = await seat.fromShelf('skippers-slang.zip');
    const at = 'program/assets/text/harbour.lang';
    const id = await seat.engine.changeStack({ do: 'merge file', target: at });
    const [merge] = seat.game.stack.merges;
    expect(merge).toMatchObject({ id, way: 'keys', open: 1, total: 1, sources: [{ name: 'Warm Words' }, { name: 'Skippers Slang' }] });
    expect(seat.game.guide).toMatchObject({ step: 'stack', attention: { stack: 1 } });
    expect((await seat.engine.fileStory(at)).winner).toBe(slang);
    await seat.engine.changeStack({ do: 'decide rest', merge: merge?.id ?? '', take: 'lower' });
    expect(await seat.engine.fileStory(at)).toMatchObject({ winner: id, merge: id, isText: true, original: { from: 'original' } });
    await seat.engine.deploy();
    expect((await folders())[at]).toContain('depart: "Let her go!"');
    expect((await folders())[at]).toContain('fog: "Go gently, dear skipper."');
    expect((await seat.engine.compareAt(at, 'original', id ?? '')).some(({ kind, text }) => kind === 'only b' && text.includes('tea'))).toBe(true);

    // The pack that was decided against goes: there is nothing to merge, and the decision no longer fits.
    await seat.engine.setOn(slang, false);
    expect(seat.game.stack.merges[0]).toMatchObject({ why: 'only one pack has this file now', open: 0 });
    await seat.engine.setOn(slang, true);
    expect(seat.game.stack.merges[0]).toMatchObject({ open: 0, stale: [] });
    await seat.engine.changeStack({ do: 'drop merge', merge: id ?? '' });
    expect(seat.game.stack.merges).toEqual([]);
    await expect(seat.engine.changeStack({ do: 'merge file', target: 'program/assets/sounds/horn.wav' })).rejects.toMatchObject({ code: 'cannot-merge' });
  });

  it('a pack that is damaged inside breaks neither the stack nor what is told of its files', async () => {
    const seat = await demo();
    const at = 'program/assets/text/harbour.lang';
    const whole = new Uint8Array(await blob({ 'assets/text/harbour.lang': 'depart: "Off we go, whatever the weather!"\n' }).arrayBuffer());
    const broken = Uint8Array.from(whole, (byte, i) => (i === 60 ? byte ^ 0xff : byte));
    await seat.fromShelf('warm-words.zip');
    await seat.bringIn(new Blob([broken]), 'broken.zip');
    await expect(seat.engine.changeStack({ do: 'merge file', target: at })).rejects.toMatchObject({ code: 'cannot-merge' });
    const story = await seat.engine.fileStory(at);
    expect(story.versions.map(({ name, sha256: hash }) => [name, hash === undefined])).toEqual([['Broken', true], ['Warm Words', false]]);
    expect(story.isText).toBe(false);
    // A merge that was there before: it stands aside, and says why.
    const note = { kind: 'merge' as const, id: 'm', name: 'Merged: harbour.lang', on: true, target: at as TargetPath, sources: seat.game.packs.map(({ layer }) => layer), decisions: [] };
    const stack = await memory.stack('gullwick', []);
    await memory.setStack('gullwick', { ...stack, layers: [...stack.layers, note] });
    const again = await reloaded();
    expect(again.game.stack.merges[0]?.why).toContain('damaged');
    expect(again.game.packs).toHaveLength(2);
  });

  it('a patch proposes itself above its base, whichever comes first; rules are kept, named, and refused where they go round', async () => {
    const seat = await demo();
    const addon = (name: string, more = '') => blob({ [`${name}/addon.txt`]: `name = ${name}\n${more}`, [`${name}/textures/x.png`]: name });
    const patch = (await seat.bringIn(addon('Brass Polish', 'needs = Brass Works\n'), 'brass-polish.zip')).layer;
    const base = (await seat.bringIn(addon('Brass Works'), 'brass-works.zip')).layer;
    const order = () => seat.game.packs.map(({ layer }) => layer);
    expect(order()).toEqual([base, patch]);
    expect(seat.game.stack.order).toMatchObject([{ lower: base, upper: patch, why: '“Brass Polish” says that it needs “Brass Works”, so it lies above it.' }]);
    await seat.engine.changeStack({ do: 'move', layer: base, place: 1 });
    expect(order()).toEqual([base, patch]);
    await expect(seat.engine.changeStack({ do: 'rule', lower: patch, upper: base })).rejects.toMatchObject({ code: 'order-cycle', failure: { says: expect.stringMatching(/“Brass (Works|Polish)”, “Brass (Works|Polish)”/) as string } });
    await seat.engine.changeStack({ do: 'drop rule', lower: base, upper: patch });
    await seat.engine.changeStack({ do: 'rule', lower: patch, upper: base });
    expect(order()).toEqual([patch, base]);
    // What the player has ruled is not proposed against when another pack comes.
    await seat.bringIn(blob({ 'boats/heron.png': 'x' }), 'x.zip');
    expect(order().slice(0, 2)).toEqual([patch, base]);
    await seat.engine.takeOut(base);
    expect(seat.game.stack.order).toEqual([]);
  });

  it('merges packs into one, with their duplicates and warnings named, and takes it apart again', async () => {
    const seat = await demo();
    const low = (await seat.bringIn(blob({ 'boats/heron.png': 'low', 'boats/extra.png': 'low' }), 'low.zip')).layer;
    const high = (await seat.bringIn(blob({ 'boats/heron.png': 'high' }), 'high.zip')).layer;
    await expect(seat.engine.previewMerge([low])).rejects.toMatchObject({ code: 'cannot-merge' });
    expect(await seat.engine.previewMerge([high, low])).toMatchObject({ name: 'Low + High (merged)', files: 2, duplicates: [{ path: 'assets/textures/boats/heron.png', identical: false, from: ['Low', 'High'] }] });
    const merged = (await seat.engine.changeStack({ do: 'merge packs', layers: [high, low] })) ?? '';
    expect(seat.game.packs.map(({ name, on, mergedFrom }) => [name, on, mergedFrom])).toEqual([['Low', false, []], ['High', false, []], ['Low + High (merged)', true, ['Low', 'High']]]);
    await seat.engine.deploy();
    expect((await folders())['program/assets/textures/boats/heron.png']).toBe('high');
    const again = await reloaded();
    await again.engine.changeStack({ do: 'take apart', layer: merged });
    expect(again.game.packs.map(({ name, on }) => [name, on])).toEqual([['Low', true], ['High', true]]);
    expect(again.game.plan.total).toBe(0);
  });

  it('orders packs, switches them off, and takes them out', async () => {
    const seat = await demo();
    const low = (await seat.bringIn(blob({ 'boats/heron.png': 'low' }), 'low.zip')).layer;
    const high = (await seat.bringIn(blob({ 'boats/heron.png': 'high' }), 'high.zip')).layer;
    const winner = async () => ((await seat.engine.rows({ view: 'plan', action: 'all', search: '' }, 0, 10)).rows[0] as StepRow).reason;
    expect(await winner()).toContain('“High”');
    expect(seat.game.packs.map(({ overlaps }) => overlaps)).toEqual([{ wins: 0, loses: 1 }, { wins: 1, loses: 0 }]);
    await seat.engine.changeStack({ do: 'move', layer: low, place: 1 });
    expect(await winner()).toContain('“Low”');
    await seat.engine.changeStack({ do: 'move', layer: low, place: 1 });
    expect(seat.game.packs.map(({ layer }) => layer)).toEqual([high, low]);
    await seat.engine.setOn(low, false);
    expect(await winner()).toContain('“High”');
    await seat.engine.takeOut(low);
    await seat.engine.takeOut(high);
    expect(seat.game).toMatchObject({ packs: [], plan: { total: 0 } });
    expect(await memory.packs([])).toEqual([]);
  });

  it('keeps the archive of a pack that left the stack as long as its files are deployed', async () => {
    let seat = await demo();
    const { layer } = await seat.bringIn(blob({ 'boats/heron.png': 'new' }), 'boats.zip');
    await seat.engine.deploy();
    await seat.engine.takeOut(layer);
    expect(await memory.packs([])).toHaveLength(1);
    seat = await reloaded();
    expect(seat.game.plan).toMatchObject({ total: 1, counts: { restore: 1 } });
    await seat.engine.putBack();
    expect(await memory.packs([])).toEqual([]);
  });

  it('gives rows piece by piece, with what happens to each file', async () => {
    const seat = await demo();
    const { layer } = await seat.fromShelf('painted-boats.zip');
    const place = async (open: string[], search = '') => (await seat.engine.rows({ view: 'place', layer, open, search }, 0, 100)).rows as PlaceRow[];
    expect((await place([])).map(({ path, placed, files, goesTo }) => [path, placed, files, goesTo])).toEqual([['boats', 7, 7, 'program/assets/textures/boats'], ['readme.md', 0, 1, undefined]]);
    expect((await place([], 'tern'))[0]).toMatchObject({ goesTo: 'program/assets/textures/boats/tern.png', effect: 'replaces' });
    await seat.engine.decide(layer, 'boats/tern.png', false);
    expect((await place([], 'tern'))[0]).toMatchObject({ goesTo: undefined, leftOut: 'You left it out.' });
    expect(await seat.engine.rows({ view: 'plan', action: 'replace', search: '' }, 4, 100)).toMatchObject({ total: 6, rows: [{ action: 'replace' }, { action: 'replace' }] });
    await seat.engine.deploy();
    expect(await seat.engine.rows({ view: 'ledger', number: 1, search: 'heron' }, 0, 10)).toMatchObject({ total: 1, rows: [{ target: 'program/assets/textures/boats/heron.png' }] });
  });

  it('shows texts as text, and only texts', async () => {
    const seat = await demo();
    const { layer } = await seat.bringIn(blob({ 'boats/heron.png': 'x', 'readme.txt': '\ufeff<b>hello</b>' }), 'a.zip');
    expect(await seat.engine.readText(layer, 'readme.txt')).toBe('<b>hello</b>');
    await expect(seat.engine.readText(layer, 'boats/heron.png')).rejects.toMatchObject({ code: 'not-text' });
    await expect(seat.engine.readText(layer, 'not/there')).rejects.toMatchObject({ code: 'not-text' });
  });

  it('lets a second tab look, not write, and hands over', async () => {
    const first = await demo();
    await first.engine.fetchFromShelf('painted-boats.zip');
    // What the first one has written and not yet taken into its index.
    const items = localforage.createInstance({ name: `satchel-folder-${first.game.id}-vault`, storeName: 'bytes' });
    await items.setItem('under way', new Uint8Array(3));
    // What the first one does when it is left alone is done.
    await vi.waitFor(() => expect(first.game.safety.copies.readAt).toBeGreaterThan(0), { timeout: 10_000 });
    const writes = (['put', 'delete', 'clear'] as const).map((name) => vi.spyOn(IDBObjectStore.prototype, name));
    const second = await new Seat().start();
    for (const spy of writes) expect(spy).not.toHaveBeenCalled();
    vi.restoreAllMocks();
    expect(second.snapshot).toMatchObject({ readOnly: true, game: { packs: [{ name: 'Painted Boats' }] } });
    await expect(second.engine.deploy()).rejects.toMatchObject({ code: 'read-only-tab' });
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
    await seat.engine.setOn(layer, false);
    expect(listings).toBe(2);
    expect(seat.game).toMatchObject({ plan: { total: 0 }, roots: [{ files: 47 }, { files: 9 }] });
    await seat.engine.setOn(layer, true);
    expect(listings).toBe(2);
    expect(seat.game.plan.total).toBe(7);
    await seat.engine.deploy();
    expect(listings).toBe(6);
    expect(seat.game).toMatchObject({ plan: { total: 0 }, deployed: { files: 7 } });
    await seat.engine.refresh();
    expect(listings).toBe(8);
    await seat.engine.keepSafe({ do: 'check deployed' });
    expect(listings).toBe(10);
    vi.restoreAllMocks();
  });

  it('drops a layer whose archive the browser has lost, and says so', async () => {
    let seat = await demo();
    await seat.bringIn(blob({ 'boats/heron.png': 'x' }), 'lost.zip');
    await memory.removeArchive(seat.game.packs[0]?.packId as string);
    seat = await reloaded();
    expect(seat.game.packs).toEqual([]);
    expect(seat.snapshot?.trouble.map(({ code }) => code)).toEqual(['source-missing']);
  });

  it('does not forget a game while packs are in its folders', async () => {
    const seat = await demo();
    await seat.bringIn(blob({ 'boats/heron.png': 'x' }), 'a.zip');
    await seat.engine.deploy();
    await expect(seat.engine.removeGame('gullwick')).rejects.toMatchObject({ code: 'still-deployed' });
    await seat.engine.putBack();
    await seat.engine.removeGame('gullwick');
    await seat.engine.removeGame('tinplate');
    await seat.engine.removeGame('hedgerow');
    expect(seat.snapshot).toMatchObject({ games: [], game: undefined });
  });
});

describe('the ways of placing, from the shelf into the game and out again', () => {
  for (const { card } of DEMO_GAMES)
    it(`${card.title}: every pack of its shelf deploys, verified, and all of it comes out again byte for byte`, async () => {
      const seat = await demo();
      await seat.engine.chooseGame(card.id);
      const before = await folders(card.id);
      for (const { file, game } of SHELF) if (game === card.id && !['every-island.zip', 'soggy-download.zip'].includes(file)) await seat.engine.fetchFromShelf(file);
      for (const { layer, placement } of seat.game.packs) for (const { id, options, suggested, kind, answer } of placement.questions) if (kind === 'one' && answer.length === 0) await seat.engine.answer(layer, id, suggested.length > 0 ? suggested : [options[0]?.id as string]);
      for (const { layer, placement } of seat.game.packs) for (const { id, options } of placement.questions.filter(({ kind, answered }) => kind === 'any' && !answered)) await seat.engine.answer(layer, id, options.map((option) => option.id));
      expect(seat.game.packs.filter(({ placement }) => placement.confidence === 'ask').map(({ name }) => name)).toEqual([]);
      expect(seat.game.plan.refused).toEqual([]);
      const { landed } = await seat.engine.deploy();
      expect(landed).toBeGreaterThan(3);
      expect(seat.game.plan.total).toBe(0);
      expect(await folders(card.id)).not.toEqual(before);
      // A second look reads nothing anew and finds nothing to do.
      const again = await reloaded();
      expect(again.game.plan.total).toBe(0);
      await again.engine.putBack();
      expect(await folders(card.id)).toEqual(before);
    });

  const open = async (id: string): Promise<Seat> => {
    const seat = await demo();
    await seat.engine.chooseGame(id);
    return seat;
  };
  const fileOf = async (root: string, path: string): Promise<Blob> => (await BrowserFolder.open(root)).read(path);

  it('asks about the wrong region, and goes under the right id', async () => {
    const seat = await open('tinplate');
    const { layer } = await seat.fromShelf('sugar-buns.zip');
    expect(seat.game).toMatchObject({ plan: { total: 0 }, guide: { step: 'place' }, packs: [{ placement: { confidence: 'ask', questions: [{ suggested: ['CB-2041'] }] } }] });
    await seat.engine.answer(layer, 'title:Sugar Buns/CB-7041', ['CB-7041']);
    expect(seat.game.packs[0]?.placement.warnings.map(({ code }) => code)).toContain('wrong-region');
    await seat.engine.answer(layer, 'title:Sugar Buns/CB-7041', ['CB-2041']);
    expect(seat.game.packs[0]?.placement.warnings).toEqual([]);
    await seat.engine.deploy();
    expect(Object.keys(await folders('tinplate')).filter((path) => path.startsWith('user/paintbox/CB-2041/swap/')).length).toBe(6);
  });

  it('keeps a pack zipped, puts old packs inside the core archive, and writes the manifest of a converted one', async () => {
    const seat = await open('hedgerow');
    const core = await folders('hedgerow');
    await seat.fromShelf('rose-porch.zip');
    await seat.fromShelf('old-kitchen.zip');
    await seat.fromShelf('attic-stairs.zip');
    await seat.engine.deploy();
    const shelf = SHELF.find(({ file }) => file === 'rose-porch.zip')?.build() as Uint8Array;
    expect(Buffer.compare(new Uint8Array(await (await fileOf('hedgerow-hall', 'packs/rose-porch.zip')).arrayBuffer()), shelf)).toBe(0);
    const changed = await openPack(await fileOf('hedgerow-hall', 'core.hha'), 'core.hha.zip');
    expect(changed.entries.map(({ path }) => path).sort()).toEqual(['pictures/hedge.png', 'rooms/kitchen.room', 'rooms/porch.room', 'text/en.lang']);
    expect(new TextDecoder().decode(await changed.read('rooms/kitchen.room'))).toContain('copper');
    expect(new TextDecoder().decode(await changed.read('rooms/porch.room'))).toContain('hedge');
    const converted = await openPack(await fileOf('hedgerow-hall', 'packs/attic-stairs.zip'), 'attic-stairs.zip');
    expect(converted.entries.map(({ path }) => path).sort()).toEqual(['face.png', 'pack.leaf', 'pictures/stairs.png', 'rooms/attic.room']);
    expect(JSON.parse(new TextDecoder().decode(await converted.read('pack.leaf')))).toMatchObject({ title: 'Attic Stairs', edition: 'garden' });
    // One of them leaves: the others stay, and the archive is the original again.
    const old = seat.game.packs.find(({ name }) => name === 'Old Kitchen')?.layer as string;
    await seat.engine.takeOut(old);
    await seat.engine.deploy();
    expect((await folders('hedgerow'))['hall/core.hha']).toBe(core['hall/core.hha']);
  });

  it('brings values of a settings file in as edits, and takes them back where they still stand', async () => {
    const seat = await open('gullwick');
    await seat.fromShelf('clear-waters-v1.4.zip');
    expect(seat.game.packs[0]).toMatchObject({ placement: { edits: 2 }, facts: expect.arrayContaining([{ kind: 'version', value: '1.4', where: 'the file’s name' }]) });
    // Its read-me as a list of steps: what is found in the game's settings waits there.
    expect(seat.game.packs[0]?.steps.map(({ state, says }) => `${state}: ${says}`)).toEqual(expect.arrayContaining([expect.stringMatching(/^settings: .*WaterDetail = 4/), expect.stringMatching(/^settings: Start with -nosplash/)]));
    expect(seat.game.packs[0]?.placement.warnings.map(({ code }) => code).sort()).toEqual(['hidden-extension', 'program-inside']);
    await seat.engine.deploy();
    const ini = await (await fileOf('gullwick-user', 'ferries.ini')).text();
    expect(ini).toContain('WaterDetail=4');
    expect(ini).toContain('AddonTextures=1');
    expect(ini).toContain('; Gullwick Ferries, written by the game and by you');
  });

  it('knows another release of a pack, and puts it in its place with the decisions', async () => {
    const seat = await open('gullwick');
    const first = await seat.bringIn(blob({ 'Wet 1.0/assets/textures/quay/planks.png': 'a', 'Wet 1.0/assets/textures/quay/rope.png': 'b' }), 'wet-quay-1.0.zip');
    await seat.engine.decide(first.layer, 'Wet 1.0/assets/textures/quay/rope.png', false);
    const second = await seat.bringIn(blob({ 'Wet 1.1/assets/textures/quay/planks.png': 'a2', 'Wet 1.1/assets/textures/quay/rope.png': 'b2', 'Wet 1.1/assets/textures/quay/wall.png': 'c' }), 'wet-quay-1.1.zip');
    expect(second.earlier).toEqual({ layer: first.layer, name: 'Wet Quay 1.0', newer: true, versions: '1.0 → 1.1' });
    const tag = seat.game.packs[0]?.tag;
    await seat.engine.replaceRelease(second.layer, first.layer);
    expect(seat.game.packs).toMatchObject([{ name: 'Wet Quay 1.1', tag, placement: { placed: 2, leftOut: 1 } }]);
  });

  it('opens an archive inside a pack, and takes folders and loose files as packs', async () => {
    const seat = await open('hedgerow');
    const { layer } = await seat.fromShelf('tea-garden-download.zip');
    const inside = (await seat.engine.openInside(layer, 'tea-garden.zip')).brought[0];
    expect(seat.game.packs.find((pack) => pack.layer === inside?.layer)).toMatchObject({ name: 'Tea Garden', files: 2 });
    const text = (value: string) => new Blob([value]);
    const { brought: [folder, files] } = await seat.engine.bringIn([{ name: 'My rooms/core.hha/rooms/porch.room', data: text('room porch') }, { name: 'a.bin', data: text('1') }, { name: 'b.bin', data: text('2') }]);
    expect(seat.game.packs.find((pack) => pack.layer === folder?.layer)).toMatchObject({ name: 'My Rooms', format: 'folder', files: 1 });
    expect(seat.game.packs.find((pack) => pack.layer === files?.layer)).toMatchObject({ format: 'file', files: 2 });
  });

  it('draws what goes where, and follows a move by hand', async () => {
    const seat = await open('gullwick');
    const { layer } = await seat.fromShelf('painted-boats.zip');
    expect((await seat.engine.placeMap(layer)).links).toEqual([{ from: 'boats', to: 'program/assets/textures/boats', files: 7, replacing: 7, moved: false, as: 'files' }]);
    await expect(seat.engine.moveTo(layer, 'boats', 'program/../x')).rejects.toMatchObject({ code: 'bad-target' });
    await seat.engine.moveTo(layer, 'boats', 'program/addons/boats');
    expect((await seat.engine.placeMap(layer)).links).toMatchObject([{ to: 'program/addons/boats', replacing: 0, moved: true }]);
    await seat.engine.moveTo(layer, 'boats', undefined);
    expect((await seat.engine.placeMap(layer)).links).toMatchObject([{ to: 'program/assets/textures/boats', moved: false }]);
  });

  it('takes another card only where it fits, and says what is wrong with it', async () => {
    const seat = await open('hedgerow');
    const card = await seat.engine.card();
    await expect(seat.engine.setCard({ ...card, roots: [] })).rejects.toMatchObject({ code: 'bad-card' });
    await expect(seat.engine.setCard('nonsense')).rejects.toMatchObject({ code: 'bad-card' });
    await seat.engine.setCard({ ...card, title: 'My Hall' });
    expect((await reloaded()).game.title).toBe('My Hall');
  });
});

describe('what the app remembers', () => {
  it('is checked on the way in; what cannot be read is set aside and named', async () => {
    const aside: { what: string; why: string }[] = [];
    await memory.setStack('broken', { layers: 'nonsense' } as never);
    expect(await memory.stack('broken', aside)).toEqual(emptyStack);
    expect(aside).toMatchObject([{ what: 'stack:broken' }]);
    expect(await memory.stack('broken', aside)).toEqual(emptyStack);
    expect(aside).toHaveLength(1);
  });

  it('comes back as it went in', async () => {
    const stack = {
      layers: [
        { kind: 'pack' as const, id: 'l', packId: 'p', name: 'P', on: true, confidence: 'sure' as const, parts: [], tag: { monogram: 'Pp', colour: 1 }, placement: { rules: [{ as: 'files' as const, from: '', to: 'program' as TargetPath }], leftOut: [], made: [], decisions: noDecisions } },
        { kind: 'edits' as const, id: 'e', name: 'E', on: true, file: 'user/x.ini' as TargetPath, edits: [{ path: ['__proto__', 'key'], value: '1' }, { path: ['gone'] }] },
      ],
      picks: [], order: [], ownFiles: [], sets: [], tried: [], drops: {}, runs: [], aside: [], triedAfter: 3,
    };
    await memory.setStack('kept', stack);
    expect(await memory.stack('kept', [])).toEqual(stack);
  });
});
