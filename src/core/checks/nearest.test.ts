import fc from 'fast-check';
import { distance } from 'fastest-levenshtein';
import { describe, expect, it } from 'vitest';
import { NearestFiles, isOneLevelOff, nearestNames } from './nearest';

/**
 * The distance as it is defined, by the whole table: Wagner and Fischer, "The String-to-String Correction Problem"
 * (1974).
 */
function byTable(a: string, b: string): number {
  const table = Array.from({ length: a.length + 1 }, (_, i) =>
    Array.from({ length: b.length + 1 }, (__, j) => (i === 0 ? j : j === 0 ? i : 0)),
  );
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++)
      (table[i] as number[])[j] = Math.min(
        (table[i - 1]?.[j] ?? 0) + 1,
        (table[i]?.[j - 1] ?? 0) + 1,
        (table[i - 1]?.[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1),
      );
  return table[a.length]?.[b.length] ?? 0;
}

describe('how far apart names are', () => {
  it('is what published examples say, and what the table gives', () => {
    // Levenshtein's usual examples; common in textbooks, from memory.
    expect(distance('kitten', 'sitting')).toBe(3);
    expect(distance('saturday', 'sunday')).toBe(3);
    fc.assert(
      fc.property(
        fc.string({ maxLength: 12 }),
        fc.string({ maxLength: 12 }),
        (a, b) => void expect(distance(a, b)).toBe(byTable(a, b)),
      ),
      { numRuns: 400 },
    );
  });
});

describe('the nearest files', () => {
  const files = [
    'p/addons/rope/textures/Hawser.png',
    'p/assets/lamp.png',
    'p/assets/quay/lamp.png',
    'p/assets/table.dds',
    'p/assets/set.json.txt',
    'p/assets/planks.png',
    'p/other/deep/horn.wav',
  ];
  const nearest = new NearestFiles(files);
  it.each([
    ['p/addons/rope/textures/hawser.png', 'p/addons/rope/textures/Hawser.png', 'case'],
    ['p/assets/boats/quay/lamp.png', 'p/assets/quay/lamp.png', 'one level off'],
    ['p/assets/table.png', 'p/assets/table.dds', 'extension'],
    ['p/assets/plonks.png', 'p/assets/planks.png', 'spelling'],
    ['p/sounds/horn.wav', 'p/other/deep/horn.wav', 'folder'],
    // Common practice: with hidden file extensions, a file renamed to x.json can really be x.json.txt.
    ['p/assets/set.json', 'p/assets/set.json.txt', 'hidden extension'],
  ])('%s is near %s: %s', (wanted, path, kind) => {
    expect(nearest.find(wanted)[0]).toMatchObject({ path, kind });
  });
  it('does not take another name for a near one', () => {
    expect(nearest.find('p/assets/violin.png')).toEqual([]);
    expect(nearestNames('CB-2041', ['CB-2047', 'MG-3300'])).toEqual(['CB-2047']);
    expect([isOneLevelOff('a/b/c', 'a/c'), isOneLevelOff('a/b', 'c/d'), isOneLevelOff('a/b', 'a/b')]).toEqual([
      true,
      false,
      false,
    ]);
  });
});
