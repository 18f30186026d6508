import { nice, ticks } from 'd3-array';

/** Round whole numbers from nothing up to at least so many: one, two or five times a power of ten apart. */
export function countTicks(most: number): number[] {
  const [, top] = nice(0, Math.max(1, most), 4);
  return ticks(0, top, 4).filter(Number.isInteger);
}

/** Three to six round sizes from nothing up to at least so many bytes: a power of two apart. */
export function byteTicks(most: number): number[] {
  const step = 2 ** Math.max(0, Math.ceil(Math.log2(most / 5)));
  return Array.from({ length: Math.ceil(most / step) + 1 }, (_, i) => i * step);
}
