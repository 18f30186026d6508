import { deflateRawSync } from 'node:zlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inflateByStream } from '@/core';
import { inflateAtOnce } from './nodeInflate';

/** zlib's own deflate is what it is held against; RFC 1951 is the format. */

const packed = (data: Uint8Array, level = 6): Uint8Array<ArrayBuffer> =>
  new Uint8Array(deflateRawSync(data, { level }));
const sizes = fc.oneof(
  fc.integer({ min: 0, max: 300 }),
  fc.constantFrom(63, 64, 65, 4094, 4095, 4096, 4097, 70_000, 1024 * 1024, 1024 * 1024 + 1),
);
const data = fc
  .tuple(sizes, fc.integer({ min: 0, max: 255 }), fc.boolean())
  .map(([size, seed, noisy]) =>
    Uint8Array.from({ length: size }, (_, i) => (noisy ? (i * 2654435761 + seed) >>> 13 : seed) & 255),
  );

describe('inflating at once', () => {
  it('law: what zlib packed comes out, in a buffer of its own, at any level', async () => {
    await fc.assert(
      fc.asyncProperty(data, fc.constantFrom(0, 1, 6, 9), async (bytes, level) => {
        const out = await inflateAtOnce(packed(bytes, level), bytes.length);
        expect(Buffer.compare(out, bytes)).toBe(0);
        // It is handed over to another thread whole: nothing else may lie in its buffer.
        expect(out.buffer.byteLength).toBeLessThanOrEqual(Math.max(bytes.length + 1, 64));
      }),
      { numRuns: 60 },
    );
  });

  it.each([
    ['longer than stated', packed(Uint8Array.from([1, 2, 3, 4])), 3],
    ['much longer than stated', packed(new Uint8Array(100_000)), 3],
    ['shorter than stated', packed(Uint8Array.from([1, 2, 3])), 4],
    ['going on after its end', Uint8Array.from([...packed(Uint8Array.from([1, 2, 3])), 0, 0]), 3],
    ['cut off', packed(Uint8Array.from({ length: 500 }, (_, i) => (i * i) & 255)).slice(0, -4), 500],
    ['no deflate data', Uint8Array.from([0xff, 0xff, 0xff, 0xff]), 4],
    ['nothing', new Uint8Array(0), 4],
  ])('refuses data that is %s, as the platform’s own stream does', async (what, bytes, size) => {
    await expect(inflateAtOnce(bytes, size)).rejects.toThrow();
    // Node 20's own stream lets the one thing pass that a browser's refuses.
    if (what !== 'going on after its end') await expect(inflateByStream(bytes, size)).rejects.toThrow();
  });
});
