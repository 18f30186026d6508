import fc from 'fast-check';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { openPack, packOfFiles, type Pack } from '@/core';
import { mergedPack, planMerge } from '../merge/mergePacks';
import { contentsOf } from './contents';

/* What went in is what comes out; fflate makes the ZIPs. */

const files = fc.dictionary(
  fc.stringMatching(/^[a-z]{1,3}(\/[a-z]{1,3})?\.bin$/),
  fc.uint8Array({ maxLength: 300 }).map((bytes) => new Uint8Array(bytes)),
  { minKeys: 1, maxKeys: 12 },
);

const zipped = (of: Record<string, Uint8Array>): Promise<Pack> => openPack(new Blob([zipSync(of)]), 'made.zip');
const loose = (of: Record<string, Uint8Array<ArrayBuffer>>): Pack =>
  packOfFiles(
    Object.entries(of).map(([path, data]) => ({ path, data: new Blob([data]) })),
    'made',
  );

/** What comes, and which of it came in pieces. */
async function read(pack: Pack, large: (size: number) => boolean) {
  const found: Record<string, number[]> = {};
  const inPieces: string[] = [];
  for await (const file of contentsOf(pack, pack.entries, ({ size }) => large(size))) {
    expect(found, 'each once').not.toHaveProperty([file.path]);
    if ('data' in file) {
      expect(inPieces, 'the large ones come last').toEqual([]);
      found[file.path] = [...file.data];
      continue;
    }
    inPieces.push(file.path);
    const bytes: number[] = [];
    for await (const piece of file.pieces()) bytes.push(...piece);
    found[file.path] = bytes;
  }
  return { found, inPieces };
}

const plain = (of: Record<string, Uint8Array>) =>
  Object.fromEntries(Object.entries(of).map(([path, d]) => [path, [...d]]));

describe('what is in a pack', () => {
  it('law: every file once, with its bytes, whichever of them come in pieces, of a ZIP, a folder and packs that are merged', async () => {
    await fc.assert(
      fc.asyncProperty(files, files, fc.integer({ min: 0, max: 300 }), async (one, other, from) => {
        const [lower, upper] = [await zipped(one), await zipped(other)];
        const entries = (pack: Pack) => pack.entries.map((entry) => ({ path: entry.path, entry }));
        const merged = mergedPack(planMerge([entries(lower), entries(upper)]), [lower, upper], 'merged');
        for (const [pack, wanted] of [
          [lower, one],
          [loose(one), one],
          [merged, { ...one, ...other }],
        ] as const) {
          const { found, inPieces } = await read(pack, (size) => size > from);
          expect(found).toEqual(plain(wanted));
          expect(inPieces.sort()).toEqual(
            Object.keys(wanted)
              .filter((path) => (wanted[path]?.length ?? 0) > from)
              .sort(),
          );
        }
      }),
      { numRuns: 60 },
    );
  });

  it('a pack that has no pieces gives all of them whole', async () => {
    const { chunks: _, ...whole } = await zipped({ 'a.bin': new Uint8Array(9) });
    expect((await read(whole, () => true)).inPieces).toEqual([]);
  });
});
