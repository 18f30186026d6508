import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readLedgerSteps, reverseDifferences, squashSteps, type Difference } from '@/core';
import { Bench, makePack, type Contents, type StackItem } from '../../../tests/support/game';

const NAMES = ['a', 'b', 'sub/c'];
const contentsArb = fc.dictionary(fc.constantFrom(...NAMES), fc.string({ minLength: 1, maxLength: 6 }));
const stackArb: fc.Arbitrary<StackItem[]> = fc
  .subarray(['p', 'q', 'r'])
  .map((packs) => packs.map((pack) => ({ pack })));

describe('the ledger, compared two by two', () => {
  it('law: what differs is what a look at the folders after each deployment says', async () => {
    await fc.assert(
      fc.asyncProperty(
        contentsArb,
        fc.tuple(contentsArb, contentsArb, contentsArb),
        fc.array(stackArb, { minLength: 2, maxLength: 4 }),
        async (own, packs, history) => {
          const opened = Object.fromEntries(
            await Promise.all(
              ['p', 'q', 'r'].map(
                async (id, i) => [id, await makePack(`${id}.zip`, { ...packs[i], [`only-${id}`]: id })] as const,
              ),
            ),
          );
          const bench = new Bench(own, {}, opened);
          const states: Contents[] = [bench.contents()];
          for (const stack of history) {
            await bench.deploy(stack);
            states.push(bench.contents());
          }
          const numbers = history.map((_, i) => i + 1);
          for (const from of [0, ...numbers])
            for (const to of numbers.filter((number) => number > from)) {
              const found = squashSteps(
                await Promise.all(
                  numbers
                    .filter((number) => number > from && number <= to)
                    .map((number) => readLedgerSteps(bench.vault, number)),
                ),
              );
              const [before, after] = [states[from] as Contents, states[to] as Contents];
              const named = new Set(found.map(({ target }) => target as string));
              for (const target of new Set([...Object.keys(before), ...Object.keys(after)])) {
                // Two packs with the same bytes are told apart, since they could differ one day; nothing that differs
                // is missed.
                if (before[target] !== after[target]) expect(named.has(target), target).toBe(true);
              }
              for (const { target, before: was, after: is } of found) {
                expect(was.kind === 'absent', target).toBe(before[target] === undefined);
                expect(is.kind === 'absent', target).toBe(after[target] === undefined);
              }
              expect(reverseDifferences(reverseDifferences(found))).toEqual(found);
            }
        },
      ),
      { numRuns: 40 },
    );
  });

  it('knows nothing of what came and went', () => {
    const absent = { kind: 'absent' } as const;
    const pack = { kind: 'pack', packId: 'p', path: 'x', size: 1 } as const;
    const step = (before: Difference['before'], after: Difference['after']) => ({
      target: 'program/x' as never,
      action: 'add' as const,
      layer: 'p',
      before,
      after,
    });
    expect(squashSteps([[step(absent, pack)], [step(pack, absent)]])).toEqual([]);
    expect(squashSteps([[step(absent, pack)]])).toHaveLength(1);
  });
});
