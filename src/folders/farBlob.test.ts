import fc from 'fast-check';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { openPack } from '@/core';
import { FarBlob } from './farBlob';

/** A far blob of bytes that lie here, and how much of them was asked for. */
function far(bytes: Uint8Array<ArrayBuffer>): { blob: FarBlob; asked: () => number } {
  let asked = 0;
  const blob = new FarBlob(bytes.length, (start, end) => {
    asked += end - start;
    return Promise.resolve(bytes.slice(start, end));
  });
  return { blob, asked: () => asked };
}

describe('a blob whose bytes lie elsewhere', () => {
  it('law: any part of any part is what the platform’s own blob has', async () => {
    const at = fc.integer({ min: -40, max: 40 });
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 30 }), at, at, at, at, async (bytes, a, b, c, d) => {
        const own = new Blob([new Uint8Array(bytes)]);
        const { blob } = far(new Uint8Array(bytes));
        const [mine, theirs] = [blob.slice(a, b).slice(c, d), own.slice(a, b).slice(c, d)];
        expect(mine.size).toBe(theirs.size);
        expect(new Uint8Array(await mine.arrayBuffer())).toEqual(new Uint8Array(await theirs.arrayBuffer()));
        expect(new Uint8Array(await new Response(mine.stream()).arrayBuffer())).toEqual(
          new Uint8Array(await theirs.arrayBuffer()),
        );
        expect(new Uint8Array(await (await blob.here()).arrayBuffer())).toEqual(
          new Uint8Array(await own.arrayBuffer()),
        );
      }),
      { numRuns: 300 },
    );
  });

  it('a ZIP of it is opened by its table, and one file read, without the rest', async () => {
    const large = new Uint8Array(12_000_000).map((_, i) => i % 251);
    const zip = zipSync({ 'a.txt': new TextEncoder().encode('small'), 'b.bin': large, 'c.bin': large }, { level: 0 });
    const { blob, asked } = far(new Uint8Array(zip));
    const pack = await openPack(blob, 'far.zip');
    expect(pack.entries.map(({ path, size }) => [path, size])).toEqual([
      ['a.txt', 5],
      ['b.bin', 12_000_000],
      ['c.bin', 12_000_000],
    ]);
    expect(new TextDecoder().decode(await pack.read('a.txt'))).toBe('small');
    expect(pack.archive).toBe(blob);
    expect(asked()).toBeLessThan(zip.length / 4);
  });
});
