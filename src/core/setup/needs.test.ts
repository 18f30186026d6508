import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { noHistory, noted, wentTo, type History } from './history';
import { historyWithout, isSpare, needsOfPacks } from './needs';
import { changesBetween, type JsonObject } from './changes';
import type { SetUp } from './setUp';
import { emptyStack, type PackLayer } from './stack';

const layer = (packId: string) => ({ kind: 'pack', id: `l-${packId}`, packId }) as unknown as PackLayer;
const stackOf = (...ids: string[]) => ({ ...emptyStack, layers: ids.map(layer) });
const setUp = (name: string, ...ids: string[]) => ({ id: name, name, at: 1, stack: stackOf(...ids) }) as SetUp;

/** States of a tree in which packs come and go, and the history of getting from each to the next. */
function historyOf(states: readonly string[][]): { trees: JsonObject[]; history: History } {
  const trees = [[], ...states].map((ids) => ({ layers: Object.fromEntries(ids.map((id) => [id, layer(id)])) }));
  const history = trees
    .slice(1)
    .reduce<History>((all, to, i) => noted(all, `step ${i}`, i, changesBetween(trees[i] as JsonObject, to)), noHistory);
  return { trees, history };
}

describe('what needs a pack', () => {
  it('is told by everything that uses it, each once', () => {
    const { history } = historyOf([['a', 'b'], ['b'], ['b', 'e']]);
    const needs = needsOfPacks({
      stack: stackOf('b', 'c', 'c'),
      setUps: [setUp('alone', 'c', 'd'), setUp('server', 'd')],
      history,
      deployed: ['c', 'x'],
    });
    expect(Object.fromEntries(needs)).toEqual({
      a: ['undo'],
      b: ['stack', 'undo'],
      c: ['stack', 'deployed', { setUp: 'alone' }],
      d: [{ setUp: 'alone' }, { setUp: 'server' }],
      e: ['undo'],
      x: ['deployed'],
    });
    expect(['a', 'b', 'c', 'd', 'e', 'x', 'nobody'].filter((id) => isSpare(needs.get(id)))).toEqual([
      'a',
      'e',
      'nobody',
    ]);
  });

  it('law: after packs are let go no step names them, and every step that is left leads where it led', () => {
    const ids = fc.subarray(['a', 'b', 'c', 'd']);
    fc.assert(
      fc.property(fc.array(ids, { maxLength: 8 }), ids, fc.nat(8), (states, gone, back) => {
        const { trees, history } = historyOf(states);
        const at = Math.max(0, states.length - back);
        const now = wentTo(history, trees.at(-1) as JsonObject, at);
        const left = historyWithout(now.history, new Set(gone));
        for (const id of gone) expect(JSON.stringify(left)).not.toContain(`"packId":"${id}"`);
        const first = now.history.past.length - left.past.length;
        for (let steps = 0; steps <= left.past.length + left.future.length; steps++)
          expect(wentTo(left, now.tree, steps).tree).toEqual(trees[first + steps]);
      }),
    );
  });
});
