import { describe, expect, it } from 'vitest';
import { SHELF } from '@/demo/shelf';
import { demo, eachInItsBrowser, folders } from '../../../tests/support/seat';
import { run, cure, switchOn, answerAll } from '../../../tests/support/mistakes';

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
});
