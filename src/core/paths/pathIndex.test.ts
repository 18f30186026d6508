import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nameKey } from './paths';
import { PathIndex } from './pathIndex';

const pathArb = fc.oneof(
  fc
    .array(
      fc.constantFrom(
        'a',
        'A',
        'b',
        'ab',
        'x.png',
        'X.PNG',
        '[',
        '{',
        '@',
        '`',
        'Café',
        'Cafe\u0301',
        'İ',
        'ß',
        'K',
        '\u212a',
      ),
      { minLength: 1, maxLength: 4 },
    )
    .map((names) => names.join('/')),
  fc.string({ minLength: 1, unit: 'grapheme' }),
);

describe('numbering paths', () => {
  it('law: two paths get one number just where a map by their keys has them as one, however many come together', () => {
    fc.assert(
      fc.property(fc.array(fc.array(pathArb, { maxLength: 60 }), { maxLength: 5 }), (batches) => {
        const index = new PathIndex();
        const naive = new Map<string, number>();
        for (const batch of batches) {
          const numbers = index.addAll(batch, String);
          batch.forEach((path, i) => {
            const key = nameKey(path);
            if (!naive.has(key)) naive.set(key, naive.size);
            expect(numbers[i]).toBe(naive.get(key));
          });
        }
        for (const batch of batches) for (const path of batch) expect(index.find(path)).toBe(naive.get(nameKey(path)));
        expect(index.length).toBe(naive.size);
        expect(index.find('not/there')).toBe(naive.get('not/there') ?? -1);
      }),
      { numRuns: 500 },
    );
  });

  it('takes many at once, and names of any length', () => {
    const many = Array.from({ length: 20_000 }, (_, i) => `folder ${i % 7}/${'x'.repeat(i % 9)}${i}.png`);
    const index = new PathIndex();
    expect([...index.addAll(many, String)]).toEqual(many.map((_, i) => i));
    expect([...index.addAll(many, (path) => path.toUpperCase())]).toEqual(many.map((_, i) => i));
    const long = 'y'.repeat(3_000_000);
    expect(index.addAll([long, 'z', long], String)).toEqual(Int32Array.from([20_000, 20_001, 20_000]));
  });
});
