import 'fake-indexeddb/auto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseTarget } from '@/core';
import { memory } from '@/storage/memory';
import { blob, demo, eachInItsBrowser, folders, reloaded, type Seat } from '../../../tests/support/seat';

eachInItsBrowser();

/** What the player sees, but for the history itself and what the latest change did. */
const seen = ({ game }: Seat): unknown => {
  const { history: _, stack, ...rest } = structuredClone(game);
  const { changed: _changed, ...others } = stack;
  return { ...rest, stack: others };
};
const goTo = (seat: Seat, steps: number) => seat.engine.change({ do: 'go to step', steps });
const at = 'program/assets/text/harbour.lang';
const settings = parseTarget('user/gullwick.ini');

/** One decision of each kind, by what it is called in the list. */
const DECISIONS: [says: RegExp, decide: (seat: Seat) => Promise<unknown>][] = [
  [/^“Warm Words” brought in$/, (seat) => seat.fromShelf('warm-words.zip')],
  [/^“Skippers Slang” brought in/, (seat) => seat.fromShelf('skippers-slang.zip')],
  [/^“Mine” brought in$/, (seat) => seat.bringIn(blob({ 'assets/text/harbour.lang': 'fog: "Mine"\n' }), 'mine.zip')],
  [/^“Warm Words” moved up$/, (seat) => move(seat, 'Warm Words', 2)],
  [/^“Mine” left out$/, (seat) => seat.engine.change({ do: 'switch packs', layers: [layer(seat, 'Mine')], on: false })],
  [/^“Mine” put in$/, (seat) => seat.engine.change({ do: 'switch packs', layers: [layer(seat, 'Mine')], on: true })],
  [
    /^harbour\.lang: “Mine” is used$/,
    (seat) => seat.engine.change({ do: 'pick', scope: 'file', at, layer: layer(seat, 'Mine') }),
  ],
  [
    /^harbour\.lang: the order decides again$/,
    (seat) => seat.engine.change({ do: 'pick', scope: 'file', at, layer: undefined }),
  ],
  [/^harbour\.lang merged/, (seat) => seat.engine.change({ do: 'merge file', target: at })],
  [
    /conflicts? of harbour\.lang decided$/,
    (seat) => seat.engine.change({ do: 'decide rest', merge: seat.game.stack.merges[0]?.id ?? '', take: 'upper' }),
  ],
  [
    /^Always “Warm Words” above “Mine”/,
    (seat) => seat.engine.change({ do: 'add rule', lower: layer(seat, 'Mine'), upper: layer(seat, 'Warm Words') }),
  ],
  [
    /^harbour\.lang of “Mine” left out/,
    (seat) => seat.engine.change({ do: 'leave out', layer: layer(seat, 'Mine'), target: at }),
  ],
  [/› .* set to 7 in/, (seat) => setEdit(seat, '7')],
  [/^Page of “Mine” noted/, (seat) => seat.engine.change({ do: 'paste page', layer: layer(seat, 'Mine'), text: 'x' })],
  [
    /^Notes on “Mine” written/,
    (seat) =>
      seat.engine.change({ do: 'note pack', layer: layer(seat, 'Mine'), notes: { version: '3', remember: 'y' } }),
  ],
  [
    /^“Mine” put under “Fog”$/,
    (seat) => seat.engine.change({ do: 'head packs', layers: [layer(seat, 'Mine')], heading: ' Fog ' }),
  ],
  [
    /^2 packs put under “Words”$/,
    (seat) =>
      seat.engine.change({
        do: 'head packs',
        layers: [layer(seat, 'Mine'), layer(seat, 'Warm Words')],
        heading: 'Words',
      }),
  ],
  [
    /^“Mine” under no heading$/,
    (seat) => seat.engine.change({ do: 'head packs', layers: [layer(seat, 'Mine')], heading: '' }),
  ],
  [/^“Mine” taken out/, (seat) => seat.engine.change({ do: 'take out', layers: [layer(seat, 'Mine')] })],
];
const layer = (seat: Seat, name: string): string => seat.game.packs.find((pack) => pack.name === name)?.layer ?? '';
const setting = (seat: Seat) => ({ file: seat.game.settings[0]?.target ?? settings, path: ['View', 'fresh'] });
const setEdit = (seat: Seat, value: string) =>
  seat.engine.change({ do: 'set edits', file: setting(seat).file, edits: [{ path: setting(seat).path, value }] });
const move = (seat: Seat, name: string, place: number) =>
  seat.engine.change({ do: 'move packs', layers: [layer(seat, name)], place });

describe('what was decided, taken back and done again', () => {
  it('every kind of decision, in words, one after the other back and forth, over a reload, and no file is touched', async () => {
    let seat = await demo();
    const before = await folders('gullwick');
    const pictures = [seen(seat)];
    for (const [says, decide] of DECISIONS) {
      await decide(seat);
      expect(seat.game.history).toMatchObject({
        undo: expect.stringMatching(says),
        redo: undefined,
        steps: pictures.length,
      });
      pictures.push(seen(seat));
    }
    const all = DECISIONS.length;
    for (let steps = all - 1; steps >= 0; steps--) {
      await goTo(seat, steps);
      expect(seen(seat)).toEqual(pictures[steps]);
    }
    seat = await reloaded();
    expect(seat.game.history).toMatchObject({
      undo: undefined,
      redo: expect.stringMatching(/^“Warm Words” brought in/),
    });
    for (let steps = 1; steps <= all; steps++) {
      await goTo(seat, steps);
      expect(seen(seat)).toEqual(pictures[steps]);
    }
    const rows = await seat.engine.ask({ ask: 'changes' });
    const told = rows.map(({ says }) => says).reverse();
    expect(told).toHaveLength(all);
    for (const [i, [says]] of DECISIONS.entries()) expect(told[i]).toMatch(says);
    expect(await folders('gullwick')).toEqual(before);
  });

  it('what the app was told of a game goes back with the packs that followed it', async () => {
    const seat = await demo();
    const before = seen(seat);
    const told = { form: 'loose', values: { files: '*.hum', into: 'program/assets/sounds', why: 'It hums.' } };
    await seat.engine.change({ do: 'tell', ...told });
    expect(seat.game.history.undo).toMatch(/^Told: .*\.hum/);
    const after = seen(seat);
    await goTo(seat, 0);
    expect(seen(seat)).toEqual(before);
    await goTo(seat, 1);
    expect(seen(seat)).toEqual(after);
  });

  it('a deployment stays; what waits becomes another; a start of the game is not forgotten', async () => {
    const seat = await demo();
    await seat.fromShelf('warm-words.zip');
    await seat.engine.change({ do: 'deploy' });
    await seat.engine.change({ do: 'trial run' });
    const deployed = await folders('gullwick');
    const runs = (await memory.stack('gullwick', [])).runs.length;
    expect(runs).toBeGreaterThan(0);
    await goTo(seat, 0);
    expect(await folders('gullwick')).toEqual(deployed);
    expect(seat.game.packs).toEqual([]);
    expect(seat.game.plan.total).toBeGreaterThan(0);
    expect((await memory.stack('gullwick', [])).runs.length).toBe(runs);
    await goTo(seat, 1);
    expect(seat.game.plan.total).toBe(0);
  });

  it('a pack is kept as long as one can go back to it, and no longer', async () => {
    const seat = await demo();
    await seat.fromShelf('warm-words.zip');
    const id = seat.game.packs[0]?.packId ?? '';
    await seat.engine.change({ do: 'take out', layers: [layer(seat, 'Warm Words')] });
    expect(await memory.archive(id)).toBeDefined();
    await goTo(seat, 0);
    expect(await memory.archive(id)).toBeDefined();
    // Another decision: nothing that was taken back can be done again.
    await seat.engine.change({ do: 'machine memory', memory: 8 * 2 ** 30 });
    expect(await memory.archive(id)).toBeUndefined();
    expect((await memory.packs([])).map((note) => note.id)).not.toContain(id);
  });

  it('law: any history of decisions, taken back in any order of steps, gives the states that were', async () => {
    const seat = await demo();
    for (const file of ['warm-words.zip', 'skippers-slang.zip']) await seat.fromShelf(file);
    const names = ['Warm Words', 'Skippers Slang'];
    const command = fc.oneof(
      fc.tuple(fc.constant('switch' as const), fc.constantFrom(...names), fc.boolean()),
      fc.tuple(fc.constant('move' as const), fc.constantFrom(...names), fc.nat(2)),
      fc.tuple(fc.constant('pick' as const), fc.constantFrom(...names), fc.boolean()),
      fc.tuple(fc.constant('edit' as const), fc.constantFrom('1', '2'), fc.boolean()),
      fc.tuple(fc.constant('out' as const), fc.constantFrom(...names), fc.boolean()),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(command, { minLength: 1, maxLength: 6 }), fc.array(fc.nat(6)), async (all, ways) => {
        const start = seat.game.history.steps;
        const pictures = new Map([[start, seen(seat)]]);
        for (const one of all) {
          await run(seat, one).catch(() => undefined);
          pictures.set(seat.game.history.steps, seen(seat));
        }
        for (const way of [...ways, 0]) {
          const steps = Math.min(start + way, start + pictures.size - 1);
          await goTo(seat, steps);
          expect(seen(seat)).toEqual(pictures.get(steps));
        }
      }),
      { numRuns: 12 },
    );
  });
});

type Command = ['switch' | 'pick' | 'edit' | 'out', string, boolean] | ['move', string, number];

async function run(seat: Seat, [what, name, how]: Command): Promise<unknown> {
  const id = layer(seat, name);
  if (what === 'edit') return how ? setEdit(seat, name) : seat.engine.change({ do: 'drop edit', ...setting(seat) });
  if (id === '') return undefined;
  if (what === 'switch') return seat.engine.change({ do: 'switch packs', layers: [id], on: how });
  if (what === 'move') return seat.engine.change({ do: 'move packs', layers: [id], place: how });
  if (what === 'pick') return seat.engine.change({ do: 'pick', scope: 'file', at, layer: how ? id : undefined });
  return seat.engine.change({ do: 'take out', layers: [id] });
}
