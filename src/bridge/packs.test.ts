import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import { openArchive } from './packs';

/** Archives on the disk, made with `zip`. */

it('an archive is read as unzip reads it, and refused where it is changed under the reader', async () => {
  const root = mkdtempSync(path.join(tmpdir(), 'satchel-packs-'));
  try {
    mkdirSync(path.join(root, 'data'));
    // Several windows of 4 MB, with a file that is larger than one.
    const sizes = [0, 1, 3_000_000, 2_500_000, 6_000_000, 70];
    for (const [i, size] of sizes.entries()) writeFileSync(path.join(root, 'data', `${i}.bin`), Buffer.alloc(size, `file ${i} `));
    execFileSync('zip', ['-q', '-0', '-r', 'pack.zip', 'data'], { cwd: root });
    const archive = path.join(root, 'pack.zip');
    const pack = await openArchive(archive, 'pack.zip');
    const names = sizes.map((_, i) => `data/${i}.bin`);
    let files = 0;
    for await (const { path: of, data } of pack.readMany(names)) {
      expect(Buffer.compare(data, execFileSync('unzip', ['-p', archive, of], { maxBuffer: 10_000_000 }))).toBe(0);
      files++;
    }
    expect(files).toBe(sizes.length);
    // Other bytes of the same length, a second later.
    const bytes = readFileSync(archive);
    bytes[1000] = (bytes[1000] ?? 0) ^ 1;
    writeFileSync(archive, bytes);
    utimesSync(archive, new Date(), new Date(Date.now() + 1000));
    await expect(pack.readMany(names)[Symbol.asyncIterator]().next()).rejects.toThrow('it was changed while it was being read');
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
});
