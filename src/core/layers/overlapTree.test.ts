import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { OverlapTree, resolveLayers, type Layer, type OverlapRow, type PackPath, parseTarget } from '@/core';

const pathArb = fc.constantFrom('p/x.png', 'p/f/x.png', 'p/f/g/y.txt', 'p/h/z.txt', 'q/x.png');
const stackArb = fc
  .array(fc.uniqueArray(fc.tuple(pathArb, fc.nat(1)), { selector: ([path]) => path, maxLength: 5 }), { maxLength: 5 })
  .map((packs) =>
    packs.map((files, i): Layer => ({
      kind: 'pack',
      id: `l${i}`,
      name: `Pack ${i}`,
      packId: `p${i}`,
      files: files.map(([path, crc32]) => ({ path: path as PackPath, target: parseTarget(path), size: 1, crc32 })),
    })),
  );
const treeOf = (stack: readonly Layer[], all: boolean, merged: Record<string, string[]> = {}) =>
  new OverlapTree(resolveLayers(stack).owned.claimed(), (layer) => merged[layer], all);
const everything = new Set(['p', 'p/f', 'p/f/g', 'p/h', 'q']);

describe('the overlap picture', () => {
  it('law: each folder counts what a walk over the plain stack counts', () => {
    fc.assert(
      fc.property(stackArb, (stack) => {
        const versions = new Map<string, [layer: string, content: number][]>();
        for (const layer of stack)
          if (layer.kind === 'pack')
            for (const { target, crc32 } of layer.files)
              versions.set(target, [...(versions.get(target) ?? []), [layer.id, crc32 ?? 0]]);
        const rows = treeOf(stack, true)
          .rows(everything)
          .map((row) => row());
        for (const row of rows) {
          const inside = [...versions].filter(([target]) => target === row.path || target.startsWith(`${row.path}/`));
          expect(row.files).toBe(inside.length);
          expect(row.overlapping).toBe(
            inside.filter(([, all]) => all.some(([, content]) => content !== all.at(-1)?.[1])).length,
          );
          for (const { layer, standings } of row.layers) {
            const of = (is: (all: [string, number][], at: number) => boolean) =>
              inside.filter(([, all]) => all.some(([id], i) => id === layer && is(all, i))).length;
            expect(standings).toEqual({
              'on top': of((all, i) => i === all.length - 1),
              hidden: of((all, i) => i < all.length - 1 && all[i]?.[1] !== all.at(-1)?.[1]),
              identical: of((all, i) => i < all.length - 1 && all[i]?.[1] === all.at(-1)?.[1]),
              merged: 0,
            });
          }
        }
        expect(
          rows
            .filter(({ kind }) => kind === 'file')
            .map(({ path }) => path)
            .sort(),
        ).toEqual([...versions.keys()].sort());
        // Without `all`, only where layers want different things.
        const some = treeOf(stack, false)
          .rows(everything)
          .map((row) => row());
        expect(
          some
            .filter(({ kind }) => kind === 'file')
            .map(({ path }) => path)
            .sort(),
        ).toEqual(
          rows
            .filter(({ kind, overlapping }) => kind === 'file' && overlapping > 0)
            .map(({ path }) => path)
            .sort(),
        );
      }),
      { numRuns: 300 },
    );
  });

  const file = (id: string, crc32: number): Layer => ({
    kind: 'pack',
    id,
    name: id,
    packId: id,
    files: [{ path: 'p/t.lang' as PackPath, target: parseTarget('p/t.lang'), size: 1, crc32 }],
  });
  const standings = (row: OverlapRow | undefined) =>
    Object.fromEntries(
      (row?.layers ?? []).map(({ layer, standings: of }) => [
        layer,
        Object.entries(of).find(([, count]) => count > 0)?.[0],
      ]),
    );

  it('says which packs are part of a merge', () => {
    const merge: Layer = {
      kind: 'merge',
      id: 'm',
      name: 'Merged',
      files: [{ target: parseTarget('p/t.lang'), bytes: Uint8Array.from([1]) }],
    };
    const [row] = treeOf([file('a', 1), file('b', 2), file('other', 3), merge], false, { m: ['a', 'b'] }).rows(
      new Set(),
      't.lang',
    );
    expect(standings(row?.())).toEqual({ a: 'merged', b: 'merged', other: 'hidden', m: 'on top' });
  });

  it('opens down to where it branches, and finds files by words of their paths', () => {
    const tree = treeOf([file('a', 1), file('b', 2)], false);
    expect([tree.firstFolders(), tree.overlapping]).toEqual([['p'], 1]);
    expect(tree.rows(new Set(), 'LANG t').map((row) => row().path)).toEqual(['p/t.lang']);
    expect(tree.rows(new Set(), 'nothing')).toEqual([]);
  });

  it('100,000 rows: only what is shown is made', () => {
    const many = (id: string): Layer => ({
      kind: 'pack',
      id,
      name: id,
      packId: id,
      files: Array.from({ length: 100_000 }, (_, i) => ({
        path: `f/${i}` as PackPath,
        target: parseTarget(`p/f/${i}`),
        size: 1,
        crc32: id === 'a' ? 1 : 2,
      })),
    });
    const rows = treeOf([many('a'), many('b')], false).rows(new Set(['p', 'p/f']));
    expect([rows.length, rows[50_000]?.().kind]).toEqual([100_002, 'file']);
  });
});
