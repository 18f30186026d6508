import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockMoves } from './blockMoves';

/** The order after a move, as somebody does it with cards on a table: take them out, put them back in one go. */
function moved(order: string[], marked: ReadonlySet<string>, place: number): string {
  const stays = order.filter((id) => !marked.has(id));
  return [...stays.slice(0, place), ...order.filter((id) => marked.has(id)), ...stays.slice(place)].join('');
}

describe('layers that are moved together', () => {
  it.each([
    ['abcde', 'ac', 'top', 'bdeac'],
    ['abcde', 'ac', 'up', 'bdace'],
    ['abcde', 'ac', 'down', 'acbde'],
    ['abcde', 'ce', 'bottom', 'ceabd'],
    ['abcde', 'ce', 'down', 'acebd'],
    ['abcde', 'ce', 'up', 'abdce'],
    ['abcde', 'abcde', 'up', 'abcde'],
    ['ab', 'a', 'up', 'ba'],
    ['ab', 'a', 'down', 'ab'],
  ] as const)('%s, marked %s, %s: %s', (order, marked, how, expected) => {
    const set = new Set(marked);
    expect(moved([...order], set, blockMoves([...order], set)[how])).toBe(expected);
  });

  it('law: one layer goes up and down as by its own arrows, and stays at the ends', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.string({ minLength: 1, maxLength: 3 }), { minLength: 1 }),
        fc.nat(),
        (order, at) => {
          const place = at % order.length;
          const { top, up, down, bottom } = blockMoves(order, new Set([order[place] ?? '']));
          expect([top, bottom]).toEqual([order.length - 1, 0]);
          expect([up, down]).toEqual([Math.min(order.length - 1, place + 1), Math.max(0, place - 1)]);
        },
      ),
    );
  });
});
