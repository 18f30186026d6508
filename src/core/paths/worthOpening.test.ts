import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FileTree } from '@/core';

const tree = (...paths: string[]) => new FileTree(paths.map((path) => ({ path, size: 1 })));
const many = (folder: string, files: number) => Array.from({ length: files }, (_, i) => `${folder}/${i}.txt`);

describe('folders to open at first', () => {
  it('lead down to the first with more than one thing in it, and on where there is room', () => {
    expect(tree('a/b/c/one', 'a/b/c/two').firstFolders()).toEqual(['a', 'a/b', 'a/b/c']);
    expect(tree('a/b/one', 'a/c/two').firstFolders()).toEqual(['a', 'a/b', 'a/c']);
    expect(tree(...many('a/b', 100)).firstFolders()).toEqual(['a', 'a/b']);
  });
  it('stay closed where nothing happens, and where they would fill the window', () => {
    const two = tree('a/one', 'b/two', 'b/c/three');
    expect(two.firstFolders((folder) => folder === 'b' || folder === 'b/c')).toEqual(['b', 'b/c']);
    expect(tree('a/one', ...many('b', 100)).firstFolders()).toEqual(['a']);
  });
  it('law: all rows fit a window but for a first folder that is larger, and every open one can be seen', () => {
    const path = fc
      .array(fc.constantFrom('a', 'b', 'c', 'd'), { minLength: 1, maxLength: 5 })
      .map((all) => all.join('/'));
    fc.assert(
      fc.property(fc.uniqueArray(path, { maxLength: 40 }), (names) => {
        const made = tree(...names.map((one) => `${one}/x.txt`));
        const open = made.firstFolders();
        const closed = made.rows(new Set()).length;
        expect(made.rows(new Set(open)).length).toBeLessThanOrEqual(Math.max(24, closed));
        for (const one of open)
          for (let cut = one.lastIndexOf('/'); cut > 0; cut = one.lastIndexOf('/', cut - 1))
            expect(open).toContain(one.slice(0, cut));
      }),
    );
  });
});
