import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it, vi } from 'vitest';
import type { UnpackJob, Unpacker } from '@/core';
import { threadsHere } from '../../tests/support/threadsHere';
import { has, runTool, temporaryFolder, writeFiles } from '../../tests/support/tools';
import { diskBlob, openForReading } from './diskBlob';
import { diskUnpacker } from './library';
import type { LibraryRun } from './libraryThread';

vi.mock('node:worker_threads', async (real) =>
  (await import('../../tests/support/threadsHere')).asThreadsHere(await real()),
);

const FILES = { 'one.txt': 'the first\n', 'in/two.bin': Buffer.alloc(70_000, 'two ') };

/** A 7z archive of two files, as the library is told of it. */
function archive(...more: string[]): UnpackJob {
  const top = temporaryFolder();
  mkdirSync(path.join(top, 'pack'));
  writeFiles(path.join(top, 'pack'), FILES);
  runTool('7z', ['a', '-bso0', ...more, '../x.7z', '.'], { cwd: path.join(top, 'pack') });
  return { parts: [{ name: 'x.7z', data: diskBlob([openForReading(path.join(top, 'x.7z'))]) }], type: '7z' };
}

/** What comes out of it. */
async function unpacked(job: UnpackJob, what: Parameters<Unpacker['unpack']>[1], wait?: () => Promise<void>) {
  const pieces: Uint8Array[] = [];
  const outcome = await diskUnpacker.unpack(job, what, async (bytes) => {
    await wait?.();
    pieces.push(bytes);
  });
  return { ...outcome, bytes: Buffer.concat(pieces).toString('latin1') };
}

describe.skipIf(!has('7z'))('the archive library over files on the disk', () => {
  const all = FILES['in/two.bin'].toString('latin1') + FILES['one.txt'];

  it('lists what is in an archive', async () => {
    const { code, lines } = await diskUnpacker.list(archive());
    expect(code).toBe(0);
    expect(lines.filter((line) => /^Path = /.test(line)).slice(-3)).toEqual(
      expect.arrayContaining(['Path = one.txt', 'Path = in/two.bin']),
    );
  });

  it('unpacks all of it, the files that are wanted, and no more than it may', async () => {
    const job = archive();
    const limit = 1_000_000;
    const whole = await unpacked(job, { limit });
    expect([...whole.bytes].sort().join('')).toBe([...all].sort().join(''));
    expect(whole.code).toBe(0);
    expect((await unpacked(job, { wanted: ['one.txt'], limit })).bytes).toBe(FILES['one.txt']);
    expect(await unpacked(job, { limit: 1000 })).toMatchObject({ tooMuch: true });
  });

  it('takes a password, and says when it is missing', async () => {
    const job = archive('-psesame');
    expect((await unpacked({ ...job, password: 'sesame' }, { limit: 1_000_000 })).code).toBe(0);
    expect((await unpacked(job, { limit: 1_000_000 })).code).not.toBe(0);
    const run = threadsHere.at(-1)?.told[0] as LibraryRun;
    expect(Object.keys(run)).not.toContain('password');
  });

  it('what was sent is given back as it is taken, one piece after the other', async () => {
    const job = archive();
    let [busy, most] = [0, 0];
    const whole = await unpacked(job, { limit: 1_000_000 }, async () => {
      most = Math.max(most, ++busy);
      await new Promise((done) => setTimeout(done, 1));
      busy--;
    });
    expect(whole.bytes).toHaveLength(all.length);
    expect(most).toBe(1);
    const run = threadsHere.at(-1)?.told[0] as LibraryRun;
    expect(new Int32Array(run.waiting)[0]).toBe(0);
  });

  it('fails as the taking of its bytes fails', async () => {
    const failing = diskUnpacker.unpack(archive(), { limit: 1_000_000 }, () => {
      throw new Error('the disk is full');
    });
    await expect(failing).rejects.toThrow('the disk is full');
  });

  it('passes on what the library throws, with its code', async () => {
    const job = archive();
    const [part] = job.parts;
    const noArchive = diskUnpacker.list({ ...job, parts: [{ name: '', data: part?.data ?? new Blob() }] });
    await expect(noArchive).rejects.toMatchObject({ code: 'unexpected' });
  });

  it.each([
    ['fails', 'error', new Error('out of memory')],
    ['ends', 'exit', 3],
  ])('a thread that %s is said', async (_, event, cause) => {
    const listing = diskUnpacker.list(archive());
    threadsHere.at(-1)?.emit(event, cause);
    await expect(listing).rejects.toMatchObject({
      code: 'unexpected',
      failure: { details: { why: 'the archive library stopped' } },
      cause,
    });
  });

  it('ends where nobody waits for it, before or while it runs, and listens to nobody afterwards', async () => {
    await expect(diskUnpacker.list(archive(), AbortSignal.abort())).rejects.toMatchObject({ code: 'cancelled' });
    const stop = new AbortController();
    const [add, remove] = [vi.spyOn(stop.signal, 'addEventListener'), vi.spyOn(stop.signal, 'removeEventListener')];
    const listing = diskUnpacker.list(archive(), stop.signal);
    stop.abort();
    await expect(listing).rejects.toMatchObject({ code: 'cancelled' });
    expect(add).toHaveBeenCalledTimes(1);
    expect(remove.mock.calls).toEqual(add.mock.calls);
  });
});
