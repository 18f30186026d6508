import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { halve, type HalvingAnswer } from '@/core';

/** A player who starts the game as told; it fails where all culprits are in. */
function play(suspects: string[], culprits: string[]): { found: string[]; starts: number } {
  const answers: HalvingAnswer[] = [];
  for (;;) {
    const step = halve(suspects, answers);
    if (step.next === 'found') return { found: step.culprits, starts: answers.length };
    if (step.next !== 'try') return { found: [], starts: answers.length };
    answers.push({ on: step.on, failed: culprits.length > 0 && culprits.every((one) => step.on.includes(one)) });
    if (answers.length > 200) throw new Error('no end');
  }
}
/** The smallest set that fails, by trying all singles and then all pairs. */
function bruteForce(suspects: string[], fails: (on: string[]) => boolean): string[] {
  for (const one of suspects) if (fails([one])) return [one];
  for (const [i, one] of suspects.entries())
    for (const other of suspects.slice(i + 1)) if (fails([one, other])) return [one, other];
  return [];
}
const names = (n: number) => Array.from({ length: n }, (_, i) => `pack ${i}`);

describe('finding the culprit by halves', () => {
  it('law: a single one is the one that trying all finds, in never more than 2·log2(n)+2 starts', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 200 }), fc.nat(), (n, pick) => {
        const suspects = names(n);
        const culprits = [suspects[pick % n] as string];
        const { found, starts } = play(suspects, culprits);
        expect(found).toEqual(bruteForce(suspects, (on) => culprits.every((one) => on.includes(one))));
        expect(starts).toBeLessThanOrEqual(2 * Math.log2(n) + 2);
      }),
      { numRuns: 500 },
    );
  });

  it('law: a pair that only fails together is found, too', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 60 }), fc.nat(), fc.nat(), (n, a, b) => {
        fc.pre(a % n !== b % n);
        const suspects = names(n);
        const culprits = [suspects[a % n] as string, suspects[b % n] as string];
        const { found, starts } = play(suspects, culprits);
        expect([...found].sort()).toEqual(
          [...bruteForce(suspects, (on) => culprits.every((one) => on.includes(one)))].sort(),
        );
        expect(starts).toBeLessThanOrEqual(6 * Math.log2(n) + 4);
      }),
      { numRuns: 500 },
    );
  });

  it('says so where the packs are not to blame', () => {
    expect(halve(['a', 'b'], [{ on: ['a', 'b'], failed: false }])).toEqual({ next: 'none', why: 'works with all' });
    expect(halve(['a'], [{ on: [], failed: true }])).toEqual({ next: 'none', why: 'fails without any' });
    expect(halve([], [])).toEqual({ next: 'none', why: 'fails without any' });
  });
});
