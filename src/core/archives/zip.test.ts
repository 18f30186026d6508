import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { crc32 } from 'node:zlib';
import { has, runTool, temporaryFolder, writeFiles } from '../../../tests/support/tools';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { PackError, type Pack } from '@/core';
import { openZip } from './zip';
import { OtherMethod, findEndRecord, readDirectory, statedEntries } from './zipDirectory';

/**
 * ZIPs byte by byte (PKWARE APPNOTE 6.3.x: local header 4.3.7, list of contents 4.3.12, end 4.3.16), made by another
 * library and then changed at the place that the note names.
 */

type Bytes = Uint8Array<ArrayBuffer>;
const TEXT = 'some words of a text that is packed, some words of a text that is packed';
const files = { 'a.txt': strToU8(TEXT), 'in/b.bin': strToU8('stored'), 'c.txt': strToU8(TEXT.repeat(3)) };
const zipped = (level: 0 | 9 = 9): Bytes => new Uint8Array(zipSync(files, { level }));
const open = (bytes: Bytes, options = {}): Promise<Pack> => openZip(new Blob([bytes]), 'p.zip', options);

/** Where the list of contents has the entry of a name, and where its local header is. */
function placesOf(bytes: Bytes, name: string): { listed: number; local: number } {
  const view = new DataView(bytes.buffer);
  for (let at = 0; at + 46 < bytes.length; at++) {
    if (view.getUint32(at, true) !== 0x02014b50) continue;
    const length = view.getUint16(at + 28, true);
    if (new TextDecoder().decode(bytes.subarray(at + 46, at + 46 + length)) === name)
      return { listed: at, local: view.getUint32(at + 42, true) };
  }
  throw new Error(`no ${name}`);
}
/** Changes a number of an entry in the list of contents. */
function changed(name: string, at: number, value: number, size: 2 | 4, level: 0 | 9 = 9): Bytes {
  const bytes = zipped(level);
  const view = new DataView(bytes.buffer);
  const { listed } = placesOf(bytes, name);
  if (size === 2) view.setUint16(listed + at, value, true);
  else view.setUint32(listed + at, value, true);
  return bytes;
}
const sizeAt = (bytes: Bytes, name: string) =>
  new DataView(bytes.buffer).getUint32(placesOf(bytes, name).listed + 24, true);
const said = async (work: Promise<unknown>): Promise<[string, Record<string, string>]> =>
  work.then(
    () => ['none', {}],
    (error: unknown) => (error instanceof PackError ? [error.code, error.failure.details] : [String(error), {}]),
  );
const readAll = async (pack: Pack, paths = Object.keys(files)) => {
  const found: Record<string, string> = {};
  for await (const { path: of, data } of pack.readMany(paths)) found[of] = new TextDecoder().decode(data);
  return found;
};
const chunksOf = async (pack: Pack, of: string) => {
  const pieces: Uint8Array[] = [];
  for await (const piece of pack.chunks?.(of) ?? []) pieces.push(piece);
  return Buffer.concat(pieces).toString();
};

describe('the list of contents of a ZIP', () => {
  it.each([0, 9] as const)('is read as it was written (level %i)', async (level) => {
    const bytes = zipped(level);
    const pack = await open(bytes);
    expect(pack.entries).toEqual(
      Object.entries(files).map(([of, data]) => ({ path: of, size: data.length, crc32: crc32(data) })),
    );
    expect([pack.name, pack.format, pack.notices]).toEqual(['p.zip', 'zip', []]);
    const { slots } = await readDirectory(new Blob([bytes]), 'p.zip');
    expect(slots.map(({ path: of, offset, method }) => [of, offset, method])).toEqual(
      Object.keys(files).map((of) => [of, placesOf(bytes, of).local, level === 0 ? 0 : 8]),
    );
    // Each ends where the next begins, the last with the file.
    expect(slots.map(({ end }) => end)).toEqual([slots[1]?.offset, slots[2]?.offset, bytes.length]);
  });

  it('tells how far it is, and ends where nobody waits for it', async () => {
    const told: unknown[] = [];
    await open(zipped(), { onProgress: (progress: unknown) => told.push(progress) });
    expect(told[0]).toMatchObject({ phase: 'Reading the list of contents', unit: 'files', total: 3 });
    await expect(open(zipped(), { signal: AbortSignal.abort() })).rejects.toMatchObject({ code: 'cancelled' });
  });

  it('its end is found behind a comment of any length, and nowhere else', async () => {
    const bytes = zipped();
    const end = bytes.length - 22;
    for (const comment of [0, 1, 65_535]) {
      const more = new Uint8Array(bytes.length + comment).fill(32);
      more.set(bytes);
      new DataView(more.buffer).setUint16(end + 20, comment, true);
      const found = await findEndRecord(new Blob([more]));
      expect(found && found.view.byteLength - found.at).toBe(22 + comment);
      expect(await statedEntries(new Blob([more]))).toBe(3);
    }
    for (const none of [bytes.subarray(0, 100), new Uint8Array(21), new Uint8Array(0)]) {
      expect(await findEndRecord(new Blob([none]))).toBeUndefined();
      expect(await statedEntries(new Blob([none]))).toBe(0);
    }
  });

  it('more than 65,535 files are counted by the record of 64 bits, where there is one', async () => {
    const tail = (entries: number, { locator = 0x07064b50, record = 0x06064b50 } = {}) => {
      const bytes = new Uint8Array(56 + 20 + 22);
      const view = new DataView(bytes.buffer);
      view.setUint32(0, record, true);
      view.setBigUint64(32, 70_000n, true);
      view.setUint32(56, locator, true);
      view.setBigUint64(64, 0n, true);
      view.setUint32(76, 0x06054b50, true);
      view.setUint16(86, entries, true);
      return new Blob([bytes]);
    };
    expect(await statedEntries(tail(0xffff))).toBe(70_000);
    expect(await statedEntries(tail(0xfffe))).toBe(0xfffe);
    expect(await statedEntries(tail(0xffff, { locator: 1 }))).toBe(0xffff);
    expect(await statedEntries(tail(0xffff, { record: 1 }))).toBe(0xffff);
    const short = new Uint8Array(await tail(0xffff).arrayBuffer()).slice(76);
    expect(await statedEntries(new Blob([short]))).toBe(0xffff);
  });

  it('links are left out and named; folders are no files', async () => {
    // External attributes at 38: the file type is in the upper half (APPNOTE 4.4.15).
    const link = changed('in/b.bin', 38, 0xa1ff0000, 4);
    const pack = await open(link);
    expect(pack.entries.map(({ path: of }) => of)).toEqual(['a.txt', 'c.txt']);
    expect(pack.notices).toMatchObject([{ kind: 'link', path: 'in/b.bin' }]);
    const plain = changed('in/b.bin', 38, 0x81ff0000, 4);
    expect((await open(plain)).entries).toHaveLength(3);
    const folders = new Uint8Array(zipSync({ './': new Uint8Array(), 'in/': new Uint8Array(), a: strToU8('a') }));
    expect((await open(folders)).entries.map(({ path: of }) => of)).toEqual(['a']);
  });

  it('one without files, with a lock, another method or a name that is none is refused', async () => {
    expect(await said(open(new Uint8Array(zipSync({ 'in/': new Uint8Array() }))))).toEqual([
      'no-files',
      { name: 'p.zip' },
    ]);
    // Flags at 8, of which bit 0 is the lock (APPNOTE 4.4.4); method at 10.
    expect(await said(open(changed('a.txt', 8, 1, 2)))).toEqual(['encrypted', { name: 'p.zip' }]);
    await expect(open(changed('a.txt', 10, 12, 2))).rejects.toBeInstanceOf(OtherMethod);
    const bad = changed('a.txt', 8, 0x800, 2);
    bad.set([0xff, 0xfe], placesOf(bad, 'a.txt').listed + 46);
    expect((await said(open(bad)))[0]).toBe('unreadable-name');
    expect((await said(open(new Uint8Array(zipSync({ '../out': strToU8('x') })))))[0]).toBe('unsafe-path');
  });

  it('one that is cut off, or whose parts overlap, is damaged, and it is said how', async () => {
    const [code, details] = await said(open(zipped().slice(0, 150)));
    expect([code, details.name]).toEqual(['damaged', 'p.zip']);
    expect(details.why).toContain('its list of contents at the end is missing or broken');
    // Packed bytes at 20: more than the whole archive has.
    expect(await said(open(changed('a.txt', 20, 60_000, 4)))).toEqual([
      'damaged',
      { name: 'p.zip', why: 'its parts overlap' },
    ]);
  });
});

describe('what is in a ZIP', () => {
  const texts = Object.fromEntries(Object.entries(files).map(([of, data]) => [of, new TextDecoder().decode(data)]));

  it.each([0, 9] as const)('comes out as it went in, in any way of reading (level %i)', async (level) => {
    const pack = await open(zipped(level));
    expect(await readAll(pack)).toEqual(texts);
    for (const of of Object.keys(files)) {
      expect(new TextDecoder().decode(await pack.read(of))).toBe(texts[of]);
      expect(await chunksOf(pack, of)).toBe(texts[of]);
    }
    for (const bytes of [1, 6, 40, 1000]) {
      const found: Record<string, string> = {};
      for await (const { path: of, data } of pack.peekMany?.(Object.keys(files), bytes) ?? [])
        found[of] = new TextDecoder().decode(data);
      expect(found).toEqual(Object.fromEntries(Object.entries(texts).map(([of, text]) => [of, text.slice(0, bytes)])));
    }
  });

  it('only what is asked for, in the order of the archive; what is not there is said', async () => {
    const pack = await open(zipped());
    expect(Object.keys(await readAll(pack, ['c.txt', 'a.txt']))).toEqual(['a.txt', 'c.txt']);
    for (const work of [readAll(pack, ['a.txt', 'none']), pack.read('none'), chunksOf(pack, 'none')])
      await expect(work).rejects.toMatchObject({
        code: 'unknown-thing',
        message: expect.stringContaining('file “none” in “p.zip”') as string,
      });
    const reading = pack.readMany(['a.txt'], { signal: AbortSignal.abort() });
    await expect(reading[Symbol.asyncIterator]().next()).rejects.toMatchObject({ code: 'cancelled' });
  });

  it.each(['whole', 'piece by piece'])('what is damaged is said, never given (%s)', async (how) => {
    const read = async (bytes: Bytes, of = 'a.txt') => {
      const pack = await open(bytes);
      const [code, details] = await said(how === 'whole' ? pack.read(of) : chunksOf(pack, of));
      return code === 'damaged' ? details.why : code;
    };
    expect(await read(zipped())).toBe('none');
    // Checksum at 16, unpacked size at 24.
    expect(await read(changed('a.txt', 16, 7, 4))).toBe('“a.txt” has a wrong checksum');
    expect(await read(changed('in/b.bin', 16, 7, 4, 0), 'in/b.bin')).toBe('“in/b.bin” has a wrong checksum');
    expect(await read(changed('a.txt', 24, TEXT.length + 1, 4))).toContain('“a.txt” ');
    expect(await read(changed('a.txt', 24, TEXT.length + 1, 4))).not.toBe('none');
    expect(await read(changed('a.txt', 24, TEXT.length - 1, 4))).toContain('“a.txt” ');
    expect(await read(changed('in/b.bin', 24, 7, 4, 0), 'in/b.bin')).toContain(
      'not as long as the list of contents says',
    );
    const headless = zipped();
    headless[placesOf(headless, 'a.txt').local] = 0;
    expect(await read(headless)).toBe('“a.txt” does not begin where the list of contents says');
    const long = zipped();
    // A name that is said to be longer leaves too little for what is packed.
    new DataView(long.buffer).setUint16(placesOf(long, 'a.txt').local + 26, 5 + 1, true);
    expect(await read(long)).toContain('“a.txt” ');
    const garbled = zipped();
    const { local } = placesOf(garbled, 'a.txt');
    garbled.fill(0xff, local + 30 + 5, local + 30 + 5 + 10);
    expect(await read(garbled)).toContain('“a.txt” cannot be unpacked (');
    expect(sizeAt(zipped(), 'a.txt')).toBe(TEXT.length);
  });

  it('one bad file keeps no other from being read', async () => {
    const pack = await open(changed('a.txt', 16, 7, 4));
    expect(await readAll(pack, ['in/b.bin', 'c.txt'])).toEqual({
      'in/b.bin': texts['in/b.bin'],
      'c.txt': texts['c.txt'],
    });
  });

  it.skipIf(!has('zip'))(
    'many files over several windows come out as zip put them in, and little is held at a time',
    async () => {
      const top = temporaryFolder();
      const made: Record<string, Uint8Array> = {};
      for (let i = 0; i < 60; i++)
        made[`${String(i).padStart(2, '0')}.bin`] = Buffer.alloc(300_000, `${i} ${'x'.repeat(i)}`);
      writeFiles(path.join(top, 'pack'), made);
      runTool('zip', ['-q', '-0', '-r', '../x.zip', '.'], { cwd: path.join(top, 'pack') });
      const whole = readFileSync(path.join(top, 'x.zip'));
      const pack = await openZip(new Blob([whole]), 'x.zip', {});
      const wanted = Object.keys(made).filter((_, i) => i % 3 !== 1);
      let count = 0;
      for await (const { path: of, data } of pack.readMany([...wanted].reverse())) {
        expect(Buffer.compare(data, made[of] as Uint8Array)).toBe(0);
        count++;
      }
      expect(count).toBe(wanted.length);
      for await (const { path: of, data } of pack.peekMany?.(wanted, 100) ?? [])
        expect(Buffer.compare(data, (made[of] as Uint8Array).subarray(0, 100))).toBe(0);
    },
  );
});
