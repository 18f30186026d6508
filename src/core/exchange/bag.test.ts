import { writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { LARGE, PackError, SatchelError, exportBag, importBag, restore, unpackBag, type Edit } from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { Bench, benchDialect, makePack, noLargeBytes, type Contents } from '../../../tests/support/game';
import { has, readFiles, runTool, temporaryFolder } from '../../../tests/support/tools';

const ABOUT = { game: 'gullwick', title: 'Gullwick Ferries', at: Date.UTC(2026, 10, 25, 12) };
const EDIT: Edit[] = [{ path: ['Graphics', 'Wide'], value: '1' }];

async function deployed(): Promise<{ bench: Bench; before: Contents; bag: Blob }> {
  const bench = new Bench(
    { 'a.png': 'own a', 'f/b 100%.png': 'own b', 'keep.txt': 'k' },
    { 'settings.ini': '[Graphics]\nWide=0\nOther=2\n' },
    { p: await makePack('p.zip', { 'a.png': 'new a', 'f/b 100%.png': 'new b', 'g/new.png': 'new' }) },
  );
  const before = bench.contents();
  await bench.deploy([{ pack: 'p' }, { edits: EDIT }]);
  return { bench, before, bag: await exportBag(bench.vault, ABOUT) };
}

const bytesOf = async (blob: Blob) => new Uint8Array(await blob.arrayBuffer());

describe('backup bags', () => {
  it.skipIf(!has('unzip') || !has('sha256sum'))(
    'unzip unpacks it and sha256sum -c verifies it (RFC 8493; skipped where they are missing)',
    async () => {
      const { before, bag } = await deployed();
      const folder = temporaryFolder();
      writeFileSync(path.join(folder, 'bag.zip'), await bytesOf(bag));
      runTool('unzip', ['-tq', 'bag.zip'], { cwd: folder });
      runTool('unzip', ['-q', 'bag.zip'], { cwd: folder });
      const top = path.join(folder, 'gullwick-originals-2026-11-25');
      for (const manifest of ['tagmanifest-sha256.txt'])
        expect(runTool('sha256sum', ['-c', '--strict', manifest], { cwd: top }).toString()).not.toContain('FAILED');
      const files = readFiles(top);
      expect(files['bagit.txt']?.toString()).toBe('BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n');
      expect(files['bag-info.txt']?.toString()).toMatch(/^Payload-Oxum: \d+\.3$/m);
      // The originals as plain files: copied over the game by hand they would put it back.
      expect(
        Object.fromEntries(
          Object.entries(files)
            .filter(([name]) => name.startsWith('data/'))
            .map(([name, data]) => [name.slice(5), data.toString()]),
        ),
      ).toEqual({
        'program/a.png': before['program/a.png'],
        'program/f/b 100%.png': before['program/f/b 100%.png'],
        'user/settings.ini': before['user/settings.ini'],
      });
      // RFC 8493, section 2.1.3: % is percent-encoded in manifests. sha256sum knows nothing of that, so it gets the
      // plain name.
      const manifest = files['manifest-sha256.txt']?.toString() ?? '';
      expect(manifest).toContain('data/program/f/b 100%25.png');
      writeFileSync(path.join(top, 'plain.txt'), manifest.replaceAll('%25', '%'));
      expect(
        runTool('sha256sum', ['-c', '--strict', 'plain.txt'], { cwd: top }).toString().match(/: OK/g),
      ).toHaveLength(3);
    },
  );

  it('law: on a machine that knows nothing of it, the bag puts every byte back', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.dictionary(fc.constantFrom('a.png', 'b/c.txt', 'b/d'), fc.string({ maxLength: 6 })),
        fc.dictionary(fc.constantFrom('a.png', 'b/c.txt', 'e/f'), fc.string({ maxLength: 6 }), { minKeys: 1 }),
        fc.boolean(),
        async (game, files, edited) => {
          const bench = new Bench(
            { ...game },
            { 'settings.ini': '[Graphics]\nWide=0\n' },
            { p: await makePack('p.zip', { ...files }) },
          );
          const before = bench.contents();
          await bench.deploy([{ pack: 'p' }, ...(edited ? [{ edits: EDIT }] : [])]);
          const bag = await importBag(await exportBag(bench.vault, ABOUT), 'bag.zip');
          // A fresh browser: the folders as they are, no vault, no packs.
          const vault = new MemoryFolder();
          await unpackBag(bag, vault);
          await restore(
            { ...bench.workshop(), vault, openPack: () => Promise.reject(new Error('no packs here')) },
            { dialectOf: benchDialect },
          );
          expect(bench.contents()).toEqual(before);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('large originals, packed into it, checked and taken out piece by piece', async () => {
    const own = 'own '.repeat(5_000_000);
    const bench = new Bench(
      { 'a.bin': own, 'b.png': 'own b' },
      {},
      { p: await makePack('p.zip', { 'a.bin': 'new a', 'b.png': 'new b' }) },
    );
    const before = bench.contents();
    await bench.deploy([{ pack: 'p' }]);
    const made = await exportBag(noLargeBytes(bench.vault), ABOUT);
    const bag = await importBag(made, 'bag.zip');
    const vault = new MemoryFolder();
    await unpackBag(
      { ...bag, read: (kept) => (kept.size > LARGE ? Promise.reject(new Error('read whole')) : bag.read(kept)) },
      vault,
    );
    await restore(
      { ...bench.workshop(), vault, openPack: () => Promise.reject(new Error('no packs here')) },
      { dialectOf: benchDialect },
    );
    expect(bench.contents()).toEqual(before);
    // One byte of it flipped, and every checksum of the ZIP made anew.
    const files = unzipSync(await bytesOf(made));
    (files['gullwick-originals-2026-11-25/data/program/a.bin'] as Uint8Array)[19_000_000] = 0;
    await expect(importBag(new Blob([zipSync(files, { level: 0 })]), 'bag.zip')).rejects.toThrow(
      /not what its manifest says/,
    );
  });

  it('is not taken in where the app has originals of its own', async () => {
    const { bench, bag } = await deployed();
    await expect(unpackBag(await importBag(bag, 'bag.zip'), bench.vault)).rejects.toMatchObject({
      code: 'bag-not-needed',
    });
  });

  it.each<[string, (files: Record<string, Uint8Array>, top: string) => void, RegExp]>([
    [
      'one flipped byte',
      (files, top) => {
        (files[`${top}data/program/a.png`] as Uint8Array)[0] = 0;
      },
      /not what its manifest says/,
    ],
    [
      'a missing file',
      (files, top) => {
        delete files[`${top}data/program/a.png`];
      },
      /“data\/program\/a\.png” is missing/,
    ],
    [
      'a file too many',
      (files, top) => {
        files[`${top}data/program/more.png`] = Uint8Array.from([1]);
      },
      /in it and not in its manifest/,
    ],
    [
      'a tag file too many',
      (files, top) => {
        files[`${top}satchel/more.json`] = Uint8Array.from([1]);
      },
      /in it and not in its manifest/,
    ],
    [
      'a file outside',
      (files) => {
        files['elsewhere.txt'] = Uint8Array.from([1]);
      },
      /lies outside/,
    ],
    [
      'no declaration',
      (files, top) => {
        delete files[`${top}bagit.txt`];
      },
      /no bagit\.txt/,
    ],
    [
      'no tag manifest',
      (files, top) => {
        delete files[`${top}tagmanifest-sha256.txt`];
      },
      /tagmanifest-sha256\.txt” is missing/,
    ],
    [
      'a record that was changed',
      (files, top) => {
        files[`${top}satchel/state.json`] = new TextEncoder().encode('{"format":1,"files":[]}');
      },
      /not what its manifest says/,
    ],
    [
      'a manifest that names a file twice',
      (files, top) => {
        const name = `${top}manifest-sha256.txt`;
        const text = new TextDecoder().decode(files[name]);
        files[name] = new TextEncoder().encode(text + text);
      },
      /twice|not what its manifest says/,
    ],
  ])('%s: refused with the reason', async (_name, damage, why) => {
    const files = unzipSync(await bytesOf((await deployed()).bag));
    damage(files, 'gullwick-originals-2026-11-25/');
    const refused = importBag(new Blob([zipSync(files)]), 'bag.zip');
    await expect(refused).rejects.toThrow(why);
    await expect(refused).rejects.toMatchObject({ code: 'bad-bag' });
  });

  it('a path attack and a cut-off bag are refused before anything is read', async () => {
    const whole = await bytesOf((await deployed()).bag);
    const files = unzipSync(whole);
    await expect(
      importBag(
        new Blob([zipSync({ ...files, 'gullwick-originals-2026-11-25/data/../../evil.png': Uint8Array.from([1]) })]),
        'bag.zip',
      ),
    ).rejects.toBeInstanceOf(PackError);
    await expect(importBag(new Blob([whole.slice(0, whole.length - 200)]), 'bag.zip')).rejects.toBeInstanceOf(
      SatchelError,
    );
  });
});
