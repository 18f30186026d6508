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
