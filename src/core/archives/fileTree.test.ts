import { describe, expect, it } from 'vitest';
import { FileTree, monogram, nextColour, packName } from '@/core';

const tree = new FileTree([
  { path: 'w/x/a.png', size: 1 },
  { path: 'w/x/b.png', size: 2 },
  { path: 'w/c.txt', size: 4 },
]);

describe('the file tree', () => {
  it('shows what is open, folders with all they hold', () => {
    expect(tree.rows(new Set()).map(({ path, size, files }) => [path, size, files])).toEqual([['w', 7, 3]]);
    expect(tree.rows(new Set(['w', 'w/x'])).map(({ name, depth }) => [name, depth])).toEqual([
      ['w', 0],
      ['x', 1],
      ['a.png', 2],
      ['b.png', 2],
      ['c.txt', 1],
    ]);
  });
  it('finds files by all words of a search, in any case', () => {
    expect(tree.rows(new Set(), 'X .PNG b').map(({ path }) => path)).toEqual(['w/x/b.png']);
  });
});

describe('names and tags', () => {
  it('makes names out of files', () => {
    expect(['weathered-quay-1.2.zip', 'My_Pack.tar.gz', '.zip', 'étoile.7z'].map(packName)).toEqual([
      'Weathered Quay 1.2',
      'My Pack',
      '.zip',
      'Étoile',
    ]);
  });
  it('gives monograms of two letters, no two alike while letters last', () => {
    expect(monogram('Weathered Quay')).toBe('Wq');
    expect(monogram('Weathered Quay', new Set(['Wq']))).toBe('We');
    expect(monogram('日本')).toBe('日本');
    expect(monogram('!!!')).toHaveLength(2);
  });
  it('takes the colour used least', () => {
    expect(nextColour([])).toBe(0);
    expect(nextColour([0, 1, 0])).toBe(2);
  });
});
