import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countOverlaps, resolveLayers, type Layer, type PackPath, type TargetPath } from '@/core';

const packArb = fc.uniqueArray(fc.tuple(fc.constantFrom('p/a', 'p/b', 'p/C', 'p/c', 'p/d/e'), fc.nat(3)), { selector: ([path]) => path.toLowerCase(), maxLength: 5 });
const stackArb = fc.array(packArb, { maxLength: 6 }).map((packs) =>
  packs.map((files, i): Layer => ({ kind: 'pack', id: `l${i}`, name: `Pack ${i}`, packId: `p${i}`, files: files.map(([path, crc32]) => ({ path: path as PackPath, target: path as TargetPath, size: 1, crc32 })) })),
);

describe('resolution', () => {
  it('law: the topmost layer wins, as in a plain map that is written layer by layer', () => {
    fc.assert(
      fc.property(stackArb, (stack) => {
        const naive = new Map<string, string>();
        for (const layer of stack) if (layer.kind === 'pack') for (const { target } of layer.files) naive.set(target.toLowerCase(), layer.id);
        const { owned } = resolveLayers(stack);
        expect(new Map([...owned].map(([key, { providers }]) => [key, providers.at(-1)?.layer]))).toEqual(naive);
      }),
      { numRuns: 500 },
    );
  });

  it('counts overlaps of different content only', () => {
    const layer = (id: string, crc32: number): Layer => ({ kind: 'pack', id, name: id, packId: id, files: [{ path: 'a' as PackPath, target: 'p/a' as TargetPath, size: 1, crc32 }] });
    expect(countOverlaps(resolveLayers([layer('low', 1), layer('same', 2), layer('top', 2)]))).toEqual(new Map([['low', { wins: 0, loses: 1 }], ['top', { wins: 1, loses: 0 }]]));
    expect(countOverlaps(resolveLayers([layer('low', 2), layer('top', 2)])).size).toBe(0);
  });

  it('gathers edits of one file from all layers, in order', () => {
    const edits = (id: string, value: string): Layer => ({ kind: 'edits', id, name: id, file: 'user/x.ini' as TargetPath, edits: [{ path: ['a'], value }] });
    expect(resolveLayers([edits('one', '1'), edits('two', '2')]).living.get('user/x.ini')?.edits.map(({ layer, value }) => `${layer} ${value}`)).toEqual(['one 1', 'two 2']);
  });
});

describe('what lies inside archives, and what packs edit', () => {
  const names = fc.constantFrom('a', 'A', 'b/c', 'd');
  const layer = fc.record({ files: fc.uniqueArray(names, { maxLength: 3 }), inside: fc.uniqueArray(names, { maxLength: 3 }), made: fc.uniqueArray(names, { maxLength: 2 }) });

  it('law: the topmost layer wins inside an archive as it does outside, and what the app writes counts as its pack’s', () => {
    fc.assert(
      fc.property(fc.array(layer, { maxLength: 5 }), (stack) => {
        const layers = stack.map(({ files, inside, made }, i): Layer => ({
          kind: 'pack', id: `l${i}`, name: `L${i}`, packId: `p${i}`,
          files: [...files.map((path) => ({ path: path as PackPath, size: 1, target: `r/${path}` as TargetPath })), ...inside.map((path) => ({ path: path as PackPath, size: 1, target: 'r/core.zip' as TargetPath, inside: path }))],
          made: made.map((path) => ({ target: `r/${path}` as TargetPath, text: `by ${i}`, why: 'because' })),
        }));
        const { owned, inside } = resolveLayers(layers);
        const outer = new Map<string, string>();
        const inner = new Map<string, string>();
        stack.forEach((one, i) => {
          for (const path of one.files) outer.set(`r/${path}`.toLowerCase(), `p${i} file`);
          for (const path of one.made) outer.set(`r/${path}`.toLowerCase(), `p${i} made`);
          for (const path of one.inside) inner.set(path.toLowerCase(), `p${i}`);
        });
        expect(new Map([...owned].map(([key, { providers }]) => [key, `${providers.at(-1)?.packId} ${providers.at(-1)?.text === undefined ? 'file' : 'made'}`]))).toEqual(outer);
        expect(new Map([...(inside.get('r/core.zip')?.entries ?? [])].map(([key, { packId }]) => [key, packId]))).toEqual(inner);
      }),
    );
  });

  it('edits of packs lie under the player’s own, in the order of the stack', () => {
    const file = 'user/x.ini' as TargetPath;
    const { living } = resolveLayers([
      { kind: 'pack', id: 'low', name: 'Low', packId: 'a', files: [], edits: [{ file, edits: [{ path: ['k'], value: '1' }] }] },
      { kind: 'pack', id: 'high', name: 'High', packId: 'b', files: [], edits: [{ file, edits: [{ path: ['k'], value: '2' }] }] },
      { kind: 'edits', id: 'mine', name: 'Mine', file, edits: [{ path: ['k'], value: '3' }] },
    ]);
    expect(living.get('user/x.ini')?.edits.map(({ layer: from, value }) => [from, value])).toEqual([['low', '1'], ['high', '2'], ['mine', '3']]);
  });
});
