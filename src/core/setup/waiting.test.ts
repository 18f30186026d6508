import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyStack, noDecisions, withFiles, withoutFiles, type PackLayer, type Stack, parseTarget } from '@/core';

const pack = (id: string): PackLayer => ({
  kind: 'pack',
  id,
  packId: `pack ${id}`,
  name: id,
  on: true,
  placement: { rules: [], leftOut: [], made: [], decisions: noDecisions },
  confidence: 'chosen',
  parts: [],
  tag: { monogram: id, colour: 0 },
});
const edits: Stack['layers'][number] = {
  kind: 'edits',
  id: 'e',
  name: 'E',
  on: true,
  file: parseTarget('g/a'),
  edits: [],
};
const note = (id: string) => ({ id: `pack ${id}`, file: `${id}.zip`, size: 1, sha256: `hash ${id}` });
const ids = ({ layers }: Stack) => layers.map(({ id }) => id);

describe('packs whose files are not at hand', () => {
  it('law: whichever are lost, they are back in their places when their files came, the lowest first', () => {
    fc.assert(
      fc.property(fc.subarray(['a', 'b', 'c', 'd', 'x']), (lost) => {
        const all = ['a', 'b', 'c', 'd'];
        const stack: Stack = { ...emptyStack, layers: [...all.map(pack), edits] };
        let now = withoutFiles(stack, new Set(lost), all.map(note));
        expect(ids(now)).toEqual([...all.filter((id) => !lost.includes(id)), 'e']);
        expect(now.waiting.map(({ file }) => file)).toEqual(lost.filter((id) => id !== 'x').map((id) => `${id}.zip`));
        for (const id of lost) now = withFiles(now, `hash ${id}`, `pack ${id}`)?.stack ?? now;
        expect(now).toEqual(stack);
      }),
    );
  });

  it('a file under another name and another id is the pack all the same; one with other bytes is not', () => {
    const stack = withoutFiles({ ...emptyStack, layers: [pack('a'), edits] }, new Set(['a']), [note('a')]);
    expect(withFiles(stack, 'hash other', 'p')).toBeUndefined();
    const back = withFiles(stack, 'hash a', 'other id');
    expect(back?.layer).toEqual({ ...pack('a'), packId: 'other id' });
    expect(ids(back?.stack ?? emptyStack)).toEqual(['a', 'e']);
  });

  it('where what it lay on is gone, it lies on top of the packs', () => {
    const all = { ...emptyStack, layers: [pack('a'), pack('b'), pack('c'), edits] };
    const without = withoutFiles(all, new Set(['b']), [note('b')]);
    const less = { ...without, layers: without.layers.filter(({ id }) => id !== 'a') };
    expect(ids(withFiles(less, 'hash b', 'pack b')?.stack ?? emptyStack)).toEqual(['c', 'b', 'e']);
  });

  it('one of which nothing is known but its name goes without a trace', () => {
    const stack = withoutFiles({ ...emptyStack, layers: [pack('a')] }, new Set(['a']), []);
    expect([stack.layers, stack.waiting]).toEqual([[], []]);
  });
});
