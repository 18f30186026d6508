import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { relatedBy, resolveLayers, type Layer, type PackPath, type Relation, parseTarget } from '@/core';

const layer = (id: string, files: Record<string, number>): Layer => ({
  kind: 'pack',
  id,
  name: id,
  packId: id,
  files: Object.entries(files).map(([path, crc32]) => ({
    path: path as PackPath,
    target: parseTarget(`game/${path}`),
    size: 1,
    crc32,
  })),
});
const around = { mergedFrom: () => undefined, isOwn: (key: string) => key === 'game/own.png' };

/** How a layer's file at one path stands in a stack. */
function stands(stack: Layer[], id: string, path: string, relation: Relation) {
  const claimed = resolveLayers(stack).owned.claim(`game/${path}`);
  return claimed && relatedBy(claimed, id, relation, around);
}

describe('how the files of one layer stand to those of others', () => {
  const low = layer('low', { 'a.png': 1, 'own.png': 1, 'only.png': 1 });
  const high = layer('high', { 'a.png': 2 });

  it('says what covers, what is covered, and what would be there without it', () => {
    const stack = [low, high];
    expect(stands(stack, 'high', 'a.png', 'covers')).toEqual({ how: 'lies over', others: ['low'] });
    expect(stands(stack, 'low', 'a.png', 'covered')).toEqual({ how: 'lies under', others: ['high'] });
    expect(stands(stack, 'high', 'a.png', 'back')).toEqual({ how: 'next would be used', others: ['low'] });
    expect(stands(stack, 'low', 'own.png', 'back')).toEqual({ how: 'original would come back', others: [] });
    expect(stands(stack, 'low', 'only.png', 'back')).toEqual({ how: 'nothing would be left', others: [] });
    expect(stands(stack, 'high', 'own.png', 'covers')).toBeUndefined();
  });

  it('says of which merge it is a part, and nothing of layers without a file there or where the game’s own is kept', () => {
    const merge: Layer = {
      kind: 'merge',
      id: 'm',
      name: 'm',
      files: [{ target: parseTarget('game/a.png'), bytes: Uint8Array.from([9]) }],
    };
    const claimed = resolveLayers([low, high, merge]).owned.claim('game/a.png');
    const from = { ...around, mergedFrom: (id: string) => (id === 'm' ? ['low'] : undefined) };
    const relation = (id: string, which: Relation) => claimed && relatedBy(claimed, id, which, from);
    expect(relation('low', 'covered')).toEqual({ how: 'part of', others: ['m'] });
    expect(relation('high', 'covered')).toEqual({ how: 'lies under', others: ['m'] });
    expect(relation('m', 'covered')).toBeUndefined();
    expect(relation('m', 'covers')).toEqual({ how: 'lies over', others: ['high'] });
    expect(relation('m', 'back')).toEqual({ how: 'next would be used', others: ['high'] });
    for (const which of ['covers', 'covered', 'back'] as const) expect(relation('nobody', which)).toBeUndefined();
    const same = resolveLayers([low, layer('twin', { 'a.png': 1 })]).owned.claim('game/a.png');
    expect(same && relatedBy(same, 'twin', 'covers', around)).toBeUndefined();
    expect(same && relatedBy(same, 'low', 'covered', around)).toBeUndefined();
    const toGame = resolveLayers([low, high], [{ scope: 'file', at: 'game/a.png', layer: 'original' }]);
    const left = toGame.owned.claim('game/a.png');
    for (const which of ['covers', 'covered', 'back'] as const)
      expect(left && relatedBy(left, 'low', which, around)).toBeUndefined();
  });

  it('law: whatever is covered is covered by one that covers it, and only the top one would leave something behind', () => {
    const stacks = fc
      .uniqueArray(fc.constantFrom('p', 'q', 'r', 's'), { minLength: 1, maxLength: 4 })
      .chain((ids) => fc.tuple(...ids.map((id) => fc.integer({ min: 0, max: 2 }).map((crc) => layer(id, { x: crc })))));
    fc.assert(
      fc.property(stacks, (stack) => {
        const ids = stack.map(({ id }) => id);
        for (const id of ids) {
          const covered = stands(stack, id, 'x', 'covered');
          if (covered) expect(stands(stack, covered.others[0] ?? '', 'x', 'covers')?.others).toContain(id);
          expect(stands(stack, id, 'x', 'back') !== undefined).toBe(id === ids.at(-1));
        }
      }),
    );
  });
});
