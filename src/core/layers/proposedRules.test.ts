import { describe, expect, it } from 'vitest';
import { orderLayers, proposedRules, type StatedFact } from '@/core';

const pack = (id: string, name: string, ...needs: string[]) => ({
  id,
  name,
  facts: needs.map((value): StatedFact => ({ kind: 'needs', value, where: 'READ ME, line 1' })),
});

describe('rules that follow from what packs say', () => {
  const base = pack('b', 'Harbour Boats');
  const patch = pack('p', 'Night Paint', 'Harbour Boats');

  it('puts what says that it needs another above that one, whichever came first', () => {
    for (const [packs, id] of [
      [[base, patch], 'p'],
      [[patch, base], 'b'],
    ] as const)
      expect(proposedRules(packs, id, [])).toMatchObject([{ lower: 'b', upper: 'p' }]);
  });

  it('says nothing of packs that say nothing, and keeps what there is', () => {
    const rules = [{ lower: 'x', upper: 'y' }];
    expect(proposedRules([base, pack('c', 'Clouds')], 'c', rules)).toEqual(rules);
    expect(proposedRules([base], 'gone', rules)).toEqual(rules);
  });

  it('says why, once for each two, beside rules about others', () => {
    const rules = [
      { lower: 'x', upper: 'p' },
      { lower: 'b', upper: 'x' },
      { lower: 'x', upper: 'y' },
    ];
    const why = '“Night Paint” says that it needs “Harbour Boats”, so it lies above it.';
    const added = proposedRules([base, patch, pack('x', 'Extra')], 'p', rules);
    expect(added).toEqual([...rules, { lower: 'b', upper: 'p', why }]);
    expect(proposedRules([base, patch, pack('x', 'Extra')], 'p', added)).toEqual(added);
    expect(proposedRules([base, patch], 'p', [{ lower: 'b', upper: 'p' }])).toEqual([{ lower: 'b', upper: 'p' }]);
    // What says something else, or needs itself, is above nothing.
    const titled = { ...base, facts: [{ kind: 'title', value: 'Night Paint', where: '' } as StatedFact] };
    expect(proposedRules([titled, pack('c', 'Clouds')], 'c', [])).toEqual([]);
    expect(proposedRules([pack('s', 'Solo', 'Solo')], 's', [])).toEqual([]);
    const two = [base, pack('q', 'Fog Horns'), pack('p', 'Night Paint', 'Harbour Boats', 'Fog Horns')];
    expect(proposedRules(two, 'p', []).map(({ lower, upper }) => [lower, upper])).toEqual([
      ['b', 'p'],
      ['q', 'p'],
    ]);
    expect(proposedRules(two, 'q', []).map(({ lower, upper }) => [lower, upper])).toEqual([['q', 'p']]);
  });

  it('never contradicts a rule of the player’s, and never goes round', () => {
    const rules = [{ lower: 'p', upper: 'b' }];
    for (const id of ['p', 'b']) expect(proposedRules([base, patch], id, rules)).toEqual(rules);
    const round = [
      { lower: 'p', upper: 'x' },
      { lower: 'x', upper: 'b' },
    ];
    expect(proposedRules([base, patch, pack('x', 'Extra')], 'p', round)).toEqual(round);
    const [a, b] = [pack('a', 'Anchor Light', 'Bell Tower'), pack('b', 'Bell Tower', 'Anchor Light')];
    expect(orderLayers(['a', 'b'], proposedRules([a, b], 'b', [])).ok).toBe(true);
  });
});
