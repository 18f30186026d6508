import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, statSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it, vi } from 'vitest';
import type { Progress } from '@/core';
import { has, readFiles, runTool, temporaryFolder } from '../../tests/support/tools';
import { DiskFolder } from './disk';
import { unpackDownload } from './unpackDownload';

vi.mock('node:worker_threads', async (real) =>
  (await import('../../tests/support/threads')).builtThreads(await real()),
);

const vaultIn = (top: string) => {
  mkdirSync(path.join(top, 'vault'), { recursive: true });
  return DiskFolder.open(path.join(top, 'vault'));
};
const place = () => mkdtempSync(path.join(tmpdir(), 'satchel-unpack-'));

/** A folder with files to pack: small, empty, one of some megabytes, names beyond ASCII, and a link. */
function makeFiles(top: string): string {
  const folder = path.join(top, 'pack');
  mkdirSync(path.join(folder, 'größe', 'tief'), { recursive: true });
  writeFileSync(path.join(folder, 'a.txt'), 'a text\r\n');
  writeFileSync(path.join(folder, 'empty'), '');
  for (let i = 0; i < 60; i++) writeFileSync(path.join(folder, 'größe', `${i}.dat`), `${i} `.repeat(1000 + i));
  writeFileSync(
    path.join(folder, 'größe', 'tief', 'large.bin'),
    Buffer.alloc(5_000_000).fill('0123456789abcdef pattern'),
  );
  symlinkSync('a.txt', path.join(folder, 'link'));
  return folder;
}

const MAKERS: [name: string, tool: string, make: (folder: string, to: string) => void, format: string][] = [
  ['x.7z', '7z', (folder, to) => runTool('7z', ['a', '-bso0', to, '.', '-xr!link'], { cwd: folder }), '7z'],
  ['x.tar.gz', 'tar', (folder, to) => runTool('tar', ['czf', to, '-C', folder, '.']), 'tar'],
  ['x.tar.xz', 'tar', (folder, to) => runTool('tar', ['cJf', to, '-C', folder, '.']), 'tar'],
  ['x.tar', 'bsdtar', (folder, to) => runTool('bsdtar', ['-cf', to, '-C', folder, '.']), 'tar'],
];

describe('a download is unpacked where it lies', () => {
  it.each(MAKERS.map(([name, tool, make, format]) => ({ name, tool, make, format })))(
    '$name, as unzip finds it afterwards',
    async ({ name, tool, make, format }) => {
      if (!has(tool) || !has('unzip')) return;
      const top = place();
      const folder = makeFiles(top);
      make(folder, path.join(top, name));
      const told: Progress[] = [];
      const before = readFileSync(path.join(top, name));
      const found = await unpackDownload(
        vaultIn(top),
        'pack-1',
        { files: [path.join(top, name)], name },
        { onProgress: (progress) => told.push(progress) },
      );
      expect(found).toMatchObject({
        format,
        size: before.length,
        sha256: createHash('sha256').update(before).digest('hex'),
      });
      const zip = path.join(top, 'vault', 'packs', 'pack-1.zip');
      expect(statSync(zip).size).toBe(found.kept.size);
      expect(readdirSync(path.join(top, 'vault', 'packs'))).toEqual(['pack-1.zip']);
      const out = path.join(temporaryFolder(), 'out');
      runTool('unzip', ['-q', zip, '-d', out]);
      const wanted = readFiles(folder);
      delete wanted.link;
      expect(Object.keys(readFiles(out)).sort()).toEqual(Object.keys(wanted).sort());
      for (const [of, bytes] of Object.entries(readFiles(out)))
        expect(bytes.equals(wanted[of] as Buffer), of).toBe(true);
      expect(told.length).toBeGreaterThan(1);
      expect(readFileSync(path.join(top, name)).equals(before)).toBe(true);
      if (name !== 'x.7z') expect(found.notices.map(({ kind, path: of }) => [kind, of])).toEqual([['link', 'link']]);
    },
  );
});

/** Bytes that no packer makes smaller. */
const noise = (size: number): Buffer =>
  Buffer.from(crypto.getRandomValues(new Uint8Array(Math.min(size, 65_536)))).subarray(0, size);

describe.skipIf(!has('7z') || !has('zip'))('a download in parts, with a password, or broken', () => {
  const made = (values: string[], ...files: [string, Buffer | string][]) => {
    const top = place();
    mkdirSync(path.join(top, 'pack', 'in'), { recursive: true });
    for (const [name, data] of files) writeFileSync(path.join(top, 'pack', name), data);
    runTool(values[0] ?? '', values.slice(1), { cwd: path.join(top, 'pack') });
    return {
      top,
      at: (name: string) => path.join(top, name),
      take: (names: string[], name: string, password?: string) =>
        unpackDownload(
          vaultIn(top),
          'pack-1',
          { files: names.map((one) => path.join(top, name, '..', one)), name, password },
          {},
        ),
    };
  };
  const packsOf = (top: string) => readdirSync(path.join(top, 'vault', 'packs'));

  it('parts are read one behind the other, without being joined on the disk', async () => {
    const { top, take } = made(['7z', 'a', '-bso0', '-v20k', '../x.7z', '.'], ['in/a.bin', noise(60_000)]);
    const parts = readdirSync(top)
      .filter((name) => /\.\d{3}$/.test(name))
      .sort();
    expect(parts.length).toBeGreaterThan(2);
    expect(await take(parts, 'x.7z')).toMatchObject({
      format: '7z',
      size: parts.reduce((sum, name) => sum + statSync(path.join(top, name)).size, 0),
    });
    expect(
      runTool('unzip', ['-p', path.join(top, 'vault/packs/pack-1.zip'), 'in/a.bin']).equals(
        readFileSync(path.join(top, 'pack/in/a.bin')),
      ),
    ).toBe(true);
    await expect(take(parts.slice(0, -1), 'x.7z')).rejects.toMatchObject({ code: 'split-volume' });
  });

  it('a locked ZIP needs its password, and nothing is left where it is missing, wrong, or what comes out is damaged', async () => {
    const { top, take } = made(['zip', '-q', '-P', 'sesame', '../x.zip', 'in/a.bin'], ['in/a.bin', noise(30_000)]);
    await expect(take(['x.zip'], 'x.zip')).rejects.toMatchObject({ code: 'encrypted' });
    await expect(take(['x.zip'], 'x.zip', 'open')).rejects.toMatchObject({ code: 'wrong-password' });
    expect(packsOf(top)).toEqual([]);
    expect(await take(['x.zip'], 'x.zip', 'sesame')).toMatchObject({ format: 'zip' });
    expect(packsOf(top)).toEqual(['pack-1.zip']);
    expect(
      runTool('unzip', ['-p', path.join(top, 'vault/packs/pack-1.zip')]).equals(
        readFileSync(path.join(top, 'pack/in/a.bin')),
      ),
    ).toBe(true);

    const broken = made(['7z', 'a', '-bso0', '../y.7z', '.'], ['in/a.bin', noise(60_000)]);
    const bytes = readFileSync(broken.at('y.7z'));
    writeFileSync(broken.at('y.7z'), bytes.fill(7, 20_000, 20_100));
    await expect(broken.take(['y.7z'], 'y.7z')).rejects.toMatchObject({ code: 'damaged' });
    await expect(broken.take(['missing.7z'], 'missing.7z')).rejects.toMatchObject({ code: 'folder-refused' });
    expect(packsOf(broken.top)).toEqual([]);
  });

  it('where nobody waits for it any more, nothing of it is left', async () => {
    const { top, at } = made(
      ['7z', 'a', '-bso0', '-mx1', '../x.7z', '.'],
      ...Array.from({ length: 40 }, (_, i): [string, Buffer] => [
        `in/${i}.bin`,
        Buffer.alloc(2_000_000, `much of the same, ${i} `),
      ]),
    );
    const stop = new AbortController();
    // In the middle of it: a file is begun among the packs.
    let begun: string[] = [];
    const onProgress = ({ phase }: Progress) => {
      if (phase !== 'Unpacking it once' || stop.signal.aborted) return;
      begun = packsOf(top);
      stop.abort();
    };
    const taking = unpackDownload(
      vaultIn(top),
      'pack-1',
      { files: [at('x.7z')], name: 'x.7z' },
      { signal: stop.signal, onProgress },
    );
    await expect(taking).rejects.toMatchObject({ code: 'cancelled' });
    expect(begun).toHaveLength(1);
    expect(packsOf(top)).toEqual([]);
  });
});
