import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { differing, longestRise, printOf } from './claim';
import type { Pick } from './rules';

describe('the longest run that kept its order', () => {
  it('law: it rises, and none that rises is longer (every subset tried)', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(50), { maxLength: 8 }), (numbers) => {
        const run = longestRise(numbers);
        const rises = (places: readonly number[]) =>
          places.every((at, i) => i === 0 || (numbers[places[i - 1] as number] as number) < (numbers[at] as number));
        const up = [...run].sort((a, b) => a - b);
        expect(new Set(run).size).toBe(run.length);
        expect(rises(up)).toBe(true);
        let longest = 0;
        for (let set = 0; set < 1 << numbers.length; set++) {
          const places = numbers.map((_, i) => i).filter((i) => set & (1 << i));
          if (rises(places)) longest = Math.max(longest, places.length);
        }
        expect(run).toHaveLength(longest);
      }),
      { numRuns: 200 },
    );
  });
});

describe('what is looked at before the files themselves', () => {
  it('law: of files with the same content the print is the same, and of nearly all others it is not', () => {
    const file = (size: number, crc32?: number) =>
      ({ path: 'x', target: 'p/x', size, ...(crc32 === undefined ? {} : { crc32 }) }) as unknown as Parameters<
        typeof printOf
      >[0];
    const prints = new Set<number>();
    for (let size = 0; size < 30; size++) for (let crc = 0; crc < 30; crc++) prints.add(printOf(file(size, crc)));
    expect(prints.size).toBeGreaterThan(890);
    expect(printOf(file(5, 9))).toBe(printOf(file(5, 9)));
    expect(printOf(file(5))).toBe(printOf(file(5, 0)));
  });

  it('picks that are in one list only', () => {
    const one: Pick = { scope: 'file', at: 'p/a', layer: 'x' };
    const others: Pick[] = [
      { ...one, scope: 'folder' },
      { ...one, at: 'p/b' },
      { ...one, layer: 'y' },
    ];
    expect(differing([one, ...others], [one, ...others])).toEqual([]);
    for (const other of others) {
      expect(differing([one], [other])).toEqual([one, other]);
      expect(differing([one, other], [one])).toEqual([other]);
      expect(differing([one], [other, one])).toEqual([other]);
    }
  });
});
