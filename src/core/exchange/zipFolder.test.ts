import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { LARGE, openPack, zipFolder } from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { noLargeBytes } from '../../../tests/support/game';
import { has, readFiles, runTool, temporaryFolder } from '../../../tests/support/tools';

const contents = {
  program: {
    'assets/a.png': Uint8Array.from({ length: 5000 }, (_, i) => (i * 31) % 251),
    'assets/b.txt': 'text '.repeat(500),
    empty: '',
    'größe/日本.txt': 'names beyond ASCII',
  },
  user: { 'x.ini': '[A]\r\nb=1\r\n' },
};
const folders = () => ({ program: new MemoryFolder(contents.program), user: new MemoryFolder(contents.user) });

describe('a copy of the folders as ZIP', () => {
  it.skipIf(!has('unzip') || !has('bsdtar'))(
    'is accepted by unzip and bsdtar, with every byte (skipped where one is missing)',
    async () => {
      const folder = temporaryFolder();
      const archive = path.join(folder, 'copy.zip');
      writeFileSync(archive, new Uint8Array(await (await zipFolder(folders())).arrayBuffer()));
      expect(runTool('unzip', ['-t', archive]).toString()).toContain('No errors detected');
      expect(runTool('bsdtar', ['-tf', archive]).toString().trim().split('\n')).toHaveLength(5);
      runTool('unzip', ['-q', archive, '-d', path.join(folder, 'out')]);
      const found = readFiles(path.join(folder, 'out'));
      for (const [root, files] of Object.entries(contents))
        for (const [name, data] of Object.entries(files))
          expect(found[`${root}/${name}`]?.equals(Buffer.from(data as string)), `${root}/${name}`).toBe(true);
      expect(Object.keys(found)).toHaveLength(5);
    },
  );

  it.skipIf(!has('python3'))(
    'holds more files than a plain ZIP can list, and large ones, which nobody reads whole (python3 reads it; skipped where it is missing)',
    async () => {
      const large = new Uint8Array(LARGE + 1).fill(5);
      const many = new MemoryFolder({
        'large.bin': large,
        ...Object.fromEntries(Array.from({ length: 70_000 }, (_, i) => [`f/${i}`, `${i}`])),
      });
      const folder = temporaryFolder();
      const archive = path.join(folder, 'many.zip');
      writeFileSync(archive, new Uint8Array(await (await zipFolder({ program: noLargeBytes(many) })).arrayBuffer()));
      const script =
        'import sys, zipfile, hashlib\nz = zipfile.ZipFile(sys.argv[1])\nprint(len(z.namelist()), z.read("program/f/69999").decode(), hashlib.sha256(z.read("program/large.bin")).hexdigest(), z.testzip())';
      expect(runTool('python3', ['-c', script, archive]).toString().trim()).toBe(
        `70001 69999 ${createHash('sha256').update(large).digest('hex')} None`,
      );
    },
  );

  it('is read back by our own reader, files in order of their paths', async () => {
    const pack = await openPack(await zipFolder(folders()), 'copy.zip');
    expect(pack.entries.map((entry) => entry.path)).toEqual([
      'program/assets/a.png',
      'program/assets/b.txt',
      'program/empty',
      'program/größe/日本.txt',
      'user/x.ini',
    ]);
    expect(new TextDecoder().decode(await pack.read('user/x.ini'))).toBe('[A]\r\nb=1\r\n');
  });

  it('tells how far it is, and can be stopped', async () => {
    const seen: number[] = [];
    await zipFolder(folders(), { onProgress: ({ done, total }) => seen.push(done / total) });
    expect(seen.at(-1)).toBe(1);
    const stop = new AbortController();
    stop.abort();
    await expect(zipFolder(folders(), { signal: stop.signal })).rejects.toMatchObject({ code: 'cancelled' });
  });
});
