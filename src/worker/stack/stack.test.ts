import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { parseTarget } from '@/core';
import { memory } from '@/storage/memory';
import { blob, demo, eachInItsBrowser, gullwickTexts, reloaded, withoutHistory } from '../../../tests/support/seat';
import type { StepRow } from '../contract';

eachInItsBrowser();

describe('the stack, in the engine', () => {
  it('merges one file out of two packs, waits for what is undecided, and is made anew when a pack changes', async () => {
    const seat = await demo();
    await seat.fromShelf('warm-words.zip');
    const { layer: slang } = await seat.fromShelf('skippers-slang.zip');
    const at = 'program/assets/text/harbour.lang';
    const id = await seat.engine.change({ do: 'merge file', target: at });
    const [merge] = seat.game.stack.merges;
    expect(merge).toMatchObject({
      id,
      way: 'keys',
      open: 1,
      total: 1,
      sources: [{ name: 'Warm Words' }, { name: 'Skippers Slang' }],
    });
    expect(seat.game.guide).toMatchObject({ step: 'stack', attention: { stack: 1 } });
    expect((await seat.engine.ask({ ask: 'story of file', target: at })).winner).toBe(slang);
    // Undecided as it is: what the game has itself is the game's, whoever else has it.
    const { lines, total } = await seat.engine.ask({ ask: 'merged lines', merge: merge?.id ?? '' });
    expect(total).toBe(lines.length);
    const whose = (of: RegExp) =>
      lines.filter(({ text }) => of.test(text)).map((line) => [line.whose, line.from.length]);
    expect(whose(/^#/)).toEqual([['game', 0]]);
    expect(whose(/^(depart|fog|tea):/)).toEqual([
      ['packs', 1],
      ['packs', 1],
      ['packs', 1],
    ]);
    expect(lines.find(({ text }) => text.startsWith('fog'))?.from).toEqual([slang]);
    await seat.engine.change({ do: 'decide rest', merge: merge?.id ?? '', take: 'lower' });
    expect(await seat.engine.ask({ ask: 'story of file', target: at })).toMatchObject({
      winner: id,
      merge: id,
      isText: true,
      original: { from: 'original' },
    });
    await seat.engine.change({ do: 'deploy' });
    expect((await gullwickTexts())[at]).toContain('depart: "Let her go!"');
    expect((await gullwickTexts())[at]).toContain('fog: "Go gently, dear skipper."');
    expect(
      (await seat.engine.ask({ ask: 'compare texts', target: at, a: 'original', b: id ?? '' })).some(
        ({ kind, text }) => kind === 'only b' && text.includes('tea'),
      ),
    ).toBe(true);

    // The pack that was decided against goes: there is nothing to merge, and the decision no longer fits.
    await seat.engine.change({ do: 'switch packs', layers: [slang], on: false });
    expect(seat.game.stack.merges[0]).toMatchObject({ why: 'only one pack has this file now', open: 0 });
    await seat.engine.change({ do: 'switch packs', layers: [slang], on: true });
    expect(seat.game.stack.merges[0]).toMatchObject({ open: 0, stale: [] });
    await seat.engine.change({ do: 'drop merge', merge: id ?? '' });
    expect(seat.game.stack.merges).toEqual([]);
    await expect(
      seat.engine.change({ do: 'merge file', target: 'program/assets/sounds/horn.wav' }),
    ).rejects.toMatchObject({ code: 'cannot-merge' });
  });

  it('a pack that is damaged inside breaks neither the stack nor what is told of its files', async () => {
    const seat = await demo();
    const at = 'program/assets/text/harbour.lang';
    const whole = new Uint8Array(
      await blob({ 'assets/text/harbour.lang': 'depart: "Off we go, whatever the weather!"\n' }).arrayBuffer(),
    );
    const broken = Uint8Array.from(whole, (byte, i) => (i === 60 ? byte ^ 0xff : byte));
    await seat.fromShelf('warm-words.zip');
    await seat.bringIn(new Blob([broken]), 'broken.zip');
    await expect(seat.engine.change({ do: 'merge file', target: at })).rejects.toMatchObject({
      code: 'cannot-merge',
    });
    const story = await seat.engine.ask({ ask: 'story of file', target: at });
    expect(story.versions.map(({ name, sha256: hash }) => [name, hash === undefined])).toEqual([
      ['Broken', true],
      ['Warm Words', false],
    ]);
    expect(story.isText).toBe(false);
    // A merge that was there before: it stands aside, and says why.
    const note = {
      kind: 'merge' as const,
      id: 'm',
      name: 'Merged: harbour.lang',
      on: true,
      target: parseTarget(at),
      sources: seat.game.packs.map(({ layer }) => layer),
      decisions: [],
    };
    const stack = await memory.stack('gullwick', []);
    await memory.setStack('gullwick', { ...stack, layers: [...stack.layers, note] });
    const again = await reloaded();
    expect(again.game.stack.merges[0]?.why).toContain('damaged');
    expect(again.game.packs).toHaveLength(2);
  });

  it('a patch proposes itself above its base, whichever comes first; rules are kept, named, and refused where they go round', async () => {
    const seat = await demo();
    const addon = (name: string, more = '') =>
      blob({ [`${name}/addon.txt`]: `name = ${name}\n${more}`, [`${name}/textures/x.png`]: name });
    const patch = (await seat.bringIn(addon('Brass Polish', 'needs = Brass Works\n'), 'brass-polish.zip')).layer;
    const base = (await seat.bringIn(addon('Brass Works'), 'brass-works.zip')).layer;
    const order = () => seat.game.packs.map(({ layer }) => layer);
    expect(order()).toEqual([base, patch]);
    expect(seat.game.stack.order).toMatchObject([
      { lower: base, upper: patch, why: '“Brass Polish” says that it needs “Brass Works”, so it lies above it.' },
    ]);
    await seat.engine.change({ do: 'move packs', layers: [base], place: 1 });
    expect(order()).toEqual([base, patch]);
    await expect(seat.engine.change({ do: 'add rule', lower: patch, upper: base })).rejects.toMatchObject({
      code: 'order-cycle',
      failure: { says: expect.stringMatching(/“Brass (Works|Polish)”, “Brass (Works|Polish)”/) as string },
    });
    await seat.engine.change({ do: 'drop rule', lower: base, upper: patch });
    await seat.engine.change({ do: 'add rule', lower: patch, upper: base });
    expect(order()).toEqual([patch, base]);
    // What the player has ruled is not proposed against when another pack comes.
    await seat.bringIn(blob({ 'boats/heron.png': 'x' }), 'x.zip');
    expect(order().slice(0, 2)).toEqual([patch, base]);
    await seat.engine.change({ do: 'take out', layers: [base] });
    expect(seat.game.stack.order).toEqual([]);
  });

  it('merges packs into one, with their duplicates and warnings named, and takes it apart again', async () => {
    const seat = await demo();
    const low = (await seat.bringIn(blob({ 'boats/heron.png': 'low', 'boats/extra.png': 'low' }), 'low.zip')).layer;
    const high = (await seat.bringIn(blob({ 'boats/heron.png': 'high' }), 'high.zip')).layer;
    await expect(seat.engine.ask({ ask: 'preview merge', layers: [low] })).rejects.toMatchObject({
      code: 'cannot-merge',
    });
    expect(await seat.engine.ask({ ask: 'preview merge', layers: [high, low] })).toMatchObject({
      name: 'Low + High (merged)',
      files: 2,
      duplicates: [{ path: 'assets/textures/boats/heron.png', identical: false, from: ['Low', 'High'] }],
    });
    const merged = (await seat.engine.change({ do: 'merge packs', layers: [high, low] })) ?? '';
    expect(seat.game.packs.map(({ name, on, mergedFrom }) => [name, on, mergedFrom])).toEqual([
      ['Low', false, []],
      ['High', false, []],
      ['Low + High (merged)', true, ['Low', 'High']],
    ]);
    await seat.engine.change({ do: 'deploy' });
    expect((await gullwickTexts())['program/assets/textures/boats/heron.png']).toBe('high');
    const again = await reloaded();
    await again.engine.change({ do: 'take apart', layer: merged });
    expect(again.game.packs.map(({ name, on }) => [name, on])).toEqual([
      ['Low', true],
      ['High', true],
    ]);
    expect(again.game.plan.total).toBe(0);
  });

  it('orders packs, switches them off, and takes them out', async () => {
    const seat = await demo();
    const low = (await seat.bringIn(blob({ 'boats/heron.png': 'low' }), 'low.zip')).layer;
    const high = (await seat.bringIn(blob({ 'boats/heron.png': 'high' }), 'high.zip')).layer;
    const winner = async () =>
      (
        (
          await seat.engine.ask({
            ask: 'rows',
            query: { view: 'plan', action: 'all', search: '' },
            offset: 0,
            limit: 10,
          })
        ).rows[0] as StepRow
      ).reason;
    expect(await winner()).toContain('“High”');
    expect(seat.game.packs.map(({ overlaps }) => overlaps)).toEqual([
      { wins: 0, loses: 1 },
      { wins: 1, loses: 0 },
    ]);
    await seat.engine.change({ do: 'move packs', layers: [low], place: 1 });
    expect(await winner()).toContain('“Low”');
    await seat.engine.change({ do: 'move packs', layers: [low], place: 1 });
    expect(seat.game.packs.map(({ layer }) => layer)).toEqual([high, low]);
    await seat.engine.change({ do: 'switch packs', layers: [low], on: false });
    expect(await winner()).toContain('“High”');
    await seat.engine.change({ do: 'take out', layers: [low] });
    await seat.engine.change({ do: 'take out', layers: [high] });
    expect(seat.game).toMatchObject({ packs: [], plan: { total: 0 } });
    // They are kept for the way back.
    expect(await memory.packs([])).toHaveLength(2);
  });

  it('moves, switches and takes out several packs in one go, and one step back undoes it', async () => {
    const seat = await demo();
    const layers: string[] = [];
    for (const name of ['a', 'b', 'c', 'd', 'e'])
      layers.push((await seat.bringIn(blob({ [`boats/${name}.png`]: name }), `${name}.zip`)).layer);
    const order = () => seat.game.packs.map(({ layer }) => 'abcde'[layers.indexOf(layer)]).join('');
    const [a = '', , c = '', , e = ''] = layers;
    // Places are counted from the bottom among those that stay; the moved ones keep their order.
    for (const [place, expected] of [
      [2, 'bdace'],
      [0, 'acebd'],
      [99, 'bdace'],
      [1, 'baced'],
    ] as const) {
      await seat.engine.change({ do: 'move packs', layers: [e, a, c], place });
      expect(order()).toBe(expected);
    }
    await seat.engine.change({ do: 'switch packs', layers: [a, e], on: false });
    expect(seat.game.packs.filter(({ on }) => !on).map(({ layer }) => layer)).toEqual([a, e]);
    await seat.engine.change({ do: 'take out', layers: [a, c] });
    expect(order()).toBe('bed');
    await seat.engine.change({ do: 'go to step', steps: seat.game.history.steps - 1 });
    expect(order()).toBe('baced');
    await seat.engine.change({ do: 'go to step', steps: seat.game.history.steps - 1 });
    expect(seat.game.packs.every(({ on }) => on)).toBe(true);
    await expect(seat.engine.change({ do: 'switch packs', layers: [a, 'nobody'], on: false })).rejects.toThrow();
    expect(seat.game.packs.every(({ on }) => on)).toBe(true);
  });

  it('counts a pack as covered whose every file lies under another’s, once others are in the game', async () => {
    const seat = await demo();
    const { layer } = await seat.bringIn(blob({ 'boats/heron.png': 'low' }), 'low.zip');
    await seat.bringIn(blob({ 'boats/heron.png': 'high', 'boats/puffin.png': 'high' }), 'high.zip');
    expect(seat.game.deployed).toMatchObject({ packs: 0, covered: 0 });
    await seat.engine.change({ do: 'deploy' });
    expect(seat.game.deployed).toMatchObject({ packs: 1, covered: 1 });
    const groups = await seat.engine.ask({ ask: 'step groups', number: 1 });
    expect(groups.map(({ name, files }) => [name, files])).toEqual([['High', 2]]);
    await seat.engine.change({ do: 'move packs', layers: [layer], place: 9 });
    expect((await seat.engine.ask({ ask: 'step groups', number: undefined })).map(({ name }) => name)).toEqual(['Low']);
    await seat.engine.change({ do: 'deploy' });
    expect(seat.game.deployed).toMatchObject({ packs: 2, covered: 0 });
  });

  it('keeps the archive of a pack that left the stack as long as its files are deployed', async () => {
    let seat = await demo();
    const { layer } = await seat.bringIn(blob({ 'boats/heron.png': 'new' }), 'boats.zip');
    await seat.engine.change({ do: 'deploy' });
    await seat.engine.change({ do: 'take out', layers: [layer] });
    expect(await memory.packs([])).toHaveLength(1);
    seat = await reloaded();
    expect(seat.game.plan).toMatchObject({ total: 1, counts: { restore: 1 } });
    seat = await withoutHistory('gullwick');
    await seat.engine.change({ do: 'put all back' });
    expect(await memory.packs([])).toEqual([]);
  });
});
