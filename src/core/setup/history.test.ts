import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  MOST_STEPS,
  changesBetween,
  historySchema,
  noHistory,
  noted,
  wentTo,
  type History,
  type JsonObject,
} from '@/core';

/** A history of states, each a small tree, with every state it went through. */
function lived(states: readonly JsonObject[]): { history: History; tree: JsonObject } {
  let history = noHistory;
  let tree = states[0] as JsonObject;
  for (const next of states.slice(1)) {
    history = noted(history, 'a step', 0, changesBetween(tree, next));
    tree = next;
  }
  return { history, tree };
}

const state = fc.record({
  order: fc.array(fc.constantFrom('a', 'b', 'c', 'd')),
  on: fc.dictionary(fc.constantFrom('a', 'b'), fc.boolean()),
});

describe('the history of what was decided', () => {
  it('law: however one goes back and forth, each state is as it was', () => {
    fc.assert(
      fc.property(
        fc.array(state, { minLength: 1, maxLength: 12 }),
        fc.array(fc.nat(14), { maxLength: 12 }),
        (states, ways) => {
          let { history, tree } = lived(states);
          for (const way of ways) {
            ({ history, tree } = wentTo(history, tree, way));
            expect(JSON.parse(JSON.stringify(tree))).toEqual(
              JSON.parse(JSON.stringify(states[Math.min(way, states.length - 1)])),
            );
            expect(history.past.length + history.future.length).toBe(states.length - 1);
          }
        },
      ),
    );
  });

  it('a new decision ends what could be done again', () => {
    const { history, tree } = lived([{ n: 0 }, { n: 1 }, { n: 2 }]);
    const back = wentTo(history, tree, 1);
    expect(back.tree).toEqual({ n: 1 });
    const anew = noted(back.history, 'another', 5, changesBetween(back.tree, { n: 7 }));
    expect([anew.past.length, anew.future.length]).toEqual([2, 0]);
    expect(wentTo(anew, { n: 7 }, 0).tree).toEqual({ n: 0 });
  });

  it('keeps 200 steps, and no more text than there is room for', () => {
    const many = lived(Array.from({ length: 300 }, (_, n) => ({ n })));
    expect(many.history.past.length).toBe(MOST_STEPS);
    expect(wentTo(many.history, many.tree, 0).tree).toEqual({ n: 99 });
    const long = lived(Array.from({ length: 20 }, (_, n) => ({ text: `${n} ${'x'.repeat(500_000)}` })));
    expect(long.history.past.length).toBeLessThan(5);
    expect(JSON.stringify(long.history).length).toBeLessThan(4_100_000);
    const huge = lived([{ text: '' }, { text: 'x'.repeat(9_000_000) }]);
    expect(wentTo(huge.history, huge.tree, 0).tree).toEqual({ text: '' });
  });

  it('is read back as it was written, and nothing else is taken for one', () => {
    const { history } = lived([{ n: 0, list: [1] }, { n: 1, list: [2, null] }, { list: [] }]);
    expect(historySchema.parse(JSON.parse(JSON.stringify(history)))).toEqual(JSON.parse(JSON.stringify(history)));
    for (const wrong of [null, [], { past: [] }, { past: [{ says: 1 }], future: [] }, { past: [{}], future: [] }])
      expect(historySchema.safeParse(wrong).success).toBe(false);
  });
});
