import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { PackError, groupDownloads, openPack, packOfFiles, zipPack, type Pack } from '@/core';
import { has, readFiles, runTool, temporaryFolder, writeFiles } from '../../../tests/support/tools';
import { rar4, rar5 } from '../../../tests/support/rar';
import { open, noise, TREE } from '../../../tests/support/packTrees';
import { blobOf, text, codeOf } from '../../../tests/support/bytes';

async function expectTree(pack: Pack, tree: Record<string, Uint8Array>): Promise<void> {
  expect(Object.fromEntries(pack.entries.map(({ path: entry, size }) => [entry, size]))).toEqual(
    Object.fromEntries(Object.entries(tree).map(([entry, data]) => [entry, data.length])),
  );
  const many = new Map<string, Uint8Array>();
  for await (const { path: entry, data } of pack.readMany(Object.keys(tree))) many.set(entry, data);
  for (const [entry, data] of Object.entries(tree)) {
    expect(Buffer.compare(many.get(entry) as Uint8Array, data), entry).toBe(0);
    expect(Buffer.compare(await pack.read(entry), data), entry).toBe(0);
  }
}

/** Writers of other makers. */
const WRITERS: {
  name: string;
  program: string;
  file: string;
  format: Pack['format'];
  make(archive: string): string[];
}[] = [
  {
    name: '7z, solid',
    program: '7z',
    file: 'p.7z',
    format: '7z',
    make: (archive) => ['a', '-bd', '-ms=on', archive, '.'],
  },
  {
    name: '7z, not solid',
    program: '7z',
    file: 'p.7z',
    format: '7z',
    make: (archive) => ['a', '-bd', '-ms=off', archive, '.'],
  },
  {
    name: '7z from bsdtar',
    program: 'bsdtar',
    file: 'p.7z',
    format: '7z',
    make: (archive) => ['-a', '-cf', archive, '.'],
  },
  { name: 'tar', program: 'tar', file: 'p.tar', format: 'tar', make: (archive) => ['-cf', archive, '.'] },
  {
    name: 'tar, pax',
    program: 'tar',
    file: 'p.tar',
    format: 'tar',
    make: (archive) => ['--format=pax', '-cf', archive, '.'],
  },
  { name: 'tar.gz', program: 'tar', file: 'p.tar.gz', format: 'tar', make: (archive) => ['-czf', archive, '.'] },
  { name: 'tar.bz2', program: 'bsdtar', file: 'p.tar.bz2', format: 'tar', make: (archive) => ['-cjf', archive, '.'] },
  { name: 'tar.xz', program: 'bsdtar', file: 'p.txz', format: 'tar', make: (archive) => ['-cJf', archive, '.'] },
  {
    name: 'tar.zst',
    program: 'bsdtar',
    file: 'p.tar.zst',
    format: 'tar',
    make: (archive) => ['--zstd', '-cf', archive, '.'],
  },
  {
    name: 'tar.gz from Python',
    program: 'python3',
    file: 'p.tgz',
    format: 'tar',
    make: (archive) => ['-m', 'tarfile', '-c', archive, '.'],
  },
  {
    name: 'ZIP with bzip2',
    program: '7z',
    file: 'p.zip',
    format: 'zip',
    make: (archive) => ['a', '-bd', '-tzip', '-mm=BZip2', archive, '.'],
  },
  {
    name: 'ZIP with LZMA',
    program: '7z',
    file: 'p.zip',
    format: 'zip',
    make: (archive) => ['a', '-bd', '-tzip', '-mm=LZMA', archive, '.'],
  },
  {
    name: 'ZIP with deflate64',
    program: '7z',
    file: 'p.zip',
    format: 'zip',
    make: (archive) => ['a', '-bd', '-tzip', '-mm=Deflate64', archive, '.'],
  },
];

describe('reading archives that other programs wrote', () => {
  for (const { name, program, file, format, make } of WRITERS)
    it.skipIf(!has(program))(`${name}: names, sizes and bytes (skipped where ${program} is missing)`, async () => {
      const folder = temporaryFolder();
      writeFiles(path.join(folder, 'tree'), TREE);
      runTool(program, make(path.join(folder, file)), { cwd: path.join(folder, 'tree') });
      const pack = await open(readFileSync(path.join(folder, file)), file);
      expect(pack.format).toBe(format);
      await expectTree(pack, TREE);
    });

  it.each([
    ['RAR 4', 'p4.rar', rar4],
    ['RAR 5', 'p5.rar', rar5],
  ] as const)('%s, written by hand after its technote, as bsdtar reads it too', async (_name, file, build) => {
    // Names in ASCII: RAR 4 has an encoding of its own for others.
    const tree = Object.fromEntries(
      Object.entries(TREE).filter(([entry, data]) => /^[\x20-\x7e]+$/.test(entry) && data.length > 0),
    );
    const archive = build(tree);
    await expectTree(await open(archive, file), tree);
    if (!has('bsdtar')) return;
    const folder = temporaryFolder();
    writeFileSync(path.join(folder, file), archive);
    runTool('bsdtar', ['-xf', file, '-C', folder], { cwd: folder });
    expect(
      Object.keys(readFiles(folder))
        .filter((entry) => entry !== file)
        .sort(),
    ).toEqual(Object.keys(tree).sort());
  });

  it.skipIf(!has('gzip'))('a single file that is only compressed', async () => {
    const folder = temporaryFolder();
    writeFiles(folder, { 'north-isle.map': 'a map' });
    runTool('gzip', ['-k', 'north-isle.map'], { cwd: folder });
    await expectTree(await open(readFileSync(path.join(folder, 'north-isle.map.gz')), 'north-isle.map.gz'), {
      'north-isle.map': text('a map'),
    });
  });

  it('a dropped folder, and files as they are', async () => {
    const pack = packOfFiles(
      Object.entries(TREE).map(([entry, data]) => ({ path: entry, data: blobOf(data) })),
      'Dropped',
    );
    await expectTree(pack, TREE);
    expect(() => packOfFiles([{ path: '../x', data: blobOf(text('x')) }], 'Dropped')).toThrow(PackError);
  });
});

describe('passwords', () => {
  it.skipIf(!has('7z'))(
    'asks for one, says when it is wrong, and reads with the right one (skipped where 7z is missing)',
    async () => {
      const folder = temporaryFolder();
      writeFiles(path.join(folder, 'tree'), TREE);
      const cases: [file: string, make: string[]][] = [
        ['content.7z', ['-t7z', '-psesame']],
        ['names.7z', ['-t7z', '-psesame', '-mhe=on']],
        ['weak.zip', ['-tzip', '-psesame', '-mem=ZipCrypto']],
        ['strong.zip', ['-tzip', '-psesame', '-mem=AES256']],
      ];
      for (const [file, make] of cases) {
        runTool('7z', ['a', '-bd', ...make, path.join(folder, file), '.'], { cwd: path.join(folder, 'tree') });
        const bytes = readFileSync(path.join(folder, file));
        expect(await codeOf(open(bytes, file)), file).toBe('encrypted');
        expect(await codeOf(open(bytes, file, { password: 'open' })), file).toBe('wrong-password');
        await expectTree(await open(bytes, file, { password: 'sesame' }), TREE);
      }
    },
  );
});

describe('split downloads', () => {
  it.skipIf(!has('7z'))(
    'read when all parts are given, and name the one that is missing (skipped where 7z is missing)',
    async () => {
      const folder = temporaryFolder();
      writeFiles(path.join(folder, 'tree'), TREE);
      for (const [file, type] of [
        ['p.7z', '-t7z'],
        ['p.zip', '-tzip'],
      ] as const) {
        const out = path.join(folder, file.replace('.', '-'));
        writeFiles(out, {});
        runTool('7z', ['a', '-bd', type, '-v40k', path.join(out, file), '.'], { cwd: path.join(folder, 'tree') });
        const parts = readdirSync(out)
          .sort()
          .reverse()
          .map((name) => ({ name, data: blobOf(readFileSync(path.join(out, name))) }));
        expect(parts.length).toBeGreaterThan(2);
        const [download, ...others] = groupDownloads(parts);
        expect(others).toEqual([]);
        const [first, ...moreParts] = download?.parts ?? [];
        await expectTree(await openPack(first?.data as Blob, first?.name as string, { moreParts }), TREE);
        await expect(
          openPack(first?.data as Blob, first?.name as string, { moreParts: moreParts.slice(1) }),
        ).rejects.toMatchObject({ code: 'split-volume', message: expect.stringContaining(`${file}.002`) });
        await expect(
          openPack(first?.data as Blob, first?.name as string, { moreParts: moreParts.slice(0, -1) }),
        ).rejects.toMatchObject({ code: 'split-volume', message: expect.stringContaining('the part after') });
        await expect(openPack(parts[0]?.data as Blob, parts[0]?.name as string)).rejects.toMatchObject({
          code: 'split-volume',
          message: expect.stringContaining(`${file}.001`),
        });
      }
    },
  );

  it.skipIf(!has('zip'))('the form with a last volume .zip (skipped where zip is missing)', async () => {
    const folder = temporaryFolder();
    writeFiles(path.join(folder, 'tree'), { 'a.bin': noise(300_000) });
    runTool('zip', ['-q', '-s', '64k', '-r', path.join(folder, 'p.zip'), '.'], { cwd: path.join(folder, 'tree') });
    const parts = readdirSync(folder)
      .filter((name) => name.startsWith('p.'))
      .map((name) => ({ name, data: blobOf(readFileSync(path.join(folder, name))) }));
    const [download] = groupDownloads(parts);
    const [first, ...moreParts] = download?.parts ?? [];
    expect(download?.parts.map(({ name }) => name)).toEqual(['p.z01', 'p.z02', 'p.z03', 'p.z04', 'p.zip']);
    await expectTree(await openPack(first?.data as Blob, 'p.z01', { moreParts }), { 'a.bin': noise(300_000) });
    expect(await codeOf(openPack(first?.data as Blob, 'p.z01'))).toBe('split-volume');
  });

  it('keeps what does not belong together apart', () => {
    const parts = ['a.zip', 'b.part2.rar', 'b.part1.rar', 'c.r00', 'c.rar', 'd.7z'].map((name) => ({
      name,
      data: new Blob(['x']),
    }));
    expect(groupDownloads(parts).map((download) => download.parts.map(({ name }) => name))).toEqual([
      ['a.zip'],
      ['d.7z'],
      ['b.part1.rar', 'b.part2.rar'],
      ['c.rar', 'c.r00'],
    ]);
  });
});

describe('what the app keeps of a pack', () => {
  it.skipIf(!has('7z') || !has('unzip'))(
    'is a plain ZIP of the same files that unzip accepts (skipped where 7z or unzip is missing)',
    async () => {
      const folder = temporaryFolder();
      writeFiles(path.join(folder, 'tree'), TREE);
      runTool('7z', ['a', '-bd', path.join(folder, 'p.7z'), '.'], { cwd: path.join(folder, 'tree') });
      const kept = await zipPack(await open(readFileSync(path.join(folder, 'p.7z')), 'p.7z'));
      const bytes = new Uint8Array(await kept.arrayBuffer());
      writeFileSync(path.join(folder, 'kept.zip'), bytes);
      runTool('unzip', ['-tq', path.join(folder, 'kept.zip')]);
      runTool('unzip', ['-q', path.join(folder, 'kept.zip'), '-d', path.join(folder, 'out')]);
      const out = readFiles(path.join(folder, 'out'));
      for (const [entry, data] of Object.entries(TREE))
        expect(Buffer.compare(out[entry] as Buffer, data), entry).toBe(0);
      await expectTree(await openPack(kept, 'kept.zip'), TREE);
      expect(Object.keys(unzipSync(bytes))).toHaveLength(6);
    },
  );
});
