import { readFileSync } from 'node:fs';
import path from 'node:path';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { seeded } from '@/demo/random';
import { has, readFiles, runTool, temporaryFolder, writeFiles } from '../../../tests/support/tools';
import { open } from '../../../tests/support/packTrees';
import { text } from '../../../tests/support/bytes';

/** A tree with the odd cases: empty, large and incompressible, large and compressible, names beyond ASCII, deep. */
function sampleTree(): Record<string, Uint8Array> {
  const random = seeded(42);
  return {
    'Wrapper folder/assets/a.bin': Uint8Array.from({ length: 300_000 }, () => Math.floor(random() * 256)),
    'Wrapper folder/assets/b.txt': text('the same line again\n'.repeat(20_000)),
    'Wrapper folder/assets/empty': new Uint8Array(0),
    'Wrapper folder/größe/日本.txt': text('names beyond ASCII'),
    'Wrapper folder/one/two/three/four/five/six.ini': text('[a]\r\nb=1\r\n'),
    'readme.md': text('# Read me'),
  };
}

/** Other makers' programs that write a ZIP of the folder they are started in. */
const WRITERS: { program: string; name: string; make(archive: string): string[] }[] = [
  { program: 'zip', name: 'Info-ZIP zip', make: (archive) => ['-q', '-r', archive, '.'] },
  { program: 'zip', name: 'Info-ZIP zip, stored', make: (archive) => ['-q', '-0', '-r', archive, '.'] },
  { program: 'zip', name: 'Info-ZIP zip, zip64', make: (archive) => ['-q', '-fz', '-r', archive, '.'] },
  { program: 'bsdtar', name: 'bsdtar (data descriptors)', make: (archive) => ['-a', '-cf', archive, '.'] },
  { program: '7z', name: '7z', make: (archive) => ['a', '-tzip', '-bd', archive, '.'] },
  { program: 'python3', name: 'Python zipfile', make: (archive) => ['-m', 'zipfile', '-c', archive, '.'] },
];

describe('reading ZIPs that other programs wrote', () => {
  for (const { program, name, make } of WRITERS)
    it.skipIf(!has(program) || !has('unzip'))(
      `${name}: names, sizes and bytes as unzip finds them (skipped where ${program} or unzip is missing)`,
      async () => {
        const folder = temporaryFolder();
        writeFiles(path.join(folder, 'tree'), sampleTree());
        const archive = path.join(folder, 'pack.zip');
        runTool(program, make(archive), { cwd: path.join(folder, 'tree') });
        runTool('unzip', ['-q', archive, '-d', path.join(folder, 'reference')]);
        const reference = readFiles(path.join(folder, 'reference'));

        const pack = await open(readFileSync(archive));
        expect(Object.fromEntries(pack.entries.map(({ path: entry, size }) => [entry, size]))).toEqual(
          Object.fromEntries(Object.entries(reference).map(([entry, data]) => [entry, data.length])),
        );
        for (const [entry, data] of Object.entries(reference))
          expect(Buffer.compare(await pack.read(entry), data), entry).toBe(0);
        const many = new Map<string, Uint8Array>();
        for await (const { path: entry, data } of pack.readMany(Object.keys(reference))) many.set(entry, data);
        expect([...many.keys()].sort()).toEqual(Object.keys(reference).sort());
        for (const [entry, data] of many) expect(Buffer.compare(data, reference[entry] as Buffer), entry).toBe(0);
      },
    );

  it('reads a ZIP with something in front of it', async () => {
    const zip = zipSync({ 'a.txt': text('hello') });
    const pack = await open(Buffer.concat([text('#!/bin/sh\nexit 1\n'.repeat(100)), zip]));
    expect(new TextDecoder().decode(await pack.read('a.txt'))).toBe('hello');
  });

  it.skipIf(!has('python3'))(
    'takes names as UTF-8 only with flag bit 11, else as code page 437 where they are not UTF-8 (APPNOTE appendix D)',
    async () => {
      const archive = path.join(temporaryFolder(), 'cp437.zip');
      // Python writes names that are not ASCII as UTF-8 with the flag; the flag and the bytes are then changed by hand.
      const script = `
import zipfile
with zipfile.ZipFile(${JSON.stringify(archive)}, 'w') as z: z.writestr('gr\\u00fcn.txt', 'green')
data = open(${JSON.stringify(archive)}, 'rb').read()
data = data.replace('gr\\u00fcn.txt'.encode(), b'gr\\x81n_.txt')
import struct
out = bytearray(data)
for sig, at in ((b'PK\\x03\\x04', 6), (b'PK\\x01\\x02', 8)):
    i = out.find(sig)
    struct.pack_into('<H', out, i + at, struct.unpack_from('<H', out, i + at)[0] & ~0x800)
open(${JSON.stringify(archive)}, 'wb').write(out)
`;
      runTool('python3', ['-c', script]);
      expect((await open(readFileSync(archive))).entries[0]?.path).toBe('grün_.txt');
    },
  );
});
