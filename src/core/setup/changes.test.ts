import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changesBetween, isSame, withChanges, type Json, type JsonObject } from '@/core';

/** JSON by another hand: what Node itself reads back out of its own text. */
const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

const tree = fc.object({
  maxDepth: 3,
  key: fc.constantFrom('a', 'b', 'c', 'order', 'of', '__proto__x'),
  values: [fc.integer({ min: 0, max: 3 }), fc.constantFrom('x', 'y'), fc.boolean(), fc.constant(null)],
  withNullPrototype: false,
}) as fc.Arbitrary<JsonObject>;

describe('changes of data', () => {
  it('law: made they give the later state, taken back the earlier one', () => {
    fc.assert(
      fc.property(tree, tree, (a, b) => {
        const changes = changesBetween(a, b);
        expect(plain(withChanges(a, changes, 'forth'))).toEqual(plain(b));
        expect(plain(withChanges(b, changes, 'back'))).toEqual(plain(a));
        expect(isSame(a, b)).toBe(changes.length === 0);
      }),
      { numRuns: 2000 },
    );
  });

  it('law: neither state is changed, and the changes are still right after they went through JSON', () => {
    fc.assert(
      fc.property(tree, tree, (a, b) => {
        const [before, after] = [JSON.stringify(a), JSON.stringify(b)];
        const changes = plain(changesBetween(a, b)) as ReturnType<typeof changesBetween>;
        expect(plain(withChanges(a, changes, 'forth'))).toEqual(plain(b));
        expect([JSON.stringify(a), JSON.stringify(b)]).toEqual([before, after]);
      }),
    );
  });

  it('speak only of the piece of a list that became another', () => {
    const list = Array.from({ length: 1000 }, (_, i) => i);
    const other = [...list.slice(0, 500), -1, ...list.slice(501)];
    expect(changesBetween({ list }, { list: other })).toEqual([{ at: ['list'], from: 500, out: [500], in: [-1] }]);
  });

  it.each<[string, Json[], Json[], Json[], Json[]]>([
    ['something else was added before it', [1, 2], [1, 2, 3], [9, 1, 2, 3], [9, 1, 2]],
    ['it is gone already', [1, 2], [1, 2, 3], [1, 2], [1, 2]],
    ['what comes back came back already', [1, 2, 3], [1, 3], [1, 2, 3, 4], [1, 2, 3, 4]],
    ['the list is gone', [1], [1, 2], [], []],
  ])('leave alone what came since: %s', (_, before, after, now, then) => {
    const changes = changesBetween({ list: before }, { list: after });
    expect(withChanges({ list: now }, changes, 'back')).toEqual({ list: then });
  });
});
