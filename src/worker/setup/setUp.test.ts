import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { memory } from '@/storage/memory';
import { blob, demo, eachInItsBrowser, gullwickTexts, reloaded } from '../../../tests/support/seat';

eachInItsBrowser();

/** The game has the folders here that it had there. */
const SAME = { program: 'program', user: 'user' };
const heron = 'program/assets/textures/boats/heron.png';

describe('set-ups, in the engine', () => {
  it('two ways to play: kept, compared, taken with a plan first, one deployment each, byte for byte, over a reload', async () => {
    let seat = await demo();
    const low = (await seat.bringIn(blob({ 'boats/heron.png': 'low', 'boats/extra.png': 'x' }), 'low.zip')).layer;
    const high = (await seat.bringIn(blob({ 'boats/heron.png': 'high' }), 'high.zip')).layer;
    await seat.engine.change({ do: 'keep set-up', name: 'Alone', of: 'now' });
    await seat.engine.change({ do: 'deploy' });
    const alone = await gullwickTexts();
    await seat.engine.change({ do: 'switch packs', layers: [high], on: false });
    const file = seat.game.settings[0]?.target ?? '';
    await seat.engine.change({ do: 'set edits', file, edits: [{ path: ['View', 'far'], value: '9' }] });
    await seat.engine.change({ do: 'keep set-up', name: ' For the server ', of: 'now' });
    await seat.engine.change({ do: 'deploy' });
    const server = await gullwickTexts();
    expect(server[heron]).toBe('low');

    seat = await reloaded();
    const kept = await seat.engine.ask({ ask: 'set-ups' });
    expect(kept.map(({ name, packs, current }) => [name, packs, current])).toEqual([
      ['Alone', 2, false],
      ['For the server', 1, true],
    ]);
    const [one, other] = kept.map(({ id }) => id) as [string, string];
    const differs = await seat.engine.ask({ ask: 'compare ways', a: { setUp: one }, b: { setUp: other } });
    expect(differs).toMatchObject({
      says: expect.arrayContaining(['“High” left out']),
      files: { total: 1, some: [{ target: heron, a: 'High', b: 'Low', own: true }] },
      keys: { total: 1, some: [{ path: 'View › far', a: undefined, b: '9' }] },
    });
    expect(await seat.engine.ask({ ask: 'compare ways', a: 'now', b: { setUp: other } })).toEqual({
      says: [],
      files: { total: 0, some: [] },
      keys: { total: 0, some: [] },
    });

    // The plan first: asking for it changes nothing.
    const plan = await seat.engine.ask({ ask: 'plan of way', of: { setUp: one } });
    expect(plan.total).toBeGreaterThan(0);
    expect(seat.game.plan.total).toBe(0);
    expect(await seat.engine.change({ do: 'take set-up', id: one })).toEqual([]);
    expect(seat.game.plan.counts).toEqual(plan.counts);
    expect(await gullwickTexts()).toEqual(server);
    await seat.engine.change({ do: 'deploy' });
    expect(await gullwickTexts()).toEqual(alone);
    await seat.engine.change({ do: 'take set-up', id: other });
    await seat.engine.change({ do: 'deploy' });
    expect(await gullwickTexts()).toEqual(server);
    expect(low).not.toBe(high);
  });

  it('made from an earlier deployment; renamed, copied, removed and brought back; a pack of it is kept', async () => {
    const seat = await demo();
    const { layer } = await seat.fromShelf('warm-words.zip');
    await seat.engine.change({ do: 'deploy' });
    const before = await gullwickTexts();
    await seat.engine.change({ do: 'put all back' });
    await seat.engine.change({ do: 'take out', layers: [layer] });
    await seat.engine.change({ do: 'keep set-up', name: 'Words', of: { deployment: 1 } });
    const [made] = await seat.engine.ask({ ask: 'set-ups' });
    const id = made?.id ?? '';
    await expect(seat.engine.change({ do: 'keep set-up', name: 'Words', of: 'now' })).rejects.toMatchObject({
      code: 'bad-name',
    });
    await expect(seat.engine.change({ do: 'rename set-up', id, name: '  ' })).rejects.toMatchObject({
      code: 'bad-name',
    });
    await seat.engine.change({ do: 'rename set-up', id, name: 'Warm' });
    await seat.engine.change({ do: 'keep set-up', name: 'Warm, copy', of: { setUp: id } });
    await seat.engine.change({ do: 'remove set-up', id });
    const names = async () => (await seat.engine.ask({ ask: 'set-ups' })).map(({ name }) => name);
    expect(await names()).toEqual(['Warm, copy']);
    expect(seat.game.history.undo).toBe('Set-up “Warm” removed');
    await seat.engine.change({ do: 'go to step', steps: seat.game.history.steps - 1 });
    expect(await names()).toEqual(['Warm', 'Warm, copy']);

    // Nothing but the set-up holds the pack any more.
    await memory.setHistory('gullwick', { past: [], future: [] });
    const later = await reloaded();
    await later.engine.change({ do: 'machine memory', memory: 2 ** 33 });
    await later.engine.change({ do: 'take set-up', id });
    await later.engine.change({ do: 'deploy' });
    expect(await gullwickTexts()).toEqual(before);
  });

  it.each([true, false])(
    'a kit carries all of it to a machine that knows nothing, byte for byte; packs inside: %s',
    async (withPacks) => {
      let seat = await demo();
      const boat = blob({ 'boats/heron.png': 'x' });
      const texts = blob({ 'assets/text/harbour.lang': 'fog: "Mine"\ndepart: "Off!"\n' });
      await seat.fromShelf('warm-words.zip');
      const { layer } = await seat.bringIn(texts, 'mine.zip');
      await seat.bringIn(boat, 'boat.zip');
      const target = 'program/assets/text/harbour.lang';
      const merge = await seat.engine.change({ do: 'merge file', target });
      await seat.engine.change({ do: 'decide rest', merge, take: 'upper' });
      await seat.engine.change({ do: 'add rule', lower: seat.game.packs[0]?.layer ?? '', upper: layer });
      const file = seat.game.settings[0]?.target ?? '';
      await seat.engine.change({ do: 'set edits', file, edits: [{ path: ['View', 'far'], value: '9' }] });
      await seat.engine.change({ do: 'keep set-up', name: 'Alone', of: 'now' });
      await seat.engine.change({ do: 'deploy' });
      const after = await gullwickTexts();
      const { stack, packs } = seat.game;
      const kit = await seat.engine.change({ do: 'save kit', withPacks });

      await seat.engine.change({ do: 'reset demo' });
      seat = await reloaded();
      expect(seat.game.packs).toEqual([]);
      const found = await seat.engine.change({ do: 'read kit', name: kit.name, file: kit.blob });
      expect(found).toMatchObject({ otherGame: false, setUps: ['Alone'], differs: [] });
      expect(found.packs.map(({ name, state }) => [name, state])).toEqual(
        packs.map(({ name }) => [name, withPacks ? 'inside' : 'missing']),
      );
      expect(seat.game.plan.total).toBe(0);
      await seat.engine.change({ do: 'take kit', knowledge: false, folders: SAME });
      if (!withPacks) {
        expect(seat.game.waiting.map(({ name }) => name)).toEqual(packs.map(({ name }) => name));
        // In another order, under other names, and one of them by the shelf.
        await seat.bringIn(boat, 'download (3).zip');
        await seat.fromShelf('warm-words.zip');
        await seat.bringIn(texts, 'no idea.zip');
        expect(seat.game.waiting).toEqual([]);
      }
      expect(seat.game.packs.map(({ name }) => name)).toEqual(packs.map(({ name }) => name));
      expect(seat.game.stack).toMatchObject({ merges: stack.merges, order: stack.order });
      await seat.engine.change({ do: 'deploy' });
      expect(await gullwickTexts()).toEqual(after);
      expect((await seat.engine.ask({ ask: 'set-ups' })).map(({ name }) => name)).toEqual(['Alone']);
    },
  );

  it('a kit whose pack is not the one that it names is refused, and a kit of other folders says which', async () => {
    const seat = await demo();
    await seat.fromShelf('warm-words.zip');
    const { blob: kit } = await seat.engine.change({ do: 'save kit', withPacks: true });
    const before = seat.game.packs.map(({ name }) => name);
    const cut = kit.slice(0, kit.size - 200);
    await expect(seat.engine.change({ do: 'read kit', name: 'cut.zip', file: cut })).rejects.toBeDefined();
    await seat.engine.change({ do: 'choose game', id: 'tinplate' });
    await expect(seat.engine.change({ do: 'take kit', knowledge: false, folders: SAME })).rejects.toMatchObject({
      code: 'unknown-thing',
    });
    const found = await seat.engine.change({ do: 'read kit', name: 'kit.zip', file: kit });
    expect(found).toMatchObject({ otherGame: true, canTell: false });
    expect(found.folders).toMatchObject([{ id: 'program', title: 'Program folder', here: 'player' }]);
    for (const folders of [{}, { program: 'nowhere' }] as Record<string, string>[])
      await expect(seat.engine.change({ do: 'take kit', knowledge: false, folders })).rejects.toMatchObject({
        code: 'folder-not-given',
      });
    expect(seat.game.packs).toEqual([]);
    // It is put where the player says.
    await seat.engine.change({ do: 'take kit', knowledge: false, folders: { program: 'user' } });
    expect(seat.game.packs.map(({ placement }) => placement.parts.map(({ to }) => to.split('/')[0]))).toEqual([
      ['user'],
    ]);
    await seat.engine.change({ do: 'choose game', id: 'gullwick' });
    expect(seat.game.packs.map(({ name }) => name)).toEqual(before);
  });
});
