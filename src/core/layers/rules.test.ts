import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { orderLayers, pick, type OrderRule, type Pick, parseTarget } from '@/core';
import { PickBook, orderRuleSchema, pickSchema } from './rules';

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

  it('what several have to lie under one keeps its own order, in whatever order the rules stand', () => {
    const wanted = ['top', 'one', 'two', 'three'];
    for (const rules of permutations(['one', 'two', 'three']).map((some) => some.map((id) => rule(id, 'top'))))
      expect(orderLayers(wanted, rules)).toEqual({ ok: true, order: ['one', 'two', 'three', 'top'] });
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

  it('a file, a folder and a kind of one name are three places, and so are two files', () => {
    const all: Pick[] = [
      { scope: 'file', at: 'text', layer: 'one' },
      { scope: 'file', at: 'text2', layer: 'one' },
      { scope: 'folder', at: 'text', layer: 'one' },
      { scope: 'kind', at: 'text', layer: 'one' },
    ];
    for (const { scope, at } of all) {
      const others = all.filter((one) => one.scope !== scope || one.at !== at);
      expect(pick(all, scope, at, 'two')).toEqual([...others, { scope, at, layer: 'two' }]);
      expect(pick(all, scope, at, undefined)).toEqual(others);
    }
  });

  it('are asked from the narrowest on, and only those that hold for the place', () => {
    const book = new PickBook([
      { scope: 'kind', at: 'text', layer: 'k' },
      { scope: 'folder', at: 'P', layer: 'p' },
      { scope: 'folder', at: 'p/q', layer: 'q' },
      { scope: 'folder', at: 'other', layer: 'o' },
      { scope: 'file', at: 'p/q/Read.txt', layer: 'f' },
    ]);
    expect(book.find('p/q/read.txt')).toEqual(['f', 'q', 'p', 'k']);
    expect(book.find('p/read.txt')).toEqual(['p', 'k']);
    expect(book.find('p/q/r/sound.ogg')).toEqual(['q', 'p']);
    expect(book.find('read.txt')).toEqual(['k']);
    expect(book.find('sound.ogg')).toEqual([]);
    expect(new PickBook([]).find('p/q/read.txt')).toEqual([]);
    expect(new PickBook([{ scope: 'file', at: 'a.txt', layer: 'f' }]).find('p/a.txt')).toEqual([]);
  });

  it('are remembered only where they name a place, and rules only where they name two layers', () => {
    const whole: Pick = { scope: 'folder', at: 'p', layer: 'one' };
    expect(pickSchema.parse(whole)).toEqual(whole);
    for (const wrong of [{ ...whole, scope: 'drive' }, { ...whole, at: '' }, { ...whole, layer: '' }, {}])
      expect(pickSchema.safeParse(wrong).success, JSON.stringify(wrong)).toBe(false);
    const said = { ...rule('low', 'up'), why: 'because' };
    expect(orderRuleSchema.parse(said)).toEqual(said);
    expect(orderRuleSchema.parse(rule('low', 'up'))).toEqual(rule('low', 'up'));
    for (const wrong of [rule('', 'up'), rule('low', ''), { lower: 'low' }])
      expect(orderRuleSchema.safeParse(wrong).success, JSON.stringify(wrong)).toBe(false);
  });
});
