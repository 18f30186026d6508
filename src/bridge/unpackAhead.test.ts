import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { type HereThread, threadsHere } from '../../tests/support/threadsHere';
import { WAIT } from '../../tests/support/system';
import { has, runTool, temporaryFolder, writeFiles } from '../../tests/support/tools';
import type * as Ahead from './unpackAhead';

vi.mock('node:worker_threads', async (real) =>
  (await import('../../tests/support/threadsHere')).asThreadsHere(await real()),
);

/** It is once for each thread that carries out a run. */
let ahead: typeof Ahead;
let runs = 0;
beforeEach(async () => {
  threadsHere.length = 0;
  const file = `./unpackAhead?run=${++runs}`;
  ahead = (await import(/* @vite-ignore */ file)) as typeof Ahead;
});

/** A ZIP of files, made by `zip`. */
function zipOf(files: Record<string, Uint8Array | string>, name = 'x.zip'): { at: string; top: string } {
  const top = temporaryFolder();
  mkdirSync(path.join(top, 'pack'));
  writeFiles(path.join(top, 'pack'), files);
  runTool('zip', ['-q', '-r', '-1', path.join('..', name), '.'], { cwd: path.join(top, 'pack') });
  return { at: path.join(top, name), top };
}

/** What `sha256sum` says of a file. */
const sumOf = (at: string): string => runTool('sha256sum', [at]).toString().slice(0, 64);
const told = (thread: HereThread | undefined, key: string) =>
  (thread?.told ?? []).flatMap((words) => (words as Record<string, unknown>)[key] ?? []);
const first = (): HereThread => threadsHere[0] as HereThread;

/** A file that the second thread hashes; it has not enough to do. */
const hashed = async (root: string, of: string) => {
  const found = ahead.hashOnHelper(root, of);
  expect(found).toBeDefined();
  return found;
};

describe('files that are hashed on the second thread', () => {
  const folder = () => {
    const top = temporaryFolder();
    writeFiles(top, { a: 'one', 'in/b': 'two' });
    return top;
  };

  it('none without one', () => {
    expect(ahead.hashOnHelper(folder(), 'a')).toBeUndefined();
    expect(threadsHere).toEqual([]);
  });

  it('each as sha256sum does it, in the order asked for', async () => {
    ahead.expectUnpacking();
    ahead.expectUnpacking();
    expect(threadsHere.map(({ name }) => name)).toEqual(['unpackThread.ts']);
    const [one, two] = [folder(), folder()];
    writeFileSync(path.join(two, 'a'), 'another');
    const places: [string, string][] = [
      [one, 'a'],
      [one, 'in/b'],
      [two, 'a'],
    ];
    const found = await Promise.all(places.map(([root, of]) => hashed(root, of)));
    expect(found.map((one) => one?.sha256)).toEqual(places.map(([root, of]) => sumOf(path.join(root, of))));
    expect(await ahead.hashOnHelper(one, 'no such')).toBeUndefined();
    await expect(ahead.hashOnHelper(one, '../a')).rejects.toMatchObject({ code: 'folder-refused' });
    await expect(ahead.hashOnHelper(path.join(one, 'gone'), 'a')).rejects.toMatchObject({
      code: 'folder-refused',
      failure: { details: { why: 'there is no such folder' } },
    });
  });

  it('it keeps the server from ending only while it hashes, and takes sixteen at a time', async () => {
    const top = folder();
    ahead.expectUnpacking();
    expect(first().isRef).toBe(false);
    const all = Array.from({ length: 17 }, () => ahead.hashOnHelper(top, 'a'));
    expect(all.map((one) => one !== undefined)).toEqual([...Array.from({ length: 16 }, () => true), false]);
    expect(first().isRef).toBe(true);
    for (const one of all) await one;
    expect(first().isRef).toBe(false);
    expect(ahead.hashOnHelper(top, 'a')).toBeDefined();
  });

  it.each([
    ['fails', 'error', new Error('out of memory')],
    ['ends', 'exit', 3],
  ])('where it %s, everybody who waits is told, and nobody asks it any more', async (_, event, cause) => {
    const top = folder();
    ahead.expectUnpacking();
    const both = [hashed(top, 'a'), hashed(top, 'in/b')].map((one) => one.catch((error: unknown) => error));
    first().emit(event, cause);
    first().emit('exit', 9);
    for (const one of both)
      expect(await one).toMatchObject({
        code: 'unexpected',
        failure: { details: { why: 'the part of the app that unpacks ended' } },
        cause,
      });
    expect(ahead.hashOnHelper(top, 'a')).toBeUndefined();
  });
});

describe.skipIf(!has('zip'))('an archive that is unpacked ahead', () => {
  const some = { 'a.txt': 'one', 'b.txt': 'two and two', 'in/c.bin': Buffer.alloc(300_000, 'three ') };
  type Pack = ReturnType<typeof Ahead.unpackAhead>;
  const readAll = async (pack: Pack, paths: readonly string[], signal?: AbortSignal) => {
    const found: Record<string, { data: Uint8Array; sha256: string | undefined }> = {};
    for await (const { path: of, data, sha256 } of pack.readMany(paths, { signal })) found[of] = { data, sha256 };
    return found;
  };

  it('gives the files that are asked for, with what sha256sum says of them, and its thread ends', async () => {
    const { at, top } = zipOf(some);
    const ended = vi.fn();
    const pack = ahead.unpackAhead(at, 'my x.zip');
    first().once('exit', ended);
    const found = await readAll(pack, ['in/c.bin', 'a.txt']);
    expect(Object.keys(found).sort()).toEqual(['a.txt', 'in/c.bin']);
    for (const [of, { data, sha256 }] of Object.entries(found)) {
      expect(Buffer.from(data).equals(readFileSync(path.join(top, 'pack', of)))).toBe(true);
      expect(sha256).toBe(sumOf(path.join(top, 'pack', of)));
    }
    expect(ended).toHaveBeenCalledTimes(1);
    // What was taken is said, so that no more than some megabytes wait.
    expect(told(first(), 'taken')).toEqual(expect.arrayContaining([3, 300_000]));
  });

  it('its list of contents is read before it is needed; only that of the first', async () => {
    const { at } = zipOf(some);
    ahead.unpackAhead(at, 'x.zip');
    ahead.unpackAhead(at, 'y.zip');
    expect(threadsHere).toHaveLength(1);
    expect(told(first(), 'expect')).toEqual([{ archive: at, name: 'x.zip' }]);
  });

  it('one of which nobody has heard can be expected, and is not asked about', async () => {
    ahead.expectUnpacking({ archive: '/no/such.zip', name: 'such.zip' });
    const top = temporaryFolder();
    writeFiles(top, { a: 'one' });
    expect((await ahead.hashOnHelper(top, 'a'))?.sha256).toBe(sumOf(path.join(top, 'a')));
  });

  it('a second reading has a thread of its own', async () => {
    const { at } = zipOf(some);
    const pack = ahead.unpackAhead(at, 'x.zip');
    await readAll(pack, ['a.txt']);
    expect(Object.keys(await readAll(pack, ['b.txt']))).toEqual(['b.txt']);
    expect(threadsHere).toHaveLength(2);
    expect(threadsHere[1]?.isRef).toBe(true);
  });

  it('single files are read here', async () => {
    const { at } = zipOf(some);
    const pack = ahead.unpackAhead(at, 'x.zip');
    const [data, pieces] = [await pack.read('b.txt'), [] as Uint8Array[]];
    for await (const piece of pack.chunks?.('in/c.bin') ?? []) pieces.push(piece);
    expect(Buffer.from(data).toString()).toBe('two and two');
    expect(Buffer.concat(pieces).equals(some['in/c.bin'])).toBe(true);
    expect(told(first(), 'read')).toEqual([]);
  });

  it('thousands of small files and some large ones come in whole', async () => {
    const files: Record<string, Uint8Array> = {};
    for (let i = 0; i < 150; i++) files[`small/${i}`] = Buffer.from(`number ${i}`);
    for (let i = 0; i < 5; i++) files[`large/${i}`] = Buffer.alloc(4_500_000, `large ${i} `);
    const { at } = zipOf(files);
    // What waits to be taken, while it is taken slowly.
    let most = 0;
    const pack = ahead.unpackAhead(at, 'x.zip');
    const sent: number[] = [];
    first().on('message', (words: { files?: { data: Uint8Array }[] }) => {
      if (words.files) sent.push(words.files.reduce((sum, { data }) => sum + data.length, 0));
    });
    let taken = 0;
    const found: string[] = [];
    for await (const { path: of, data, sha256 } of pack.readMany(Object.keys(files))) {
      await new Promise((done) => setTimeout(done, data.length > 1000 ? 20 : 0));
      most = Math.max(most, sent.reduce((sum, one) => sum + one, 0) - taken);
      taken += data.length;
      expect(sha256).toBe(
        createHash('sha256')
          .update(files[of] as Uint8Array)
          .digest('hex'),
      );
      found.push(of);
    }
    expect(found.sort()).toEqual(Object.keys(files).sort());
    // Eight megabytes may wait, and what is on its way besides.
    expect(most).toBeLessThan(18_000_000);
    expect(sent.length).toBeGreaterThan(8);
    expect(sent.length).toBeLessThan(40);
  });

  it('one that was changed since it was opened is opened anew', async () => {
    const { at } = zipOf({ 'a.txt': 'one' });
    const pack = ahead.unpackAhead(at, 'x.zip');
    await vi.waitFor(() => expect(told(first(), 'expect')).toHaveLength(1), WAIT);
    await new Promise((done) => setTimeout(done, 300));
    const other = zipOf({ 'a.txt': 'one more' });
    writeFileSync(at, readFileSync(other.at));
    utimesSync(at, new Date(0), new Date(0));
    const { 'a.txt': found } = await readAll(pack, ['a.txt']);
    expect(Buffer.from(found?.data ?? []).toString()).toBe('one more');
  });

  it('one that is damaged, missing, or lacks a file is refused with its code', async () => {
    const { at } = zipOf(some);
    await expect(readAll(ahead.unpackAhead(at, 'x.zip'), ['none'])).rejects.toMatchObject({
      code: 'unknown-thing',
    });
    const bytes = readFileSync(at);
    bytes.fill(7, 30, statSync(at).size - 400);
    writeFileSync(at, bytes);
    await expect(readAll(ahead.unpackAhead(at, 'my x.zip'), Object.keys(some))).rejects.toMatchObject({
      code: 'damaged',
      failure: { details: { name: 'my x.zip' } },
    });
  });

  it('where the thread ends meanwhile it is said', async () => {
    const { at } = zipOf(some);
    const reading = readAll(ahead.unpackAhead(at, 'x.zip'), ['a.txt']);
    first().emit('error', new Error('out of memory'));
    await expect(reading).rejects.toMatchObject({
      code: 'unexpected',
      failure: { details: { why: 'the part of the app that unpacks ended' } },
      cause: expect.objectContaining({ message: 'out of memory' }) as Error,
    });
  });

  it('where nobody waits for it any more, its thread ends', async () => {
    const { at } = zipOf(some);
    const ended = vi.fn();
    const pack = ahead.unpackAhead(at, 'x.zip');
    first().once('exit', ended);
    await expect(readAll(pack, ['a.txt'], AbortSignal.abort())).rejects.toMatchObject({ code: 'cancelled' });
    expect(ended).toHaveBeenCalledTimes(1);
  });
});
