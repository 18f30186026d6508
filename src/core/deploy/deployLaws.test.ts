import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readState, type Edit, type Pack } from '@/core';
import { Bench, makePack, type Contents, type StackItem } from '../../../tests/support/game';
import { INI, restoreAll, keptAreGood, namesLeft } from '../../../tests/support/deployBench';

// Laws on random games, packs and histories.

const NAMES = ['a.png', 'b.png', 'C.png', 'tex/a.png', 'tex/b.png', 'tex/Deep/x.dds', 'new/y.png', 'empty'];

const contentsArb = fc.dictionary(fc.constantFrom(...NAMES), fc.string({ maxLength: 12 }), { maxKeys: 6 });

const editArb: fc.Arbitrary<Edit> = fc.record({
  path: fc.constantFrom(['Graphics', 'Addon'], ['Graphics', 'New'], ['Other', 'Key'], ['Top']),
  value: fc.constantFrom('0', '1', 'long value'),
});

const iniArb = fc.constantFrom(INI, '', '[Graphics]', 'Top=1\n[Graphics]\nAddon=0', INI.replaceAll('\r\n', '\n'));

const stackArb: fc.Arbitrary<StackItem[]> = fc
  .tuple(fc.subarray(['p', 'q', 'r']), fc.boolean(), fc.array(editArb, { maxLength: 3 }))
  .map(([packs, reversed, edits]) => [
    ...(reversed ? [...packs].reverse() : packs).map((pack) => ({ pack })),
    ...(edits.length > 0 ? [{ edits }] : []),
  ]);

async function makeBench(own: Contents, ini: string, packs: Contents[], links = true): Promise<Bench> {
  const opened: Record<string, Pack> = {};
  for (const [i, id] of ['p', 'q', 'r'].entries())
    opened[id] = await makePack(`${id}.zip`, { ...packs[i], [`only-${id}.txt`]: id });
  return new Bench(own, { 'settings.ini': ini }, opened, links);
}

/**
 * What the program folder should hold: the game's files, then each pack over them, in order; names in any case are one.
 */
async function naive(bench: Bench, own: Contents, stack: readonly StackItem[]): Promise<Contents> {
  const result = new Map(Object.entries(own).map(([path, text]) => [path.toLowerCase(), text]));
  for (const item of stack)
    if ('pack' in item)
      for (const { path } of bench.packs[item.pack]?.entries ?? [])
        result.set(path.toLowerCase(), new TextDecoder().decode(await bench.packs[item.pack]?.read(path)));
  return Object.fromEntries([...result].sort(([a], [b]) => (a < b ? -1 : 1)));
}

const programOf = (bench: Bench): Contents =>
  Object.fromEntries(
    Object.entries(bench.contents())
      .filter(([path]) => path.startsWith('program/'))
      .map(([path, text]) => [path.slice(8).toLowerCase(), text] as const)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );

describe('laws', () => {
  it('restore(deploy(x)) is x, and every state on the way is what the layers say', async () => {
    await fc.assert(
      fc.asyncProperty(
        contentsArb,
        iniArb,
        fc.tuple(contentsArb, contentsArb, contentsArb),
        fc.array(stackArb, { minLength: 1, maxLength: 4 }),
        fc.boolean(),
        async (own, ini, packs, history, links) => {
          const bench = await makeBench(own, ini, packs, links);
          const before = bench.contents();
          const tree = bench.tree();
          for (const stack of history) {
            await bench.deploy(stack);
            expect(programOf(bench)).toEqual(await naive(bench, own, stack));
            expect((await bench.plan(stack)).steps).toEqual([]);
          }
          await restoreAll(bench);
          expect(bench.contents()).toEqual(before);
          expect(bench.tree()).toEqual(tree);
          expect(await readState(bench.vault)).toEqual({ format: 1, files: [], folders: [] });
          expect(keptAreGood(bench.vault)).toBe(true);
          expect(namesLeft(bench)).toEqual([]);
        },
      ),
      { numRuns: 120 },
    );
  });

  it('a pack taken out equals never having had it', async () => {
    await fc.assert(
      fc.asyncProperty(contentsArb, fc.tuple(contentsArb, contentsArb, contentsArb), async (own, packs) => {
        const [one, two] = [await makeBench(own, INI, packs), await makeBench(own, INI, packs)];
        await one.deploy([{ pack: 'p' }, { pack: 'q' }, { pack: 'r' }]);
        await one.deploy([{ pack: 'p' }, { pack: 'r' }]);
        await two.deploy([{ pack: 'p' }, { pack: 'r' }]);
        expect(programOf(one)).toEqual(programOf(two));
      }),
      { numRuns: 60 },
    );
  });
});
