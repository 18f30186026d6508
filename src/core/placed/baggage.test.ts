import { describe, expect, it } from 'vitest';
import { readMeRank } from '@/core';

describe('which text of a pack is to be read', () => {
  it.each<[first: string, second: string]>([
    ['read me.txt', 'find.txt'],
    ['about.txt', 'cauldron/find.txt'],
    ['notes.txt', 'find.txt'],
    ['install notes.txt', 'licence.txt'],
    ['find.txt', 'credits.txt'],
    ['READ.ME', 'about.txt'],
  ])('%s before %s', (first, second) => {
    expect(readMeRank(first)).toBeGreaterThan(readMeRank(second));
  });

  it.each(['wall.png', 'cauldron/find.obj'])('%s is none', (path) => {
    expect(readMeRank(path)).toBe(0);
  });
});
