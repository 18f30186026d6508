import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
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
    // Several windows of 4 MB, with files that are larger than one; some stored, some packed.
    const sizes = [0, 1, 3_000_000, 2_500_000, 6_000_000, 70, 900_000, 900_001, 900_002, 3_000_000, 3_000_000];
    const names = sizes.map((size, i) => {
      writeFileSync(path.join(root, 'data', `${i}.bin`), randomBytes(size / 2).toString('hex'));
      return `data/${i}.bin`;
    });
    for (const [i, name] of names.entries())
      execFileSync('zip', ['-q', i % 3 === 0 ? '-9' : '-0', 'pack.zip', name], { cwd: root });
    const archive = path.join(root, 'pack.zip');
    const pack = await openArchive(archive, 'pack.zip');
    // All of them together: no window may be read over a file that was given before.
    const files: { path: string; data: Uint8Array }[] = [];
    for await (const file of pack.readMany(names)) files.push(file);
    expect(files).toHaveLength(sizes.length);
    for (const { path: of, data } of files)
      expect(Buffer.compare(data, execFileSync('unzip', ['-p', archive, of], { maxBuffer: 10_000_000 }))).toBe(0);
    // Other bytes of the same length, a second later.
    const bytes = readFileSync(archive);
    bytes[1000] = (bytes[1000] ?? 0) ^ 1;
    writeFileSync(archive, bytes);
    utimesSync(archive, new Date(), new Date(Date.now() + 1000));
    await expect(pack.readMany(names)[Symbol.asyncIterator]().next()).rejects.toThrow(
      'it was changed while it was being read',
    );
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
});
