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
