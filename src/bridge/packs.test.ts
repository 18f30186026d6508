import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import { has, runTool, temporaryFolder } from '../../tests/support/tools';
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

it.skipIf(!has('python3'))(
  'an archive of more than 4 GB with a file of more than 4 GB in it, as Python writes one (ZIP64, APPNOTE 4.3.14), is read in pieces',
  { timeout: 60_000 },
  async () => {
    const archive = path.join(temporaryFolder(), 'huge.zip');
    // Runs of zeros are left out on the disk: the file takes no room there.
    runTool('python3', [
      '-c',
      `
import zipfile, sys
class Sparse:
    def __init__(self, at): self.file = open(at, 'wb')
    def write(self, data):
        if len(data) > 4096 and not any(memoryview(data)[:64]): self.file.seek(len(data), 1)
        else: self.file.write(data)
        return len(data)
    def __getattr__(self, name): return getattr(self.file, name)
with zipfile.ZipFile(Sparse(sys.argv[1]), 'w') as made:
    made.writestr('before.txt', 'before')
    with made.open('sky/huge.pak', 'w', force_zip64=True) as huge:
        huge.write(b'the beginning of it')
        for _ in range(540): huge.write(bytes(8 << 20))
    made.writestr('after.txt', 'after')
`,
      archive,
    ]);
    const size = 540 * 8 * 1024 ** 2 + 19;
    const pack = await openArchive(archive, 'huge.zip');
    expect(pack.entries.map((entry) => [entry.path, entry.size])).toEqual([
      ['before.txt', 6],
      ['sky/huge.pak', size],
      ['after.txt', 5],
    ]);
    expect(new TextDecoder().decode(await pack.read('after.txt'))).toBe('after');
    // Its beginning costs no more than that, and it is never held as a whole.
    const [head] = await gather(pack.peekMany?.(['sky/huge.pak'], 19) ?? []);
    expect(new TextDecoder().decode(head?.data)).toBe('the beginning of it');
    await expect(pack.read('sky/huge.pak')).rejects.toMatchObject({ code: 'too-large-to-hold' });
    const pieces = pack.chunks?.('sky/huge.pak')[Symbol.asyncIterator]();
    expect((await pieces?.next())?.value?.subarray(0, 19)).toEqual(new TextEncoder().encode('the beginning of it'));
    await pieces?.return?.();
  },
);

async function gather<T>(all: AsyncIterable<T> | Iterable<T>): Promise<T[]> {
  const found: T[] = [];
  for await (const one of all) found.push(one);
  return found;
}
