import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  emptyStack,
  noDecisions,
  otherIn,
  playedAs,
  resolveLayers,
  setUpSchema,
  wayToPlay,
  type Layer,
  type PackLayer,
  type Stack,
  parseTarget,
} from '@/core';

const pack = (id: string, on = true): PackLayer => ({
  kind: 'pack',
  id,
  packId: `pack ${id}`,
  name: id.toUpperCase(),
  on,
  placement: { rules: [], leftOut: [], made: [], decisions: noDecisions },
  confidence: 'sure',
  parts: [],
  tag: { monogram: id, colour: 0 },
});
const stack = (layers: Stack['layers'], more: Partial<Stack> = {}): Stack => ({ ...emptyStack, ...more, layers });
const ids = ({ layers }: Pick<Stack, 'layers'>) => layers.map((layer) => `${layer.id}${layer.on ? '' : ' off'}`);
const edits = {
  kind: 'edits' as const,
  id: 'mine',
  name: 'Mine',
  on: true,
  file: parseTarget('game/a.ini'),
  edits: [{ path: ['far'], value: '1' }],
};

describe('a way to play', () => {
  it('leaves what it does not know at hand, switched off and below what lies above packs', () => {
    const then = wayToPlay(stack([pack('a'), pack('b', false), edits], { launchLine: '-wide' }));
    const now = stack([pack('c'), pack('a', false)], { machineMemory: 8, launchLine: '-old' });
    const { stack: next, gone } = playedAs(now, then, () => true);
    expect(ids(next)).toEqual(['a', 'b off', 'c off', 'mine']);
    expect([next.launchLine, next.machineMemory, gone]).toEqual(['-wide', 8, []]);
  });

  it('names packs in use that are not at hand, and goes without them', () => {
    const then = wayToPlay(stack([pack('a'), pack('b'), pack('c', false)]));
    const { stack: next, gone } = playedAs(stack([]), then, (packId) => packId === 'pack b');
    expect([ids(next), gone.map(({ name }) => name)]).toEqual([['b'], ['A']]);
  });

  it('law: there and back again is where one was, with all packs at hand', () => {
    const layers = fc
      .uniqueArray(fc.tuple(fc.constantFrom('a', 'b', 'c', 'd'), fc.boolean()), { selector: ([id]) => id })
      .map((all) => all.map(([id, on]) => pack(id, on)));
    fc.assert(
      fc.property(layers, layers, (one, other) => {
        const now = stack(one);
        const away = playedAs(now, wayToPlay(stack(other)), () => true).stack;
        const back = playedAs(away, wayToPlay(now), () => true).stack;
        const came = other.filter(({ id }) => !one.some((layer) => layer.id === id)).map(({ id }) => `${id} off`);
        expect(ids(back)).toEqual([...ids(now), ...came]);
      }),
    );
  });

  it('is read back as it was kept, and a name or a stack that is none is refused', () => {
    const kept = { id: 'x', name: 'Alone', at: 1, stack: wayToPlay(stack([pack('a'), edits])) };
    expect(setUpSchema.parse(JSON.parse(JSON.stringify(kept)))).toEqual(kept);
    for (const wrong of [
      { ...kept, name: '' },
      { ...kept, stack: { layers: [{ kind: 'pack' }] } },
      { ...kept, at: 'x' },
    ])
      expect(setUpSchema.safeParse(wrong).success).toBe(false);
  });
});

describe('what two ways come to', () => {
  const layer = (id: string, targets: string[]): Layer => ({
    kind: 'pack',
    id,
    name: id,
    packId: id,
    files: targets.map((target) => ({ path: `${target} of ${id}` as never, target: parseTarget(target), size: 1 })),
  });
  const wish = (value: string | undefined): Layer => ({
    kind: 'edits',
    id: 'mine',
    name: 'Mine',
    file: parseTarget('game/a.ini'),
    edits: [{ path: ['far'], ...(value === undefined ? {} : { value }) }],
  });

  it('other winners, files that only one has, and keys that are wanted otherwise', () => {
    const a = resolveLayers([layer('low', ['game/x', 'game/y']), layer('high', ['game/x']), wish('1')]);
    const b = resolveLayers([layer('high', ['game/x']), layer('low', ['game/x', 'game/z']), wish('2')]);
    expect(otherIn(a, b)).toEqual({
      files: [
        { target: 'game/x', a: 'high', b: 'low' },
        { target: 'game/y', a: 'low', b: undefined },
        { target: 'game/z', a: undefined, b: 'low' },
      ],
      keys: [{ target: 'game/a.ini', path: ['far'], a: '1', b: '2' }],
    });
    expect(otherIn(a, a)).toEqual({ files: [], keys: [] });
  });
});
