import fc from 'fast-check';
import { zipSync } from 'fflate';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { type PackPath, parseTarget } from '@/core';
import { has, readFiles, runTool, temporaryFolder, writeFiles } from '../../../tests/support/tools';
import { zipWith, type ZipAddition } from './zipWith';

const text = (value: string): Uint8Array => new TextEncoder().encode(value);

const bytes = (files: Record<string, string>): Uint8Array<ArrayBuffer> =>
  zipSync(Object.fromEntries(Object.entries(files).map(([name, value]) => [name, text(value)])));

const TARGET = parseTarget('hall/core.hha');

/** Puts texts into an archive as a pack would. */
const put = (base: Uint8Array<ArrayBuffer>, files: Record<string, string>): Promise<Uint8Array<ArrayBuffer>> => {
  const additions = Object.entries(files).map(([inside, value]): ZipAddition => ({
    inside,
    packId: 'p',
    file: { path: `in the pack/${inside}`, size: value.length },
  }));
  return zipWith(
    base,
    additions,
    async (_pack, paths) =>
      (async function* () {
        for (const one of paths)
          yield {
            path: one as PackPath,
            data: text(files[one.slice('in the pack/'.length)] as string) as Uint8Array<ArrayBuffer>,
          };
      })(),
    TARGET,
  );
};

function unpack(archive: Uint8Array): Record<string, string> {
  const folder = temporaryFolder();
  writeFileSync(path.join(folder, 'a.zip'), archive);
  runTool('unzip', ['-tq', 'a.zip'], { cwd: folder });
  runTool('unzip', ['-q', 'a.zip', '-d', 'out'], { cwd: folder });
  return Object.fromEntries(
    Object.entries(readFiles(path.join(folder, 'out'))).map(([name, data]) => [name, data.toString()]),
  );
}

describe.skipIf(!has('zip') || !has('unzip'))(
  'changing a ZIP from inside, against zip and unzip (skipped where they are missing)',
  () => {
    it('adds and replaces as zip does, and leaves the rest', async () => {
      const own = { 'rooms/porch.room': 'porch', 'rooms/hall.room': 'hall', 'text/en.lang': 'welcome' };
      const more = { 'rooms/porch.room': 'roses', 'rooms/new.room': 'new', 'größe/日本.txt': 'names' };
      const folder = temporaryFolder();
      writeFiles(folder, own);
      runTool('zip', ['-q', '-r', 'base.zip', 'rooms', 'text'], { cwd: folder });
      writeFiles(folder, more);
      const base = readFiles(folder)['base.zip'] as Buffer;
      runTool('zip', ['-q', '-r', 'base.zip', 'rooms', 'größe'], { cwd: folder });
      expect(unpack(await put(new Uint8Array(base), more))).toEqual(unpack(readFiles(folder)['base.zip'] as Buffer));
    });

    it('makes a new archive out of nothing', async () => {
      expect(unpack(await put(new Uint8Array(0), { 'a/b.txt': 'b', 'c.txt': 'c' }))).toEqual({
        'a/b.txt': 'b',
        'c.txt': 'c',
      });
    });
  },
);

describe('changing a ZIP from inside', () => {
  it('keeps the spelling that the game knows, and one file for names that differ only in case', async () => {
    const { openPack } = await import('../archives/openPack');
    const pack = await openPack(
      new Blob([await put(bytes({ 'Rooms/Porch.room': 'old' }), { 'rooms/porch.ROOM': 'new' })]),
      'a.zip',
    );
    expect(pack.entries.map((entry) => entry.path)).toEqual(['Rooms/Porch.room']);
    expect(new TextDecoder().decode(await pack.read('Rooms/Porch.room'))).toBe('new');
  });

  it('law: a plain map, whatever the names, and the same bytes every time', async () => {
    const names = fc.constantFrom('a', 'b/c', '__proto__', 'constructor', 'd/e/f');
    await fc.assert(
      fc.asyncProperty(
        fc.dictionary(names, fc.string({ maxLength: 20 }), { minKeys: 1 }),
        fc.dictionary(names, fc.string({ maxLength: 20 })),
        async (own, more) => {
          const { openPack } = await import('../archives/openPack');
          const base = await put(new Uint8Array(0), own);
          const archive = await put(base, more);
          expect(Buffer.compare(await put(base, more), archive)).toBe(0);
          const pack = await openPack(new Blob([archive]), 'a.zip');
          const expected = new Map([...Object.entries(own), ...Object.entries(more)]);
          expect(new Set(pack.entries.map((entry) => entry.path as string))).toEqual(new Set(expected.keys()));
          for (const [name, value] of expected) expect(new TextDecoder().decode(await pack.read(name))).toBe(value);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('refuses a base that is no ZIP, is damaged, or would grow too large', async () => {
    await expect(put(text('no archive at all') as Uint8Array<ArrayBuffer>, { a: 'x' })).rejects.toMatchObject({
      code: 'not-an-archive',
    });
    const base = bytes({ a: 'some text that is long enough' });
    await expect(put(base.slice(0, base.length - 10), { b: 'x' })).rejects.toMatchObject({ code: 'damaged' });
    await expect(
      zipWith(
        base,
        [{ inside: 'b', packId: 'p', file: { path: 'b', size: 600 * 1024 ** 2 } }],
        () => Promise.reject(new Error('never read')),
        TARGET,
      ),
    ).rejects.toMatchObject({ code: 'archive-too-large' });
    const many = Array.from({ length: 65_535 }, (_, i) => ({
      inside: `f/${i}`,
      packId: '',
      file: { path: '', size: 1 },
      made: Uint8Array.of(1),
    }));
    await expect(zipWith(base, many, () => Promise.reject(new Error('never read')), TARGET)).rejects.toMatchObject({
      code: 'archive-too-large',
    });
  });
});
