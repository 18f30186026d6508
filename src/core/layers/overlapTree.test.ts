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

  it('shows folders and files in the order of their paths, each with its own name, deeper where they lie deeper', () => {
    const pack = (id: string, crc32: number): Layer => ({
      kind: 'pack',
      id,
      name: id,
      packId: id,
      files: ['q/z.png', 'p/f/g/y.txt', 'p/x.png', 'p/f/a.png'].map((path) => ({
        path: path as PackPath,
        target: parseTarget(path),
        size: 1,
        crc32,
      })),
    });
    const tree = treeOf([pack('a', 1), pack('b', 2)], false);
    const shown = (open: string[]) =>
      tree
        .rows(new Set(open))
        .map((row) => row())
        .map(({ path, name, depth, kind, open: is, files }) => [path, name, depth, kind, is, files]);
    expect(shown([])).toEqual([
      ['p', 'p', 0, 'folder', false, 3],
      ['q', 'q', 0, 'folder', false, 1],
    ]);
    expect(shown(['p', 'p/f', 'p/f/g'])).toEqual([
      ['p', 'p', 0, 'folder', true, 3],
      ['p/f', 'f', 1, 'folder', true, 2],
      ['p/f/g', 'g', 2, 'folder', true, 1],
      ['p/f/g/y.txt', 'y.txt', 3, 'file', false, 1],
      ['p/f/a.png', 'a.png', 2, 'file', false, 1],
      ['p/x.png', 'x.png', 1, 'file', false, 1],
      ['q', 'q', 0, 'folder', false, 1],
    ]);
    expect([tree.layers, tree.overlapping, tree.firstFolders()]).toEqual([['a', 'b'], 4, ['p', 'q', 'p/f', 'p/f/g']]);
    const [folder] = tree.rows(new Set());
    expect(folder?.().layers).toEqual([
      { layer: 'a', standings: { 'on top': 0, hidden: 3, identical: 0, merged: 0 } },
      { layer: 'b', standings: { 'on top': 3, hidden: 0, identical: 0, merged: 0 } },
    ]);
    // A file that was found by a search stands with its whole path.
    expect(tree.rows(new Set(), 'y.txt').map((row) => [row().name, row().depth])).toEqual([['p/f/g/y.txt', 0]]);
  });

  it('opens at first what leads to where packs want different things; everything, where they want the same', () => {
    const pack = (id: string, odd: number): Layer => ({
      kind: 'pack',
      id,
      name: id,
      packId: id,
      files: ['p/same/a.png', 'p/same/b.png', 'p/other/a.png'].map((path) => ({
        path: path as PackPath,
        target: parseTarget(path),
        size: 1,
        crc32: path.includes('other') ? odd : 5,
      })),
    });
    expect(treeOf([pack('a', 1), pack('b', 2)], true).firstFolders()).toEqual(['p', 'p/other']);
    expect(treeOf([pack('a', 1), pack('b', 1)], true).firstFolders()).toEqual(['p', 'p/other', 'p/same']);
  });

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
