import { closeSync, existsSync, mkdirSync, readFileSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs';
import type * as Fs from 'node:fs';
import path from 'node:path';
import { describe, expect, it, vi } from 'vitest';
import { blockingReader } from '@/core/bytes';
import { has, runTool, temporaryFolder } from '../../tests/support/tools';
import { FileSink, diskBlob, diskFiles, openForReading } from './diskBlob';
import { PART } from './diskCalls';
import { TAKEN } from './diskNames';

/** How often the disk was asked to take what was written. */
const { asked } = vi.hoisted(() => ({ asked: { times: 0, most: Infinity } }));
vi.mock('node:fs', async (real) => {
  const fs = await real<typeof Fs>();
  return {
    ...fs,
    fdatasync: (fd: number, done: () => void) => {
      asked.times++;
      fs.fdatasync(fd, done);
    },
    // A disk may take less than it is given (write(2), “may be less than count”).
    writeSync: (fd: number, piece: Uint8Array, at: number) =>
      fs.writeSync(fd, piece, at, Math.min(asked.most, piece.length - at)),
  };
});

const text = async (blob: Blob, start = 0, end = blob.size) => blob.slice(start, end).text();

describe('files on the disk as one blob', () => {
  const three = () => {
    const top = temporaryFolder();
    const files = ['first ', '', 'the second', 'third'].map((words, i) => {
      writeFileSync(path.join(top, String(i)), words);
      return openForReading(path.join(top, String(i)));
    });
    return { top, files, blob: diskBlob(files) };
  };
  const all = 'first the secondthird';

  it('is read across them, wherever a piece begins and ends', async () => {
    const { blob } = three();
    expect(blob.size).toBe(all.length);
    for (let start = 0; start <= all.length; start++)
      for (let end = start; end <= all.length; end++) expect(await text(blob, start, end)).toBe(all.slice(start, end));
  });

  it('is read without waiting, too', () => {
    const { blob } = three();
    const read = blockingReader(blob);
    const into = new Uint8Array(12);
    expect(read?.(4, into)).toBe(12);
    expect(Buffer.from(into).toString()).toBe(all.slice(4, 16));
  });

  it('knows what it is made of; another blob is made of no files', () => {
    const { files, blob } = three();
    expect(diskFiles(blob)).toEqual(files);
    expect(diskFiles(new Blob(['x']))).toEqual([]);
  });

  it('a file that became shorter meanwhile is said, and not filled up', async () => {
    const { top, blob } = three();
    writeFileSync(path.join(top, '2'), 'the');
    await expect(text(blob)).rejects.toMatchObject({
      code: 'unexpected',
      failure: { details: { why: 'a file became shorter while it was read' } },
    });
  });

  it('only plain files are opened: no link, no folder, no pipe', () => {
    const top = temporaryFolder();
    writeFileSync(path.join(top, 'file'), 'x');
    symlinkSync('file', path.join(top, 'link'));
    mkdirSync(path.join(top, 'folder'));
    expect(() => openForReading(path.join(top, 'link'))).toThrow('ELOOP');
    expect(() => openForReading(path.join(top, 'folder'))).toThrow(/“folder” \(it is no file\)/);
    if (has('mkfifo')) {
      runTool('mkfifo', [path.join(top, 'pipe')]);
      expect(() => openForReading(path.join(top, 'pipe'))).toThrow('it is no file');
    }
    const { fd, size } = openForReading(path.join(top, 'file'));
    expect(size).toBe(1);
    closeSync(fd);
  });
});

describe('a blob that is written to a file', () => {
  it('holds what came, also where the disk takes little at a time, and is gone when it is removed', async () => {
    const folder = temporaryFolder();
    asked.most = 3;
    try {
      const sink = new FileSink(folder);
      expect(path.basename(sink.at)).toMatch(PART);
      for (const piece of ['one and ', '', 'two and three']) sink.add(Buffer.from(piece));
      expect(await text(sink.end())).toBe('one and two and three');
      sink.settle();
      expect(readFileSync(sink.at, 'utf8')).toBe('one and two and three');
      sink.remove();
      expect([existsSync(sink.at), readdirSync(folder)]).toEqual([false, []]);
    } finally {
      asked.most = Infinity;
    }
  });

  it('the disk is asked to take each 128 MB while more comes', () => {
    const sink = new FileSink(temporaryFolder());
    const piece = new Uint8Array(TAKEN / 4);
    const times = Array.from({ length: 8 }, () => {
      sink.add(piece);
      return asked.times;
    });
    sink.remove();
    expect(times).toEqual([0, 0, 0, 1, 1, 1, 1, 2]);
  });
});
