import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { PackError, inflateByStream, openPack, setInflater, type Pack } from '@/core';
import { seeded } from '@/demo/random';
import { has, runTool, temporaryFolder, writeFiles } from '../../../tests/support/tools';
import { expectDocumented, open } from '../../../tests/support/packTrees';
import { blobOf, text } from '../../../tests/support/bytes';

const codeOf = (promise: Promise<unknown>): Promise<unknown> =>
  promise.then(
    () => 'opened',
    (error: unknown) => (error instanceof PackError ? error.code : error),
  );

/** Builds a ZIP with a name that honest writers refuse: written with a stand-in of the same length and then patched. */
function zipNamed(name: string): Uint8Array {
  const bytes = text(name);
  const standIn = 'n'.repeat(bytes.length);
  const zip = Buffer.from(zipSync({ [standIn]: text('content') }, { level: 0 }));
  for (let at = zip.indexOf(standIn); at >= 0; at = zip.indexOf(standIn, at + 1)) zip.set(bytes, at);
  return zip;
}

describe('hostile and broken packs', () => {
  const good = zipSync({ 'a.txt': text('hello hello hello'), 'b.bin': text('b'.repeat(1000)) });

  it.each([
    ['zero bytes', new Uint8Array(0), 'empty'],
    ['a web page', text('<!doctype html><title>Not found</title>'), 'not-an-archive'],
    ['a picture', new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0]), 'not-an-archive'],
    ['a ZIP cut off', good.slice(0, good.length - 30), 'damaged'],
    ['a ZIP cut off early', good.slice(0, 40), 'damaged'],
    ['a ZIP without files', zipSync({}), 'no-files'],
    ['the beginning of a 7z', new Uint8Array([0x37, 0x7a, 0xbc, 0xaf, 0x27, 0x1c, 0, 4]), 'damaged'],
    ['.. in a name', zipNamed('a/../../evil.txt'), 'unsafe-path'],
    ['.. with backslashes', zipNamed('a\\..\\..\\evil.txt'), 'unsafe-path'],
    ['an absolute path', zipNamed('/etc/passwd'), 'unsafe-path'],
    ['a drive letter', zipNamed('C:\\evil.txt'), 'unsafe-path'],
    ['a network path', zipNamed('\\\\host\\share\\x'), 'unsafe-path'],
    ['an alternate stream', zipNamed('a.txt:hidden'), 'unsafe-path'],
    ['a NUL', zipNamed('a\u0000.txt'), 'unsafe-path'],
    ['a reserved name', zipNamed('folder/AUX.png'), 'unsafe-path'],
    ['a trailing dot', zipNamed('folder./x.png'), 'unsafe-path'],
    ['an empty part', zipNamed('folder//x.png'), 'unsafe-path'],
  ])('%s is refused', async (_what, bytes, code) => {
    expect(await codeOf(open(bytes))).toBe(code);
  });

  it('names the part of a split download', async () => {
    expect(await codeOf(open(good.slice(0, 90), 'big.zip.001'))).toBe('split-volume');
    expect(await codeOf(open(good, 'big.z01'))).toBe('split-volume');
  });

  it.skipIf(!has('7z'))('refuses an encrypted ZIP (skipped where 7z is missing)', async () => {
    const folder = temporaryFolder();
    writeFiles(folder, { 'a.txt': 'secret' });
    for (const [method, archive] of [
      ['ZipCrypto', 'weak.zip'],
      ['AES256', 'strong.zip'],
    ] as const) {
      runTool('7z', ['a', '-tzip', '-bd', '-ppassword', `-mem=${method}`, archive, 'a.txt'], { cwd: folder });
      expect(await codeOf(open(readFileSync(path.join(folder, archive))))).toBe('encrypted');
    }
  });

  it.skipIf(!has('zip') || process.platform === 'win32')(
    'leaves a link out and names it (skipped where zip is missing)',
    async () => {
      const folder = temporaryFolder();
      writeFileSync(path.join(folder, 'target'), 'x');
      runTool('ln', ['-s', '/etc/passwd', path.join(folder, 'link')]);
      runTool('zip', ['-q', '-y', 'pack.zip', 'link', 'target'], { cwd: folder });
      const pack = await open(readFileSync(path.join(folder, 'pack.zip')));
      expect(pack.entries.map(({ path: of }) => of)).toEqual(['target']);
      expect(pack.notices).toMatchObject([{ kind: 'link', path: 'link' }]);
      expect(new TextDecoder().decode(await pack.read('target'))).toBe('x');
    },
  );

  it('reads a ZIP with padding between its entries, and holds no more of it than the entries', async () => {
    const padding = 24 * 1024 * 1024;
    const plain = Buffer.from(
      zipSync({ 'a.txt': new Uint8Array(500).fill(65), 'b.txt': new Uint8Array(300).fill(66) }, { level: 0 }),
    );
    // The second entry is moved back, and the list of contents (PKWARE APPNOTE 4.3.12) says so.
    const [second, central, end] = [
      plain.indexOf('PK\u0003\u0004', 4, 'latin1'),
      plain.indexOf('PK\u0001\u0002', 0, 'latin1'),
      plain.lastIndexOf('PK\u0005\u0006', undefined, 'latin1'),
    ];
    const padded = Buffer.concat([plain.subarray(0, second), Buffer.alloc(padding), plain.subarray(second)]);
    const secondRecord = plain.lastIndexOf('PK\u0001\u0002', undefined, 'latin1') + padding;
    padded.writeUInt32LE(second + padding, secondRecord + 42);
    padded.writeUInt32LE(central + padding, end + padding + 16);
    const slices: number[] = [];
    const blob = new Blob([padded]);
    const { slice } = blob;
    blob.slice = (from = 0, to = blob.size, type) => (slices.push(to - from), slice.call(blob, from, to, type));
    const pack = await openPack(blob, 'padded.zip');
    const read: string[] = [];
    for await (const { path: of, data } of pack.readMany(['a.txt', 'b.txt']))
      read.push(`${of} ${data.length} ${data[0]}`);
    expect(read).toEqual(['a.txt 500 65', 'b.txt 300 66']);
    expect(Math.max(...slices)).toBeLessThan(1024 * 1024);
  });

  it('looks at the beginnings of files that lie far apart without reading what lies between, whatever their headers hold', async () => {
    const large = 6 * 1024 * 1024;
    const picture = (fill: number, extra: number): [Uint8Array, object] => [
      Uint8Array.from({ length: large }, (_, i) => (i < 8 ? fill : Math.imul(i, 2654435761) >>> 24)),
      extra > 0 ? { extra: { 0x6666: new Uint8Array(extra) } } : {},
    ];
    const made = zipSync({
      'a.dds': picture(1, 0),
      'b.dds': picture(2, 9000),
      'c.dds': picture(3, 60_000),
      'd.dds': [picture(4, 0)[0], { level: 0 }],
      'e.txt': text('small'),
    });
    const blob = new Blob([made]);
    let read = 0;
    const { slice } = blob;
    blob.slice = (from = 0, to = blob.size, type) => ((read += to - from), slice.call(blob, from, to, type));
    const pack = await openPack(blob, 'far.zip');
    read = 0;
    const names = ['a.dds', 'b.dds', 'c.dds', 'd.dds', 'e.txt'];
    const heads: string[] = [];
    for await (const { path: of, data } of pack.peekMany?.(names, 160) ?? [])
      heads.push(`${of} ${data.length} ${data[0]}`);
    expect(heads).toEqual(['a.dds 160 1', 'b.dds 160 2', 'c.dds 160 3', 'd.dds 160 4', 'e.txt 5 115']);
    expect(read).toBeLessThan(128 * 1024);
  });

  it('holds no more at a time than a bound, whatever a small archive claims', async () => {
    // 10 entries of 24 MB that fit into a quarter of one MB.
    const names = Array.from({ length: 10 }, (_, i) => `zeros ${i}.bin`);
    const zeros = new Uint8Array(24 * 1024 * 1024);
    const pack = await openPack(
      new Blob([zipSync(Object.fromEntries(names.map((name) => [name, zeros])))]),
      'claims.zip',
    );
    let [alive, most] = [0, 0];
    setInflater(async (packed, size) => {
      most = Math.max(most, (alive += size));
      return inflateByStream(packed, size);
    });
    try {
      for await (const { data } of pack.readMany(names)) {
        expect(data.length).toBe(zeros.length);
        alive -= data.length;
        await new Promise((done) => setImmediate(done));
      }
    } finally {
      setInflater(inflateByStream);
    }
    expect(most).toBeLessThanOrEqual(2 * zeros.length);
  });

  it('bounds a file whose header lies about its size, without unpacking more', async () => {
    const lying = Buffer.from(zipSync({ 'a.bin': new Uint8Array(1_000_000) }));
    const central = lying.lastIndexOf(Buffer.from('PK\u0001\u0002'));
    lying.writeUInt32LE(10, central + 24);
    const pack = await open(lying);
    await expect(pack.read('a.bin')).rejects.toMatchObject({ code: 'damaged' });
    lying.writeUInt32LE(0xfffffff0, central + 24);
    expect(await codeOf(open(lying))).toBe('too-large');
  });

  it('refuses a bomb by its ratio before anything is unpacked', async () => {
    const bomb = Buffer.from(zipSync({ 'a.bin': new Uint8Array(100_000) }));
    bomb.writeUInt32LE(900 * 1024 * 1024, bomb.lastIndexOf(Buffer.from('PK\u0001\u0002')) + 24);
    expect(await codeOf(open(bomb))).toBe('too-large');
  });

  it('refuses more than two million entries by what the end record says, before one of them is read', async () => {
    // A ZIP64 end record (56 bytes), its locator (20) and the end record (22), as APPNOTE 4.3.14 to 4.3.16 lay them
    // out.
    const end = Buffer.alloc(98);
    end.writeUInt32LE(0x06064b50, 0);
    end.writeBigUInt64LE(44n, 4);
    end.writeBigUInt64LE(2_000_001n, 24);
    end.writeBigUInt64LE(2_000_001n, 32);
    end.writeUInt32LE(0x07064b50, 56);
    end.writeBigUInt64LE(BigInt(good.length), 64);
    end.writeUInt32LE(1, 72);
    end.writeUInt32LE(0x06054b50, 76);
    end.writeUInt16LE(0xffff, 84);
    end.writeUInt16LE(0xffff, 86);
    await expect(open(Buffer.concat([good, end]))).rejects.toMatchObject({
      code: 'too-large',
      message: expect.stringContaining('more than 2,000,000 files'),
    });
  });

  it('refuses entries that share their bytes', async () => {
    const shared = Buffer.from(zipSync({ 'a.bin': text('a'.repeat(50)), 'b.bin': text('b'.repeat(50)) }, { level: 0 }));
    const second = shared.lastIndexOf(Buffer.from('PK\u0001\u0002'));
    shared.writeUInt32LE(0, second + 42);
    const pack = await open(shared).catch((error: unknown) => error);
    // Both entries now begin at the first one's header; whichever is read, nothing is read across the other's border.
    if (!(pack instanceof PackError))
      await expect((pack as Pack).read('b.bin')).rejects.toMatchObject({ code: 'damaged' });
    else expect(pack.code).toBe('damaged');
  });

  it('notices names that differ only in case', async () => {
    const pack = await open(zipSync({ 'Tex/A.png': text('1'), 'tex/a.png': text('2') }));
    expect(pack.notices.map(({ kind }) => kind)).toEqual(['case-collision']);
  });

  it('can be stopped', async () => {
    const stop = new AbortController();
    stop.abort();
    await expect(openPack(blobOf(good), 'a.zip', { signal: stop.signal })).rejects.toMatchObject({ code: 'cancelled' });
  });

  it('keeps names like __proto__ as names', async () => {
    const pack = await open(zipNamed('__proto__'));
    expect(pack.entries.map((entry) => entry.path)).toEqual(['__proto__']);
    expect(new TextDecoder().decode(await pack.read('__proto__'))).toBe('content');
    await expect(pack.read('constructor')).rejects.toMatchObject({ code: 'unknown-thing' });
  });

  it('meets 3,000 seeded damages with a documented failure or the right bytes, and never hangs', async () => {
    const original = {
      'assets/a.txt': text('alpha '.repeat(200)),
      'assets/b.bin': Uint8Array.from({ length: 2000 }, (_, i) => (i * i) % 251),
      'c.txt': text('gamma'),
    };
    const whole = zipSync(original);
    const random = seeded(2026);
    const codes = new Map<string, number>();
    for (let i = 0; i < 3000; i++) {
      const bytes = whole.slice(0, random() < 0.2 ? Math.floor(random() * whole.length) : whole.length);
      for (let n = Math.floor(random() * 4); n >= 0 && bytes.length > 0; n--)
        bytes[Math.floor(random() * bytes.length)] = Math.floor(random() * 256);
      let outcome = 'read';
      try {
        const pack = await open(bytes);
        for (const { path: entry } of pack.entries) {
          const data = await pack.read(entry);
          // A checksum of 32 bits and the length stand guard: what is read under a known name is what was packed.
          const known = original[entry as keyof typeof original];
          if (known && data.length === known.length) expect(Buffer.compare(data, known)).toBe(0);
        }
      } catch (error) {
        if (!(error instanceof PackError)) throw error;
        outcome = error.code;
      }
      codes.set(outcome, (codes.get(outcome) ?? 0) + 1);
    }
    console.log('seeded damages:', Object.fromEntries(codes));
    expectDocumented(codes, 'unreadable-name');
  });
});
