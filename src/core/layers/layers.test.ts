import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  ORIGINAL,
  Resolver,
  kindOf,
  nameKey,
  resolveLayers,
  type Layer,
  type PackPath,
  type Pick,
  type Resolution,
  parseTarget,
} from '@/core';

const packArb = fc.uniqueArray(fc.tuple(fc.constantFrom('p/a', 'p/b', 'p/C', 'p/c', 'p/d/e'), fc.nat(3)), {
  selector: ([path]) => path.toLowerCase(),
  maxLength: 5,
});
const stackArb = fc.array(packArb, { maxLength: 6 }).map((packs) =>
  packs.map((files, i): Layer => ({
    kind: 'pack',
    id: `l${i}`,
    name: `Pack ${i}`,
    packId: `p${i}`,
    files: files.map(([path, crc32]) => ({ path: path as PackPath, target: parseTarget(path), size: 1, crc32 })),
  })),
);

/** The tallies that say something. */
const counted = ({ overlaps }: Resolution) =>
  Object.fromEntries([...overlaps].filter(([, { wins, loses }]) => wins + loses > 0));
/** Everything a resolution says, as plain values. */
const told = (resolution: Resolution) => ({
  owned: Object.fromEntries(
    [...resolution.owned]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, { target, providers }]) => [
        key,
        { target, providers: providers.map(({ layer, file }) => [layer, file.crc32]) },
      ]),
  ),
  size: resolution.owned.size,
  counted: counted(resolution),
});

describe('resolution', () => {
  it('law: the topmost layer wins, as in a plain map that is written layer by layer', () => {
    fc.assert(
      fc.property(stackArb, (stack) => {
        const naive = new Map<string, string>();
        for (const layer of stack)
          if (layer.kind === 'pack') for (const { target } of layer.files) naive.set(target.toLowerCase(), layer.id);
        const { owned } = resolveLayers(stack);
        expect(new Map([...owned].map(([key, { providers }]) => [key, providers.at(-1)?.layer]))).toEqual(naive);
      }),
      { numRuns: 500 },
    );
  });

  it('counts overlaps of different content only', () => {
    const layer = (id: string, crc32: number): Layer => ({
      kind: 'pack',
      id,
      name: id,
      packId: id,
      files: [{ path: 'a' as PackPath, target: parseTarget('p/a'), size: 1, crc32 }],
    });
    expect(counted(resolveLayers([layer('low', 1), layer('same', 2), layer('top', 2)]))).toEqual({
      low: { wins: 0, loses: 1 },
      top: { wins: 1, loses: 0 },
    });
    expect(counted(resolveLayers([layer('low', 2), layer('top', 2)]))).toEqual({});
  });

  it('nothing at all says nothing', () => {
    const { owned, living, inside, overlaps } = resolveLayers([]);
    expect([owned.size, [...owned], [...owned.claimed()], living.size, inside.size, overlaps.size]).toEqual([
      0,
      [],
      [],
      0,
      0,
      0,
    ]);
    expect([owned.has('p/x'), owned.get('p/x'), owned.claim('p/x')]).toEqual([false, undefined, undefined]);
  });

  it('gathers edits of one file from all layers, in order', () => {
    const edits = (id: string, value: string): Layer => ({
      kind: 'edits',
      id,
      name: id,
      file: parseTarget('user/x.ini'),
      edits: [{ path: ['a'], value }],
    });
    expect(
      resolveLayers([edits('one', '1'), edits('two', '2')])
        .living.get('user/x.ini')
        ?.edits.map(({ layer, value }) => `${layer} ${value}`),
    ).toEqual(['one 1', 'two 2']);
  });
});

describe('what lies inside archives, and what packs edit', () => {
  const names = fc.constantFrom('a', 'A', 'b/c', 'd');
  const layer = fc.record({
    files: fc.uniqueArray(names, { maxLength: 3 }),
    inside: fc.uniqueArray(names, { maxLength: 3 }),
    made: fc.uniqueArray(names, { maxLength: 2 }),
  });

  it('law: the topmost layer wins inside an archive as it does outside, and what the app writes counts as its pack’s', () => {
    fc.assert(
      fc.property(fc.array(layer, { maxLength: 5 }), (stack) => {
        const layers = stack.map(({ files, inside, made }, i): Layer => ({
          kind: 'pack',
          id: `l${i}`,
          name: `L${i}`,
          packId: `p${i}`,
          files: [
            ...files.map((path) => ({ path: path as PackPath, size: 1, target: parseTarget(`r/${path}`) })),
            ...inside.map((path) => ({
              path: path as PackPath,
              size: 1,
              target: parseTarget('r/core.zip'),
              inside: path,
            })),
          ],
          made: made.map((path) => ({ target: parseTarget(`r/${path}`), text: `by ${i}`, why: 'because' })),
        }));
        const { owned, inside } = resolveLayers(layers);
        const outer = new Map<string, string>();
        const inner = new Map<string, string>();
        stack.forEach((one, i) => {
          for (const path of one.files) outer.set(`r/${path}`.toLowerCase(), `p${i} file`);
          for (const path of one.made) outer.set(`r/${path}`.toLowerCase(), `p${i} made`);
          for (const path of one.inside) inner.set(path.toLowerCase(), `p${i}`);
        });
        expect(
          new Map(
            [...owned].map(([key, { providers }]) => [
              key,
              `${providers.at(-1)?.packId} ${providers.at(-1)?.made ? 'made' : 'file'}`,
            ]),
          ),
        ).toEqual(outer);
        expect(
          new Map([...(inside.get('r/core.zip')?.entries ?? [])].map(([key, { packId }]) => [key, packId])),
        ).toEqual(inner);
      }),
    );
  });

  it('edits of packs lie under the player’s own, in the order of the stack', () => {
    const file = parseTarget('user/x.ini');
    const { living } = resolveLayers([
      {
        kind: 'pack',
        id: 'low',
        name: 'Low',
        packId: 'a',
        files: [],
        edits: [{ file, edits: [{ path: ['k'], value: '1' }] }],
      },
      {
        kind: 'pack',
        id: 'high',
        name: 'High',
        packId: 'b',
        files: [],
        edits: [{ file, edits: [{ path: ['k'], value: '2' }] }],
      },
      { kind: 'edits', id: 'mine', name: 'Mine', file, edits: [{ path: ['k'], value: '3' }] },
    ]);
    expect(living.get('user/x.ini')?.edits.map(({ layer: from, value }) => [from, value])).toEqual([
      ['low', '1'],
      ['high', '2'],
      ['mine', '3'],
    ]);
  });
});

/** Last writer wins over a plain map; then, for each target, the narrowest pick whose layer has it. */
function naive(stack: readonly Layer[], picks: readonly Pick[]): Map<string, string> {
  const writers = new Map<string, string[]>();
  for (const layer of stack)
    if (layer.kind === 'pack')
      for (const { target } of layer.files)
        writers.set(nameKey(target), [...(writers.get(nameKey(target)) ?? []), layer.id]);
  const winners = new Map<string, string>();
  for (const [key, layers] of writers) {
    const narrow = (one: Pick) => (one.scope === 'file' ? 1000 : one.scope === 'folder' ? one.at.length : 0);
    const fits = picks.filter(({ scope, at }) =>
      scope === 'file'
        ? nameKey(at) === key
        : scope === 'folder'
          ? key.startsWith(`${nameKey(at)}/`)
          : kindOf(key) === at,
    );
    const [picked] = fits
      .sort((a, b) => narrow(b) - narrow(a))
      .map(({ layer }) => layer)
      .filter((layer) => layer === ORIGINAL || layers.includes(layer));
    const winner = picked ?? layers.at(-1);
    if (winner !== undefined && winner !== ORIGINAL) winners.set(key, winner);
  }
  return winners;
}

const layerIds = ['a', 'b', 'c', 'd'];
const targetArb = fc.constantFrom('p/x.png', 'p/X.png', 'p/y.txt', 'p/f/x.png', 'p/f/z.txt', 'p/f/g/x.png', 'q/x.png');
const filesArb = fc.uniqueArray(fc.tuple(targetArb, fc.nat(2)), {
  selector: ([path]) => path.toLowerCase(),
  maxLength: 6,
});
const pickArb: fc.Arbitrary<Pick> = fc.oneof(
  fc.record({ scope: fc.constant('file' as const), at: targetArb, layer: fc.constantFrom(...layerIds, ORIGINAL) }),
  fc.record({
    scope: fc.constant('folder' as const),
    at: fc.constantFrom('p', 'p/f', 'p/f/g', 'q'),
    layer: fc.constantFrom(...layerIds, ORIGINAL),
  }),
  fc.record({
    scope: fc.constant('kind' as const),
    at: fc.constantFrom('picture', 'text'),
    layer: fc.constantFrom(...layerIds, ORIGINAL),
  }),
);
const picksArb = fc.uniqueArray(pickArb, { selector: ({ scope, at }) => `${scope} ${at.toLowerCase()}`, maxLength: 4 });
/** Layers in some order, each with some of its versions of files: leaving files out is one of them without some. */
const historyArb = fc.array(
  fc.tuple(fc.shuffledSubarray(layerIds), fc.array(fc.nat(2), { minLength: 4, maxLength: 4 }), picksArb),
  { minLength: 1, maxLength: 7 },
);

describe('picks, and one stack after the other', () => {
  it('law: the narrowest pick of a layer that has the file wins, else the last writer', () => {
    fc.assert(
      fc.property(
        fc.array(filesArb, { minLength: 4, maxLength: 4 }),
        fc.shuffledSubarray(layerIds),
        picksArb,
        (contents, order, picks) => {
          const stack = order.map((id) => packLayer(id, contents[layerIds.indexOf(id)] ?? []));
          expect(
            new Map(
              [...resolveLayers(stack, picks).owned].map(([key, { providers }]) => [key, providers.at(-1)?.layer]),
            ),
          ).toEqual(naive(stack, picks));
        },
      ),
      { numRuns: 1000 },
    );
  });

  it('law: after any history of moves, leave-outs, picks and releases it says what it would say anew, and names what changed', () => {
    fc.assert(
      fc.property(fc.array(filesArb, { minLength: 12, maxLength: 12 }), historyArb, (contents, history) => {
        const versions = contents.map((files, i) => packLayer(layerIds[i % 4] as string, files));
        const resolver = new Resolver();
        let before = new Map<string, string>();
        for (const [order, version, picks] of history) {
          const stack = order.map(
            (id) => versions[layerIds.indexOf(id) + 4 * (version[layerIds.indexOf(id)] ?? 0)] as Layer,
          );
          const { resolution, changed } = resolver.resolve(stack, picks);
          expect(told(resolution)).toEqual(told(resolveLayers(stack, picks)));
          const after = naive(stack, picks);
          const differs = [...new Set([...before.keys(), ...after.keys()])].filter(
            (key) => before.get(key) !== after.get(key),
          );
          expect([...changed].map(({ target, from, to }) => [nameKey(target), from, to]).sort()).toEqual(
            differs.map((key) => [key, before.get(key), after.get(key)]).sort(),
          );
          before = after;
        }
      }),
      { numRuns: 1000 },
    );
  });

  it('a name in any case and in any Unicode form is one target', () => {
    const { owned, overlaps } = resolveLayers([
      packLayer('low', [['p/Caf\u00e9.png', 1]]),
      packLayer('top', [['P/cafe\u0301.PNG', 2]]),
    ]);
    expect([owned.size, [...owned.keys()].length, overlaps.get('top')?.wins]).toEqual([1, 1, 1]);
  });
});

function packLayer(id: string, files: readonly (readonly [string, number])[]): Layer {
  return {
    kind: 'pack',
    id,
    name: id,
    packId: `${id}-pack`,
    files: files.map(([path, crc32]) => ({ path: path as PackPath, target: parseTarget(path), size: 1, crc32 })),
  };
}
