import { describe, expect, it } from 'vitest';
import type { Folder, FolderChanges } from '@/core';
import { text } from '../../tests/support/bytes';
import { FOLDER_CONTRACT } from '../../tests/support/folderContract';
import { MemoryFolder } from './memoryFolder';
import { SubFolder, WithoutFolder } from './sub';

describe('a folder inside another one', () => {
  for (const { name, run } of FOLDER_CONTRACT)
    it(`keeps the contract: ${name}`, () => run(new SubFolder(new MemoryFolder(), 'user/data')));

  /** What a folder tells that knows of changes, and what it is asked. */
  const telling = (more: Partial<Folder>): Folder => Object.assign(new MemoryFolder({ 'in/a.txt': text('a') }), more);
  const file = (path: string) => ({ path, size: 1, modified: 1 });
  const changes: FolderChanges = {
    folders: [
      { path: 'in', files: [file('in/a.txt')] },
      { path: 'in/deep', files: [file('in/deep/b.txt')] },
      { path: 'inn', files: [file('inn/c.txt')] },
      { path: '', files: [file('d.txt')] },
    ],
    gone: ['in/old', 'other'],
    links: ['in/link', 'link'],
    since: 'now',
  } as unknown as FolderChanges;

  it('tells of changes as far as they lie in it, by the names that they have there', async () => {
    const inside = new SubFolder(telling({ changes: () => Promise.resolve(changes) }), 'in');
    expect(await inside.changes?.(undefined)).toEqual({
      folders: [
        { path: '', files: [file('a.txt')] },
        { path: 'deep', files: [file('deep/b.txt')] },
      ],
      gone: ['old'],
      links: ['link'],
      since: 'now',
    });
    const whole = new SubFolder(telling({ changes: () => Promise.resolve(changes) }), '');
    expect(await whole.changes?.(undefined)).toEqual(changes);
    const without = new WithoutFolder(telling({ changes: () => Promise.resolve(changes) }), ['in']);
    expect(await without.changes?.(undefined)).toEqual({
      folders: [
        { path: 'inn', files: [file('inn/c.txt')] },
        { path: '', files: [file('d.txt')] },
      ],
      gone: ['other'],
      links: ['link'],
      since: 'now',
    });
  });

  it('exchanges a file of the outer folder, and says what is there by its own name', async () => {
    const asked: unknown[] = [];
    const swap: Folder['swap'] = (path, put, gone) => {
      asked.push([path, put, gone]);
      return Promise.resolve(put ? file(path) : undefined);
    };
    const inside = new SubFolder(telling({ swap }), 'in');
    const put = text('b');
    expect(await inside.swap?.('a.txt', put, undefined)).toEqual(file('a.txt'));
    expect(await inside.swap?.('a.txt', undefined, undefined)).toBeUndefined();
    expect(asked).toEqual([
      ['in/a.txt', put, undefined],
      ['in/a.txt', undefined, undefined],
    ]);
  });

  it('can what the outer folder can, and no more', async () => {
    const plain = new SubFolder(new MemoryFolder({ 'in/a.txt': text('a') }), 'in');
    expect([plain.swap, plain.changes, plain.digests]).toEqual([undefined, undefined, undefined]);
    expect(await plain.room()).toBeUndefined();
    const room = { disk: 'here', left: 5 };
    const more = new SubFolder(
      telling({
        room: () => Promise.resolve(room),
        digests: (kind, paths) => Promise.resolve(paths.map((path) => `${kind} ${path}`)),
        stats: (paths) => Promise.resolve(paths.map((path) => (path === 'in/a.txt' ? file(path) : undefined))),
      }),
      'in',
    );
    expect(await more.room()).toEqual(room);
    expect(await more.digests?.('crc32', ['a.txt'])).toEqual(['crc32 in/a.txt']);
    expect(await more.stats?.(['a.txt', 'b.txt'])).toEqual([file('a.txt'), undefined]);
  });
});
