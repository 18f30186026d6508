import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkDeployed, restore, takeAsOriginals, takeAsOwn, type OwnFile, parseTarget } from '@/core';
import { Bench, benchDialect, makePack, type StackItem } from '../../../tests/support/game';

const bytes = (text: string) => new TextEncoder().encode(text);
const stack: StackItem[] = [{ pack: 'p' }];
const OWN = { a: 'own a', 'sub/b': 'own b' };
async function deployed(): Promise<Bench> {
  const bench = new Bench(OWN, {}, { p: await makePack('p.zip', { a: 'pack a', 'sub/b': 'pack b', c: 'pack c' }) });
  await bench.deploy(stack);
  return bench;
}
const drift = async (bench: Bench) => (await bench.plan(stack)).drifted.map(({ target, how }) => `${how} ${target}`);
const restoreAll = (bench: Bench) => restore(bench.workshop(), { dialectOf: benchDialect });

describe('drift', () => {
  it('is nothing after a deployment, nor after a file was written again with the same bytes', async () => {
    const bench = await deployed();
    expect(await drift(bench)).toEqual([]);
    await bench.program.write('a', bytes('pack a'));
    expect(await drift(bench)).toEqual([]);
  });

  it('finds what was changed or deleted by size and date, and a change that hides both by hash', async () => {
    const bench = await deployed();
    await bench.program.write('a', bytes('other'));
    await bench.program.remove('c');
    // The same size under the date that was deployed: only the bytes tell.
    const { modified } = (await bench.program.stat('sub/b'))!;
    await bench.program.write('sub/b', bytes('PACK B'));
    bench.program.setDate('sub/b', modified);
    expect(await drift(bench)).toEqual(['changed program/a', 'deleted program/c']);
    expect(await checkDeployed(bench.workshop())).toEqual({
      files: 3,
      drifted: ['program/a', 'program/c', 'program/sub/b'],
    });
    expect(await drift(bench)).toEqual(['changed program/a', 'deleted program/c', 'changed program/sub/b']);
    await bench.deploy(stack);
    expect(bench.contents()['program/sub/b']).toBe('pack b');
    expect(await checkDeployed(bench.workshop())).toEqual({ files: 3, drifted: [] });
  });

  it('kept as one’s own: nothing is waiting, it survives deployments, and the game’s own comes back in the end', async () => {
    const bench = await deployed();
    await bench.program.write('a', bytes('mine'));
    const own = await takeAsOwn(bench.workshop(), [parseTarget('program/a')], 'own');
    const after: StackItem[] = [...stack, { own }];
    expect((await bench.plan(after)).steps).toEqual([]);
    expect(await drift(bench)).toEqual([]);
    await bench.deploy([{ own }]);
    expect(bench.contents()).toEqual({ 'program/a': 'mine', 'program/sub/b': 'own b' });
    // It comes back even after it was deployed away.
    await bench.deploy(stack);
    expect(bench.contents()['program/a']).toBe('pack a');
    await bench.deploy(after);
    expect(bench.contents()['program/a']).toBe('mine');
    await restoreAll(bench);
    expect(bench.contents()).toEqual({ 'program/a': 'own a', 'program/sub/b': 'own b' });
  });

  it('law: after an update, what was taken as original is what comes back, byte for byte', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.dictionary(fc.constantFrom('a', 'sub/b', 'c'), fc.string({ minLength: 1, maxLength: 8 }), { minKeys: 1 }),
        async (update) => {
          const bench = await deployed();
          for (const [path, text] of Object.entries(update)) await bench.program.write(path, bytes(text));
          const { drifted } = await bench.plan(stack);
          await takeAsOriginals(
            bench.workshop(),
            drifted.map(({ target }) => target),
          );
          await bench.deploy(stack);
          expect(bench.contents()).toEqual({ 'program/a': 'pack a', 'program/sub/b': 'pack b', 'program/c': 'pack c' });
          await restoreAll(bench);
          // An “update” to the pack’s own bytes is no drift, and goes with the pack.
          const own: Record<string, string> = { ...OWN };
          for (const { target } of drifted) own[target.slice(8)] = update[target.slice(8)] as string;
          expect(bench.contents()).toEqual(
            Object.fromEntries(Object.entries(own).map(([path, text]) => [`program/${path}`, text])),
          );
        },
      ),
      { numRuns: 40 },
    );
  });

  it('law: a stack with own files on top is that of packs, those files laid over it', async () => {
    const NAMES = ['a', 'sub/b', 'c', 'new'];
    await fc.assert(
      fc.asyncProperty(
        fc.dictionary(fc.constantFrom(...NAMES), fc.string({ maxLength: 6 })),
        fc.boolean(),
        async (mine, withPack) => {
          const bench = await deployed();
          const own: OwnFile[] = [];
          for (const [path, text] of Object.entries(mine)) {
            await bench.program.write(path, bytes(text));
            const [file] = await takeAsOwn(bench.workshop(), [parseTarget(`program/${path}`)], 'own');
            if (file) own.push(file);
            else await bench.program.remove(path);
          }
          const items: StackItem[] = [...(withPack ? stack : []), { own }];
          await bench.deploy(items);
          const expected: Record<string, string> = {
            ...OWN,
            ...(withPack ? { a: 'pack a', 'sub/b': 'pack b', c: 'pack c' } : {}),
          };
          for (const { target } of own) expected[target.slice(8)] = mine[target.slice(8)] as string;
          expect(bench.contents()).toEqual(
            Object.fromEntries(Object.entries(expected).map(([path, text]) => [`program/${path}`, text])),
          );
          expect((await bench.plan(items)).steps).toEqual([]);
          await restoreAll(bench);
          expect(bench.contents()).toEqual({ 'program/a': 'own a', 'program/sub/b': 'own b' });
        },
      ),
      { numRuns: 40 },
    );
  });
});
