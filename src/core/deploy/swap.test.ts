import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import type { Folder, Gone } from '../folder';
import { text } from '../../../tests/support/bytes';
import { goneOf, swapFile } from './swap';

/** A folder that cannot move files aside, as a picked one of the browser. */
const plain = (folder: MemoryFolder, more: Partial<Folder> = {}): Folder => ({
  stat: (path) => folder.stat(path),
  read: (path) => folder.read(path),
  write: (path, data) => folder.write(path, data),
  remove: (path) => folder.remove(path),
  list: (under) => folder.list(under),
  ...more,
});

const now = async (folder: Folder, path: string): Promise<string | undefined> =>
  (await folder.stat(path)) ? (await folder.read(path)).text() : undefined;

const sha256 = (bytes: string): string => createHash('sha256').update(bytes).digest('hex');

/** What is known of a version by its bytes alone. */
const versionOf = (bytes: string): Gone => ({ size: bytes.length, sha256: sha256(bytes) });

const isRefused = (work: Promise<unknown>) => expect(work).rejects.toMatchObject({ code: 'changed-meanwhile' });

describe('one file for another, in a folder that cannot move files aside', () => {
  it('takes away the version that may go, and no other', async () => {
    const folder = plain(new MemoryFolder({ 'a.txt': text('mine') }));
    await isRefused(swapFile(folder, 'a.txt', undefined, versionOf('ours')));
    await isRefused(swapFile(folder, 'a.txt', undefined, versionOf('longer')));
    await isRefused(swapFile(folder, 'a.txt', undefined, undefined));
    expect(await now(folder, 'a.txt')).toBe('mine');
    expect(await swapFile(folder, 'a.txt', undefined, versionOf('mine'))).toBeUndefined();
    expect(await now(folder, 'a.txt')).toBeUndefined();
  });

  it('writes nothing over a file that nobody knew of, nor where the known one is gone', async () => {
    const folder = plain(new MemoryFolder({ 'a.txt': text('mine') }));
    await isRefused(swapFile(folder, 'a.txt', { bytes: text('new!') }, undefined));
    expect(await now(folder, 'a.txt')).toBe('mine');
    const put = swapFile(folder, 'b.txt', { bytes: text('new!') }, versionOf('mine'));
    await isRefused(put);
    expect(await now(folder, 'b.txt')).toBeUndefined();
  });

  it('takes a second try after one that got further than it seemed', async () => {
    const folder = plain(new MemoryFolder({ 'a.txt': text('new!') }));
    const landed = await swapFile(folder, 'a.txt', { bytes: text('new!') }, versionOf('mine'));
    expect(landed?.stat.size).toBe(4);
  });

  it('writes bytes and pieces, and reads them back', async () => {
    const memory = new MemoryFolder({ 'a.txt': text('mine') });
    const folder = plain(memory, {
      writeChunks: async (path, all) => {
        const parts: Uint8Array<ArrayBuffer>[] = [];
        for await (const part of all) parts.push(Uint8Array.from(part));
        await memory.write(path, new Blob(parts));
      },
    });
    expect((await swapFile(folder, 'a.txt', { bytes: text('second') }, versionOf('mine')))?.stat.size).toBe(6);
    const pieces = async function* () {
      await Promise.resolve();
      yield text('thi');
      yield text('rd');
    };
    const landed = await swapFile(folder, 'a.txt', { pieces }, versionOf('second'));
    expect([landed?.hash, await now(folder, 'a.txt')]).toEqual([sha256('third'), 'third']);
  });

  it('says so where a file does not go, and where what was written does not read back', async () => {
    const kept = new MemoryFolder({ 'a.txt': text('mine') });
    const stays = plain(kept, { remove: () => Promise.resolve() });
    await expect(swapFile(stays, 'a.txt', undefined, versionOf('mine'))).rejects.toMatchObject({
      code: 'not-landed',
      failure: { details: { path: 'a.txt' } },
    });
    const torn = plain(kept, { write: (path, data) => kept.write(path, (data as Uint8Array<ArrayBuffer>).slice(1)) });
    expect(await swapFile(torn, 'a.txt', { bytes: text('new!') }, versionOf('mine'))).toBeUndefined();
  });
});

describe('what has to be known of a file before it may go', () => {
  const stat = { path: 'a', size: 4, modified: 10_000, version: 'v1' };
  it('counts its date only where a later version must bear another one', () => {
    expect(goneOf(stat, 'h', 12_001)).toEqual({ size: 4, sha256: 'h', modified: 10_000, version: 'v1' });
    expect(goneOf(stat, 'h', 12_000)).toEqual({ size: 4, sha256: 'h' });
    expect(goneOf({ ...stat, version: undefined }, 'h', 20_000)).toEqual({
      size: 4,
      sha256: 'h',
      modified: 10_000,
    });
  });
});
