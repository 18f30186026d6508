import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { strToU8, zipSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergedPack, openPack, planMerge, zipPack, type Pack } from '@/core';
import { has, readFiles, runTool, temporaryFolder } from '../../../tests/support/tools';

const paths = fc.constantFrom('a.png', 'b/c.txt', 'b/d.txt', 'b/e/f.png', 'g/h.ini');
const filesArb = fc.dictionary(paths, fc.string({ maxLength: 8 }), { minKeys: 1, noNullPrototype: true });
const makeZip = (files: Record<string, string>) =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])));
const whole = (pack: Pack) => pack.entries.map((entry) => ({ path: entry.path, entry }));

async function merged(contents: readonly Record<string, string>[]) {
  const packs = await Promise.all(contents.map(async (files, i) => openPack(new Blob([makeZip(files)]), `p${i}.zip`)));
  const plan = planMerge(packs.map(whole));
  return { plan, zip: await zipPack(mergedPack(plan, packs, 'merged')) };
}

describe('merging packs', () => {
  it.skipIf(!has('unzip'))(
    'unzip accepts the merged ZIP, and finds in it what unpacking base and patch into one folder gives (skipped where unzip is missing)',
    async () => {
      for (const contents of fc.sample(fc.array(filesArb, { minLength: 2, maxLength: 4 }), { numRuns: 25, seed: 11 })) {
        const folder = temporaryFolder();
        contents.forEach((files, i) => {
          writeFileSync(path.join(folder, `p${i}.zip`), makeZip(files));
          runTool('unzip', ['-qo', `p${i}.zip`, '-d', 'theirs'], { cwd: folder });
        });
        const { zip } = await merged(contents);
        writeFileSync(path.join(folder, 'ours.zip'), Buffer.from(await zip.arrayBuffer()));
        runTool('unzip', ['-tq', 'ours.zip'], { cwd: folder });
        runTool('unzip', ['-q', 'ours.zip', '-d', 'ours'], { cwd: folder });
        expect(readFiles(path.join(folder, 'ours'))).toEqual(readFiles(path.join(folder, 'theirs')));
      }
    },
  );

  it('names every duplicate, whose file is taken, and which are the same anyway', async () => {
    const { plan } = await merged([
      { 'a.png': '1', 'b/c.txt': 'same', 'x.txt': 'x' },
      { 'A.PNG': '2', 'b/c.txt': 'same' },
      { 'a.png': '3' },
    ]);
    expect(plan.duplicates).toEqual([
      { path: 'a.png', sources: [0, 1, 2], identical: false },
      { path: 'b/c.txt', sources: [0, 1], identical: true },
    ]);
    expect(plan.files.map((file) => [file.path, file.source])).toEqual([
      ['a.png', 2],
      ['b/c.txt', 1],
      ['x.txt', 0],
    ]);
  });

  it('law: nothing is lost and nothing added: each name of any pack is there once', () => {
    fc.assert(
      fc.property(fc.array(filesArb, { maxLength: 4 }), (contents) => {
        const plan = planMerge(
          contents.map((files) =>
            Object.entries(files).map(([name, text]) => ({
              path: name,
              entry: { path: name as never, size: text.length },
            })),
          ),
        );
        const naive = new Map<string, number>();
        contents.forEach((files, i) => Object.keys(files).forEach((name) => naive.set(name, i)));
        expect(new Map(plan.files.map((file) => [file.path, file.source]))).toEqual(naive);
      }),
    );
  });
});
