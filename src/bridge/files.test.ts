import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { describe, expect, it, vi } from 'vitest';
import { LARGE, SatchelError } from '@/core';
import { temporaryFolder, writeFiles } from '../../tests/support/tools';
import { DiskFolder } from './disk';
import { digestsOf, listChanges, listFiles, sendBytes, sendFile, takeFile } from './files';
import { FILES_A_LINE } from './wire';

it('tells checksums of files of any size, of which the large ones are never held whole', async () => {
  const root = mkdtempSync(path.join(tmpdir(), 'satchel-digests-'));
  try {
    const large = Buffer.alloc(LARGE + 5_000_001, 'Tidy Satchel ');
    writeFileSync(path.join(root, 'small'), 'a few bytes');
    writeFileSync(path.join(root, 'large'), large);
    const folder = DiskFolder.open(root);
    const whole = [vi.spyOn(folder, 'read'), vi.spyOn(folder, 'readBytes')];
    const names = ['large', 'missing', 'small'];
    // `sha256sum`, and the checksum that zlib puts near the end of a gzip file (RFC 1952, 2.3.1).
    const sums =
      execFileSync('sha256sum', ['large', 'small'], { cwd: root })
        .toString()
        .match(/^[0-9a-f]{64}/gm) ?? [];
    expect(await digestsOf(folder, 'sha256', names)).toEqual([sums[0], null, sums[1]]);
    const crc = (bytes: Buffer): string => gzipSync(bytes).subarray(-8).readUInt32LE(0).toString(16);
    expect(await digestsOf(folder, 'crc32', names)).toEqual([crc(large), null, crc(Buffer.from('a few bytes'))]);
    for (const read of whole) expect(read).not.toHaveBeenCalledWith('large');
  } finally {
    rmSync(root, { recursive: true, force: true });
  }
});

it('a checksum that cannot be had keeps no other from being told; another failure does', async () => {
  const root = temporaryFolder();
  writeFiles(root, { a: 'one', b: 'two' });
  const folder = DiskFolder.open(root);
  expect(await digestsOf(folder, 'sha256', [])).toEqual([]);
  const [one] = await digestsOf(folder, 'sha256', ['a']);
  expect(await digestsOf(folder, 'sha256', ['../a', 'b', 'a'])).toEqual([null, expect.any(String), one]);
  const { failure } = new SatchelError('folder-gone', { path: 'a' });
  vi.spyOn(folder, 'statAndHash').mockRejectedValue(new SatchelError('folder-gone', { path: 'a' }));
  vi.spyOn(folder, 'stat').mockRejectedValue(new SatchelError('folder-gone', { path: 'a' }));
  await expect(digestsOf(folder, 'sha256', ['a'])).rejects.toMatchObject({ failure });
});

describe('a file that is sent', () => {
  const words = '0123456789';
  const place = () => {
    const root = temporaryFolder();
    writeFiles(root, { 'a.txt': words, empty: '' });
    return DiskFolder.open(root);
  };
  // RFC 9110, 14.1.2: both ends count, and the last may lie beyond the end; 14.4 for the answer.
  it.each([
    [null, 200, words, null],
    ['bytes=0-0', 206, '0', 'bytes 0-0/10'],
    ['bytes=2-4', 206, '234', 'bytes 2-4/10'],
    ['bytes=7-9', 206, '789', 'bytes 7-9/10'],
    ['bytes=7-10', 206, '789', 'bytes 7-9/10'],
    ['bytes=9-99', 206, '9', 'bytes 9-9/10'],
    // Forms that nobody asks for here are answered with all of it, as is allowed.
    ['bytes=3-', 200, words, null],
    ['bytes=-3', 200, words, null],
    ['bytes=1-2,4-5', 200, words, null],
    ['lines=1-2', 200, words, null],
    ['x bytes=1-2', 200, words, null],
  ])('asked for %s', async (range, status, sent, content) => {
    const response = await sendFile(place(), 'a.txt', range);
    expect([response.status, await response.text(), response.headers.get('content-range')]).toEqual([
      status,
      sent,
      content,
    ]);
    expect(response.headers.get('content-length')).toBe(String(sent.length));
  });

  it('nothing of it is run or kept by a browser', async () => {
    const { headers } = await sendFile(place(), 'a.txt');
    expect(Object.fromEntries(headers)).toMatchObject({
      'content-type': 'application/octet-stream',
      'content-disposition': 'attachment',
      'x-content-type-options': 'nosniff',
      'content-security-policy': "default-src 'none'; sandbox",
      'cache-control': 'no-store',
    });
  });

  it.each([
    ['an empty one', 'empty', null],
    ['what lies behind its end', 'a.txt', 'bytes=10-12'],
    ['an end before its beginning', 'a.txt', 'bytes=5-2'],
  ])('%s is nothing, and no file stays open', async (_, of, range) => {
    const folder = place();
    const { handle, size } = await folder.openFile(of);
    const response = await sendBytes(handle, size, range);
    expect([await response.text(), response.headers.get('content-length'), handle.fd]).toEqual(['', '0', -1]);
  });
});

describe('a file that is taken', () => {
  const request = (body: string, length?: string) =>
    new Request('http://127.0.0.1/', {
      method: 'PUT',
      body: new Blob([body]),
      headers: length === undefined ? {} : { 'content-length': length },
    });

  it.each([
    [undefined, 'its size was not said'],
    ['-1', 'its size was not said'],
    ['1.5', 'its size was not said'],
    ['nine', 'its size was not said'],
    ['8', 'more came than was said'],
    ['10', 'not all of it came'],
    ['9007199254740991', 'the disk is full'],
  ])('of nine bytes, said to be %s', async (length, why) => {
    const root = temporaryFolder();
    await expect(takeFile(DiskFolder.open(root), 'a.txt', request('123456789', length))).rejects.toMatchObject({
      code: 'folder-refused',
      failure: { details: { path: 'a.txt', why } },
    });
    expect(readdirSync(root)).toEqual([]);
  });

  it('one that just fits, and an empty one', async () => {
    const root = temporaryFolder();
    const folder = DiskFolder.open(root);
    vi.spyOn(folder, 'room').mockResolvedValue({ disk: 'a disk', left: 9 });
    await takeFile(folder, 'a.txt', request('123456789', '9'));
    await takeFile(
      folder,
      'empty',
      new Request('http://127.0.0.1/', { method: 'PUT', headers: { 'content-length': '0' } }),
    );
    expect([(await folder.stat('a.txt'))?.size, (await folder.stat('empty'))?.size]).toEqual([9, 0]);
    await expect(takeFile(folder, 'b.txt', request('1234567890', '10'))).rejects.toMatchObject({
      failure: { details: { why: 'the disk is full' } },
    });
  });
});

describe('lists that are sent line by line', () => {
  const linesOf = async (response: Response) =>
    (await response.text())
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { paths?: string[]; end?: true; looked?: number });

  it('of files, some hundreds in a line', async () => {
    const root = temporaryFolder();
    writeFiles(root, Object.fromEntries(Array.from({ length: FILES_A_LINE + 3 }, (_, i) => [`in/${i}`, 'x'])));
    const response = await listFiles(DiskFolder.open(root), '');
    expect(response.headers.get('content-type')).toBe('application/x-ndjson');
    expect(response.headers.get('cache-control')).toBe('no-store');
    expect((await linesOf(response)).map(({ paths, end }) => paths?.length ?? end)).toEqual([FILES_A_LINE, 3, true]);
    expect((await linesOf(await listFiles(DiskFolder.open(root), 'none'))).at(-1)).toMatchObject({ end: true });
  });

  it('of changes, with how far the look is in between', async () => {
    const folder = DiskFolder.open(temporaryFolder());
    const stop = new AbortController();
    const asked: unknown[] = [];
    vi.spyOn(folder, 'changes').mockImplementation(async (since, { anew, onLooked, signal } = {}) => {
      asked.push([since, anew, signal === stop.signal]);
      onLooked?.(3);
      await new Promise((done) => setTimeout(done, 5));
      onLooked?.(7);
      await new Promise((done) => setTimeout(done, 5));
      return { now: 'n', whole: true, folders: [], gone: [], links: [] };
    });
    const lines = await linesOf(await listChanges(folder, null, true, stop.signal));
    expect(lines).toEqual([
      { looked: 3 },
      { looked: 7 },
      { now: 'n', whole: true, gone: [], links: [] },
      [],
      { end: true },
    ]);
    await linesOf(await listChanges(folder, 'earlier', false, stop.signal));
    expect(asked).toEqual([
      [undefined, true, true],
      ['earlier', false, true],
    ]);
  });

  it('what is wrong from the beginning is said in words', async () => {
    const folder = DiskFolder.open(temporaryFolder());
    const gone = new SatchelError('folder-gone', { path: 'x' });
    vi.spyOn(folder, 'changes').mockRejectedValue(gone);
    await expect(listChanges(folder, null, false, new AbortController().signal)).rejects.toBe(gone);
    await expect(listFiles(folder, '../x')).rejects.toMatchObject({ code: 'folder-refused' });
  });
});
