import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { byteTicks, countTicks } from './ticks';

const MOST = fc.integer({ min: 0, max: 10_000_000 });

describe('the scales of charts', () => {
  it('law: counts are few whole numbers, evenly apart by 1, 2 or 5 times a power of ten, from 0 to past the largest', () => {
    fc.assert(
      fc.property(MOST, (most) => {
        const all = countTicks(most);
        const step = (all[1] ?? 0) - (all[0] ?? 0);
        expect(all[0]).toBe(0);
        expect(all.at(-1)).toBeGreaterThanOrEqual(most);
        expect(all.length).toBeLessThanOrEqual(8);
        all.forEach((one, i) => expect(one).toBe(i * step));
        expect(String(step)).toMatch(/^[125]0*$/);
      }),
    );
  });
  it('law: sizes are few and a power of two apart, from 0 to past the largest', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 2 ** 45 }), (most) => {
        const all = byteTicks(most);
        expect(all.at(-1)).toBeGreaterThanOrEqual(most);
        expect(all.length).toBeLessThanOrEqual(7);
        expect(Math.log2(all[1] ?? 0) % 1).toBe(0);
      }),
    );
  });
});
