import 'fake-indexeddb/auto';
import { zipSync } from 'fflate';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { TargetPath } from '@/core';
import { under, zip } from '@/demo/files';
import { gullwickCard, gullwickFolders } from '@/demo/gullwick';
import { SHELF } from '@/demo/shelf';
import { BrowserFolder } from '@/folders/browser';
import { memory } from '@/storage/memory';
import type { GameView, Job, PlaceRow, Snapshot, StepRow } from './api';
import { Engine } from './engine';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const blob = (files: Record<string, string>): Blob => new Blob([zipSync(Object.fromEntries(Object.entries(files).map(([path, text]) => [path, bytes(text)])))]);

/** The engine as the page has it: the browser's storage and locks are stood in for, everything else is real. */
class Seat {
  engine = new Engine();
  snapshot: Snapshot | undefined;
  jobs: Job[] = [];

  async start(): Promise<this> {
    await this.engine.start((snapshot) => (this.snapshot = snapshot), (job) => job && this.jobs.push(job));
    return this;
  }

  get game(): GameView {
    if (!this.snapshot?.game) throw new Error('no game is open');
    return this.snapshot.game;
  }
}

let holder: Promise<unknown> | undefined;
/** localForage tries Blobs out with a browser's own means before it keeps one; here they are kept in a map. */
const archives = new Map<string, Blob>();

beforeEach(async () => {
  holder = undefined;
  // One tab holds the lock for ever; the next one waits.
  vi.stubGlobal('navigator', {
    locks: {
      request: async (_name: string, work: () => Promise<unknown>) => {
        while (holder) await holder;
        holder = work();
        return holder;
      },
    },
  });
  const { program, user } = gullwickFolders();
  const shelf = new Map<string, Uint8Array>([
    ['gullwick.json', bytes(JSON.stringify(gullwickCard))],
    ['gullwick.zip', zip({ ...under('program', program), ...under('user', user) })],
    ...SHELF.filter(({ file }) => file !== 'every-island.zip').map(({ file, build }) => [file, build()] as const),
  ]);
  vi.stubGlobal('fetch', async (url: string) => {
    const file = shelf.get(url.replace('/shelf/', ''));
    return file ? new Response(file as Uint8Array<ArrayBuffer>) : new Response('', { status: 404 });
  });
  vi.spyOn(memory, 'setArchive').mockImplementation(async (id, archive) => archives.set(id, archive));
  vi.spyOn(memory, 'archive').mockImplementation(async (id) => archives.get(id));
  vi.spyOn(memory, 'removeArchive').mockImplementation(async (id) => void archives.delete(id));
  await memory.setGames([]);
});

/** The demo set up from nothing. */
async function demo(): Promise<Seat> {
  const seat = await new Seat().start();
  await seat.engine.openDemo();
  await seat.engine.resetDemo();
  return seat;
}

/** The same browser after a reload: a new engine over what is kept. */
async function reloaded(): Promise<Seat> {
  holder = undefined;
  return new Seat().start();
}

describe('the engine', () => {
  it('begins without a game, and sets up the demo', async () => {
    const seat = await new Seat().start();
    expect(seat.snapshot).toMatchObject({ ready: true, readOnly: false, games: [], game: undefined });
    await seat.engine.openDemo();
    expect(seat.game).toMatchObject({ id: 'gullwick', demo: true, packs: [], roots: [{ id: 'program', files: 44 }, { id: 'user', files: 3 }], plan: { total: 0 } });
    expect(seat.game.guide.step).toBe('bring-in');
  });

  it('goes the whole way, and nothing is lost by a reload at any point', async () => {
    let seat = await demo();
    const { layer } = await seat.engine.fetchFromShelf('weathered-quay-1.2.zip');
    expect(seat.game.packs[0]).toMatchObject({ layer, name: 'Weathered Quay 1.2', files: 217, placement: { base: 'program', confidence: 'sure', placed: 214, fresh: 198, replacing: 16, leftOut: 3 } });
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

  it('knows a pack that is brought in a second time, whatever its name', async () => {
    const seat = await demo();
    const pack = blob({ 'boats/heron.png': 'x' });
    const first = await seat.engine.bringIn(pack, 'one.zip');
    expect(await seat.engine.bringIn(pack, 'the same again.zip')).toEqual({ layer: first.layer, known: true });
    expect(seat.game.packs).toHaveLength(1);
  });

  it('refuses a bad download and is as it was', async () => {
    const seat = await demo();
    const before = JSON.stringify(seat.game);
    await expect(seat.engine.bringIn(new Blob([]), 'nothing.zip')).rejects.toMatchObject({ code: 'empty' });
    await expect(seat.engine.fetchFromShelf('soggy-download.zip')).rejects.toMatchObject({ code: 'damaged' });
    await expect(seat.engine.fetchFromShelf('no-such.zip')).rejects.toMatchObject({ code: 'unknown-thing' });
    expect(JSON.stringify(seat.game)).toBe(before);
  });

  it('does not deploy a pack whose place it is not sure of, until the player says so', async () => {
    const seat = await demo();
    const { layer } = await seat.engine.bringIn(blob({ 'odd/thing.dat': 'x' }), 'odd.zip');
    expect(seat.game).toMatchObject({ plan: { total: 0 }, guide: { step: 'place', attention: { place: 1 } } });
    await expect(seat.engine.setBase(layer, 'odd', 'nowhere/else')).rejects.toMatchObject({ code: 'bad-target' });
    await expect(seat.engine.setBase(layer, 'odd', 'program/../../etc')).rejects.toMatchObject({ code: 'bad-target' });
    await seat.engine.setBase(layer, 'odd', 'program/addons/odd/');
    expect(seat.game).toMatchObject({ plan: { total: 1 }, packs: [{ placement: { base: 'program/addons/odd', confidence: 'chosen' } }] });
  });

  it('orders packs, switches them off, and takes them out', async () => {
    const seat = await demo();
    const low = (await seat.engine.bringIn(blob({ 'boats/heron.png': 'low' }), 'low.zip')).layer;
    const high = (await seat.engine.bringIn(blob({ 'boats/heron.png': 'high' }), 'high.zip')).layer;
    const winner = async () => ((await seat.engine.rows({ view: 'plan', action: 'all', search: '' }, 0, 10)).rows[0] as StepRow).reason;
    expect(await winner()).toContain('“High”');
    expect(seat.game.packs.map(({ overlaps }) => overlaps)).toEqual([{ wins: 0, loses: 1 }, { wins: 1, loses: 0 }]);
    await seat.engine.move(low, 1);
    expect(await winner()).toContain('“Low”');
    await seat.engine.move(low, 1);
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
    const { layer } = await seat.engine.bringIn(blob({ 'boats/heron.png': 'new' }), 'boats.zip');
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
    const { layer } = await seat.engine.fetchFromShelf('painted-boats.zip');
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
    const { layer } = await seat.engine.bringIn(blob({ 'boats/heron.png': 'x', 'readme.txt': '\ufeff<b>hello</b>' }), 'a.zip');
    expect(await seat.engine.readText(layer, 'readme.txt')).toBe('<b>hello</b>');
    await expect(seat.engine.readText(layer, 'boats/heron.png')).rejects.toMatchObject({ code: 'not-text' });
    await expect(seat.engine.readText(layer, 'not/there')).rejects.toMatchObject({ code: 'not-text' });
  });

  it('lets a second tab look, not write, and hands over', async () => {
    const first = await demo();
    await first.engine.fetchFromShelf('painted-boats.zip');
    const second = await new Seat().start();
    expect(second.snapshot).toMatchObject({ readOnly: true, game: { packs: [{ name: 'Painted Boats' }] } });
    await expect(second.engine.deploy()).rejects.toMatchObject({ code: 'read-only-tab' });
    expect(second.game.plan.total).toBe(7);
  });

  it('drops a layer whose archive the browser has lost, and says so', async () => {
    let seat = await demo();
    await seat.engine.bringIn(blob({ 'boats/heron.png': 'x' }), 'lost.zip');
    await memory.removeArchive(seat.game.packs[0]?.packId as string);
    seat = await reloaded();
    expect(seat.game.packs).toEqual([]);
    expect(seat.snapshot?.trouble.map(({ code }) => code)).toEqual(['source-missing']);
  });

  it('does not forget a game while packs are in its folders', async () => {
    const seat = await demo();
    await seat.engine.bringIn(blob({ 'boats/heron.png': 'x' }), 'a.zip');
    await seat.engine.deploy();
    await expect(seat.engine.removeGame('gullwick')).rejects.toMatchObject({ code: 'still-deployed' });
    await seat.engine.putBack();
    await seat.engine.removeGame('gullwick');
    expect(seat.snapshot).toMatchObject({ games: [], game: undefined });
  });
});

describe('what the app remembers', () => {
  it('is checked on the way in; what cannot be read is set aside and named', async () => {
    const aside: { what: string; why: string }[] = [];
    await memory.setStack('broken', { layers: 'nonsense' } as never);
    expect(await memory.stack('broken', aside)).toEqual({ layers: [] });
    expect(aside).toMatchObject([{ what: 'stack:broken' }]);
    expect(await memory.stack('broken', aside)).toEqual({ layers: [] });
    expect(aside).toHaveLength(1);
  });

  it('comes back as it went in', async () => {
    const stack = {
      layers: [
        { kind: 'pack' as const, id: 'l', packId: 'p', name: 'P', on: true, confidence: 'sure' as const, reason: 'r', tag: { monogram: 'Pp', colour: 1 }, placement: { strip: '', base: 'program' as TargetPath, leftOut: [], decisions: { out: [], in: [] } } },
        { kind: 'edits' as const, id: 'e', name: 'E', on: true, file: 'user/x.ini' as TargetPath, edits: [{ path: ['__proto__', 'key'], value: '1' }, { path: ['gone'] }] },
      ],
      triedAfter: 3,
    };
    await memory.setStack('kept', stack);
    expect(await memory.stack('kept', [])).toEqual(stack);
  });
});
