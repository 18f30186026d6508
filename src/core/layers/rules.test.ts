import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { orderLayers, pick, type OrderRule, type Pick, parseTarget } from '@/core';

const rule = (lower: string, upper: string): OrderRule => ({ lower, upper });
const ids = ['a', 'b', 'c', 'd', 'e'];
const rulesArb = fc.array(
  fc
    .tuple(fc.constantFrom(...ids), fc.constantFrom(...ids))
    .filter(([a, b]) => a !== b)
    .map(([a, b]) => rule(a, b)),
  { maxLength: 6 },
);
const holds = (order: readonly string[], rules: readonly OrderRule[]) =>
  rules.every(
    ({ lower, upper }) =>
      !order.includes(lower) || !order.includes(upper) || order.indexOf(lower) < order.indexOf(upper),
  );
const permutations = (list: readonly string[]): string[][] =>
  list.length < 2
    ? [[...list]]
    : list.flatMap((one, i) => permutations([...list.slice(0, i), ...list.slice(i + 1)]).map((rest) => [one, ...rest]));

describe('order rules', () => {
  it('law: an order comes out if any order at all keeps the rules, and it keeps them; else a real cycle is named', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(ids), rulesArb, (wanted, rules) => {
        const result = orderLayers(wanted, rules);
        expect(result.ok).toBe(permutations(wanted).some((order) => holds(order, rules)));
        if (result.ok) {
          expect([...result.order].sort()).toEqual([...wanted].sort());
          expect(holds(result.order, rules)).toBe(true);
        } else {
          expect(result.cycle.length).toBeGreaterThan(1);
          result.cycle.forEach((lower, i) =>
            expect(
              rules.some((one) => one.lower === lower && one.upper === result.cycle[(i + 1) % result.cycle.length]),
            ).toBe(true),
          );
        }
      }),
      { numRuns: 2000 },
    );
  });

  it('law: an order that keeps the rules stays as it is', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(ids), rulesArb, (wanted, rules) => {
        if (holds(wanted, rules)) expect(orderLayers(wanted, rules)).toEqual({ ok: true, order: wanted });
      }),
      { numRuns: 1000 },
    );
  });

  it('moves only what has to be moved', () => {
    expect(orderLayers(['patch', 'x', 'base', 'y'], [rule('base', 'patch')])).toEqual({
      ok: true,
      order: ['base', 'patch', 'x', 'y'],
    });
    expect(orderLayers(['a', 'b'], [rule('a', 'b'), rule('b', 'a')])).toEqual({ ok: false, cycle: ['b', 'a'] });
  });

  it('takes a chain of ten thousand without running out of stack', () => {
    const many = Array.from({ length: 10_000 }, (_, i) => `l${i}`);
    const chain = many.slice(1).map((upper, i) => rule(`l${i}`, upper));
    expect(orderLayers([...many].reverse(), chain)).toEqual({ ok: true, order: many });
  });
});

describe('picks', () => {
  it('one pick holds for a place; another one for it takes its place, and taking it away leaves the others', () => {
    const first: Pick[] = pick([], 'file', parseTarget('p/A.png'), 'one');
    const second = pick(pick(first, 'file', parseTarget('p/a.png'), 'two'), 'kind', 'sound', 'one');
    expect(second).toEqual([
      { scope: 'file', at: 'p/a.png', layer: 'two' },
      { scope: 'kind', at: 'sound', layer: 'one' },
    ]);
    expect(pick(second, 'file', parseTarget('p/A.png'), undefined)).toEqual([
      { scope: 'kind', at: 'sound', layer: 'one' },
    ]);
  });
});
