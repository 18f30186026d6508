import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import type { Finding } from '@/core';
import { SHELF } from '@/demo/shelf';
import { blob, bytes, demo, eachInItsBrowser, folders, type Seat } from '../../../tests/support/seat';

eachInItsBrowser();

/** Packs that hold a mistake; every other one of the shelf is sound. */
const UNSOUND = [
  'dockside-talk.zip',
  'rope-works.zip',
  'wild-gale.zip',
  'tall-hedges.zip',
  'clear-waters-v1.4.tar.gz',
  'clear-waters-v1.4.zip',
  'rye-and-oak-patch-2.1.3.zip',
  'every-island.zip',
  'soggy-download.zip',
  'pebble-moss.zip',
];

const wrong = (seat: Seat): Finding[] => seat.game.check.findings.filter(({ level }) => level === 'wrong');

async function run(seat: Seat): Promise<Finding[]> {
  await seat.engine.change({ do: 'deploy' });
  await seat.engine.change({ do: 'trial run' });
  return wrong(seat);
}

/** Applies the first cure of a finding. */
async function cure(seat: Seat, id: RegExp, nth = 0): Promise<Finding> {
  const finding = wrong(seat).find((one) => id.test(one.id));
  const fix = finding?.fixes[nth];
  if (!finding || !fix)
    throw new Error(
      `no cure for ${String(id)} among ${wrong(seat)
        .map((one) => one.id)
        .join(', ')}`,
    );
  await seat.engine.change({ do: 'fix', fix });
  return finding;
}

const switchOn = async (seat: Seat) => {
  for (const one of seat.game.switches)
    if (one.neededBy > 0 && !one.on) await seat.engine.change({ do: 'turn on', switch: one.id });
};

const answerAll = async (seat: Seat) => {
  for (const { layer, placement } of seat.game.packs)
    for (const { id, options, suggested, kind, answer } of placement.questions)
      if (kind === 'one' && answer.length === 0)
        await seat.engine.change({
          do: 'answer question',
          layer,
          question: id,
          answer: suggested.length > 0 ? suggested : [options[0]?.id ?? ''],
        });
};

describe('a healthy set-up gives no false alarm', () => {
  it.each(['gullwick', 'tinplate', 'hedgerow'])('all sound packs of %s, switched on and tried', async (game) => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: game });
    for (const item of SHELF)
      if (item.game === game && !UNSOUND.includes(item.file))
        await seat.engine.change({ do: 'fetch from shelf', file: item.file });
    await answerAll(seat);
    await switchOn(seat);
    for (const { file, path, item } of seat.game.beyondKeys.needs)
      await seat.engine.change({ do: 'list item', file, path, item, on: true });
    // What read-mes ask for belongs to a healthy set-up, too.
    for (const ask of seat.game.beyondKeys.asks)
      if (ask.kind === 'number') await seat.engine.change({ do: 'number add', file: ask.file, keys: ask.keys });
    const findings = await run(seat);
    expect(findings.map(({ title }) => title)).toEqual([]);
    expect(seat.game.check.log?.messages.filter(({ level }) => level === 'warning' || level === 'error')).toEqual([]);
  });
});

describe('mistakes: made, seen in the log or its silence, named, cured, and clean at the next start', () => {
  it('the switch is off', async () => {
    const seat = await demo();
    await seat.fromShelf('weathered-quay-1.2.zip');
    const [first] = await run(seat);
    expect([first?.id, seat.game.check.loaded]).toEqual(['switch-off:addon-textures', 0]);
    await cure(seat, /^switch-off/);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.loaded).toBe(214);
  });

  it('an add-on that the list does not name is passed over without a word', async () => {
    const seat = await demo();
    await seat.fromShelf('brass-fittings.zip');
    expect((await run(seat)).map(({ id }) => id)).toEqual(['not-listed:brass-fittings']);
    expect(seat.game.check.log?.text).not.toContain('Brass');
    await cure(seat, /^not-listed/);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.log?.text).toContain('add-on Brass fittings with 2 textures');
  });

  it('one file hides all texts of the game: one finding, one rename', async () => {
    const seat = await demo();
    await seat.fromShelf('dockside-talk.zip');
    const findings = await run(seat);
    expect(findings.map(({ id, about }) => [id, about])).toEqual([
      ['hides:program/assets/text/harbour.lang', 'program/assets/text/harbour.lang'],
    ]);
    await cure(seat, /^hides/);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.changes.map(({ change }) => change)).toEqual(['gone', 'gone', 'gone', 'gone']);
  });

  it('the same, cured by adding what the game’s own file has', async () => {
    const seat = await demo();
    await seat.fromShelf('dockside-talk.zip');
    await run(seat);
    await cure(seat, /^hides/, 1);
    expect(await run(seat)).toEqual([]);
    const story = await seat.engine.ask({ ask: 'story of file', target: 'program/assets/text/harbour.lang' });
    const rows = await seat.engine.ask({
      ask: 'compare texts',
      target: 'program/assets/text/harbour.lang',
      a: story.versions.find(({ name }) => name === 'Dockside Talk')?.from ?? '',
      b: 'now',
    });
    // Not one of the pack's own lines is another; what was missing is there.
    expect(rows.filter(({ kind }) => kind === 'only a')).toEqual([]);
    expect(rows.filter(({ kind }) => kind === 'only b').length).toBe(4);
  });

  it('an icon is missing, and a name has other capitals', async () => {
    const seat = await demo();
    await seat.fromShelf('rope-works.zip');
    await cure(seat, /^not-listed/);
    expect((await run(seat)).map(({ id }) => id)).toEqual([
      'log:missing:program/addons/rope-works/icon.png',
      'log:missing:program/addons/rope-works/textures/hawser.png',
    ]);
    await cure(seat, /icon\.png$/);
    await cure(seat, /hawser\.png$/);
    expect(await run(seat)).toEqual([]);
  });

  it('a numbered section names a folder that is spelled otherwise', async () => {
    const seat = await demo();
    await seat.fromShelf('storm-paint.zip');
    await seat.engine.change({
      do: 'number add',
      file: 'program/vessels/heron/fleet.ini',
      keys: [
        { key: 'name', value: 'Storm' },
        { key: 'folder', value: 'storm-gray' },
      ],
    });
    const findings = await run(seat);
    expect(findings.some(({ id }) => id === 'no-folder:program/vessels/heron/fleet.ini hull 2')).toBe(true);
    await cure(seat, /^no-folder/);
    expect(await run(seat)).toEqual([]);
  });

  it('the game drops a new key at the first start; put in again it stays', async () => {
    const seat = await demo();
    await seat.engine.change({
      do: 'set edits',
      file: 'user/autorun.cfg',
      edits: [{ path: ['set', 'fog.near'], value: '12' }],
    });
    const findings = await run(seat);
    expect(findings.map(({ id }) => id)).toEqual(['lost:user/autorun.cfg set fog.near']);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.beyondKeys.stayed).toBe(1);
  });

  it('the game only sorts its file: every edit stands, nothing waits, and it is said', async () => {
    const seat = await demo();
    await seat.engine.change({
      do: 'set edits',
      file: 'user/autorun.cfg',
      edits: [{ path: ['set', 'anchor.len'], value: '30' }],
    });
    await run(seat);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.beyondKeys.sorted).toEqual(['user/autorun.cfg']);
    expect(seat.game.plan.total).toBe(0);
    // Taken back, the game's own order stays, and the key is gone.
    await seat.engine.change({ do: 'drop edit', file: 'user/autorun.cfg', path: ['set', 'anchor.len'] });
    await seat.engine.change({ do: 'deploy' });
    expect((await folders('gullwick'))['user/autorun.cfg']).toBe(
      Buffer.from('bind f horn\r\nset camera.wide 70\r\n').toString('base64'),
    );
  });

  it('the game ends without a line: found by halves, all else as it was', async () => {
    const seat = await demo();
    for (const file of [
      'weathered-quay-1.2.zip',
      'painted-boats.zip',
      'wild-gale.zip',
      'deep-horns.zip',
      'evening-harbour-2.zip',
    ])
      await seat.fromShelf(file);
    await switchOn(seat);
    expect((await run(seat))[0]?.id).toBe('silent');
    await seat.engine.change({ do: 'halve' });
    let starts = 0;
    for (; seat.game.check.apart?.step?.next === 'try'; starts++) {
      await seat.engine.change({ do: 'deploy' });
      await seat.engine.change({ do: 'trial run' });
      await seat.engine.change({ do: 'answer halving', failed: seat.game.check.silent });
    }
    expect(starts).toBeLessThanOrEqual(2 * Math.log2(5) + 2);
    expect(seat.game.check.apart?.culprits.map(({ name }) => name)).toEqual(['Wild Gale']);
    await seat.engine.change({
      do: 'end apart',
      without: seat.game.check.apart?.culprits.map(({ layer }) => layer) ?? [],
    });
    expect(seat.game.packs.map(({ name, on }) => [name, on])).toEqual([
      ['Weathered Quay 1.2', true],
      ['Painted Boats', true],
      ['Wild Gale', false],
      ['Deep Horns', true],
      ['Evening Harbour 2', true],
    ]);
    expect(await run(seat)).toEqual([]);
  });

  it('a pack tried alone with what it says it needs', async () => {
    const seat = await demo();
    const { layer } = await seat.fromShelf('weathered-quay-1.2.zip');
    await seat.fromShelf('painted-boats.zip');
    await seat.engine.change({ do: 'try alone', layer });
    expect(seat.game.packs.map(({ on }) => on)).toEqual([true, false]);
    await seat.engine.change({ do: 'end apart', without: [] });
    expect(seat.game.packs.map(({ on }) => on)).toEqual([true, true]);
    expect(seat.game.check.apart).toBeUndefined();
  });

  it('the wrong region, insisted on', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    const { layer } = await seat.fromShelf('sugar-buns.zip');
    const question = seat.game.packs[0]?.placement.questions[0];
    await seat.engine.change({
      do: 'answer question',
      layer,
      question: question?.id ?? '',
      answer: [question?.options.find(({ label }) => label.includes('CB-7041'))?.id ?? ''],
    });
    await switchOn(seat);
    expect((await run(seat)).some(({ id }) => id === 'wrong-id:CB-7041')).toBe(true);
    expect(seat.game.check.loaded).toBe(0);
    await cure(seat, /^wrong-id/);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.loaded).toBe(6);
  });

  it('a title sealed in one file: unpacked beside it, and as it was when all is put back', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    await seat.fromShelf('pebble-moss.zip');
    await switchOn(seat);
    const findings = await run(seat);
    expect(findings.map(({ id }) => id)).toContain('sealed:PW-5120');
    expect(seat.game.check.loaded).toBe(0);
    await cure(seat, /^sealed/);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.loaded).toBe(6);
    await seat.engine.change({ do: 'put all back' });
    expect(seat.game.ledger[0]?.counts).toMatchObject({ remove: 7 });
  });

  const flipped = (data: Uint8Array): Uint8Array => data.map((byte, i) => (i === 45 ? byte ^ 0xff : byte));
  it.each([
    ['unsafe-path', zipSync({ '../../outside.txt': bytes('x') })],
    ['damaged', flipped(zipSync({ 'PW-5120.title': bytes('Pebble Wharf '.repeat(40)) }))],
    ['not-an-archive', bytes('no archive')],
  ])('a sealed title is no more trusted than a download: %s, and nothing is changed', async (code, archive) => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    await seat.fromShelf('pebble-moss.zip');
    // Another file of the title, as a pack may bring it over the game's own.
    await seat.bringIn(new Blob([zipSync({ 'shelf/PW-5120.tub': archive })]), 'title.zip');
    await answerAll(seat);
    await seat.engine.change({ do: 'deploy' });
    await expect(cure(seat, /^sealed/)).rejects.toMatchObject({ code });
    expect(seat.game.own).toEqual([]);
  });

  it('two packs that want different values for one key, settled by the player', async () => {
    const seat = await demo();
    await seat.bringIn(blob({ 'Calm/ferries.ini': '[Graphics]\nWaterDetail=1\n' }), 'calm.zip');
    await seat.bringIn(blob({ 'Wild/ferries.ini': '[Graphics]\nWaterDetail=3\n' }), 'wild.zip');
    const fought = () => seat.game.check.findings.find(({ id }) => id.startsWith('fought-over'));
    expect(fought()).toMatchObject({
      about: 'user/ferries.ini › Graphics › WaterDetail',
      fixes: [{ label: 'Keep 3, for “Wild”' }, { label: 'Keep 1, for “Calm”' }],
    });
    const second = fought()?.fixes[1];
    if (!second) throw new Error('no second cure');
    await seat.engine.change({ do: 'fix', fix: second });
    expect(fought()).toBeUndefined();
    await seat.engine.change({ do: 'deploy' });
    expect(seat.game.settings.length).toBeGreaterThan(0);
    expect(wrong(seat)).toEqual([]);
  });

  it('a base that says it needs its patch, and the patch brought in', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    const base = (files: Record<string, string>, name: string) =>
      seat.bringIn(blob({ ...files, 'CB-2041/swap/bun.png': 'x' }), name);
    await base({ 'read me.txt': 'Old Mill 1.0\r\nNeeds the patch: Old Mill Patch\r\n' }, 'old-mill-1.0.zip');
    expect(
      wrong(seat)
        .map(({ title }) => title)
        .join(),
    ).toContain('needs its patch “Old Mill Patch”');
    await base({ 'read me.txt': 'Old Mill Patch 1.0\r\n' }, 'old-mill-patch-1.0.zip');
    expect(
      wrong(seat)
        .map(({ title }) => title)
        .join(),
    ).not.toContain('needs its patch');
  });

  it('patches that a switch of the title turns on, and the master switch does not', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    await seat.fromShelf('quick-oven-codes.zip');
    await seat.engine.change({
      do: 'set edits',
      file: 'user/titles/CB-2041.ini',
      edits: [{ path: ['Patches', 'UseList'], value: '1' }],
    });
    const findings = await run(seat);
    expect(findings[0]?.id).toBe('switch-off:patches');
    await cure(seat, /^switch-off:patches$/);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.log?.text).toContain('CB-2041: 1 of 2 patches in use');
  });

  it('a picture above the limit stops the game at its main menu', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'hedgerow' });
    await seat.fromShelf('rose-porch.zip');
    const { layer } = await seat.fromShelf('tall-hedges.zip');
    await answerAll(seat);
    const findings = await run(seat);
    expect(findings.map(({ id }) => id)).toEqual(
      expect.arrayContaining(['ended-early', `warning:texture-too-large:${layer}`]),
    );
    await cure(seat, /^warning:texture-too-large/, 1);
    expect(await run(seat)).toEqual([]);
    expect(seat.game.check.log?.text).toContain('hall> welcome');
  });

  it('two packs with one id, and a pack whose manifest cannot be read', async () => {
    const seat = await demo();
    await seat.engine.change({ do: 'choose game', id: 'hedgerow' });
    await seat.fromShelf('rose-porch.zip');
    await seat.bringIn(
      blob({ 'pack.leaf': '{ "id": "rose-porch", "title": "Copy", "version": "1.0.0" }', 'rooms/a.room': 'room a\n' }),
      'copy.zip',
    );
    await seat.bringIn(blob({ 'pack.leaf': '{ "id": "broken", ', 'rooms/b.room': 'room b\n' }), 'broken.zip');
    await answerAll(seat);
    await seat.engine.change({ do: 'deploy' });
    await seat.engine.change({ do: 'trial run' });
    const said = wrong(seat)
      .map(({ title }) => title)
      .join('\n');
    expect(said).toMatch(/same id/);
    expect(said).toMatch(/cannot be read/);
  });

  // Common practice: preloading a whole pack needs room for all of it.
  it('textures that are read at the start and do not fit into memory', async () => {
    const seat = await demo();
    await seat.fromShelf('weathered-quay-1.2.zip');
    await switchOn(seat);
    await seat.engine.change({
      do: 'set edits',
      file: 'user/ferries.ini',
      edits: [{ path: ['Graphics', 'PreloadTextures'], value: '1' }],
    });
    expect(wrong(seat).some(({ id }) => id.startsWith('memory'))).toBe(false);
    await seat.engine.change({ do: 'machine memory', memory: 2 * 1024 ** 2 });
    expect((await cure(seat, /^memory/)).title).toContain('PreloadTextures is on');
    expect(await run(seat)).toEqual([]);
  });

  it('a value out of range, set by a pack', async () => {
    const seat = await demo();
    await seat.bringIn(blob({ 'Deep/ferries.ini': '[Graphics]\nWaterDetail=9\n' }), 'deep.zip');
    expect(wrong(seat).map(({ id }) => id)).toContain('out-of-range:user/ferries.ini Graphics WaterDetail');
    await cure(seat, /^out-of-range/);
    expect(wrong(seat)).toEqual([]);
    expect(await run(seat)).toEqual([]);
  });
});
