import { describe, expect, it } from 'vitest';
import type { Folder, FolderChanges } from '@/core';
import { text } from '../../tests/support/bytes';
import { FOLDER_CONTRACT } from '../../tests/support/folderContract';
import { MemoryFolder } from '../../tests/support/memoryFolder';
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

  it('asks the outer folder for everything by the name that it has there', async () => {
    const asked: unknown[] = [];
    const note =
      <T>(what: string, answer: T) =>
      (...values: unknown[]) => {
        asked.push([what, ...values]);
        return Promise.resolve(answer);
      };
    async function* pieces() {
      yield text('x');
    }
    const to = new MemoryFolder();
    const keep = () => Promise.reject(new Error('nothing is to be kept'));
    const bytes = text('x');
    const sums = pieces();
    const inside = new SubFolder(
      telling({
        readChunks: ((path: string) => {
          asked.push(['readChunks', path]);
          return pieces();
        }) as never,
        writeChunks: note('writeChunks', undefined),
        link: note('link', file('there')),
        endSwap: note('endSwap', undefined) as never,
        tidy: note('tidy', undefined),
        write: note('write', undefined),
        remove: note('remove', undefined),
        hasFolder: note('hasFolder', false),
        removeFolder: note('removeFolder', false),
        settle: note('settle', undefined),
        holds: note('holds', file('in/a')),
        statAndHash: note('statAndHash', { stat: file('in/a'), sha256: 's' }),
        writeAndReadBack: note('writeAndReadBack', file('in/a')),
        stat: note('stat', file('in/a')),
        readBytes: note('readBytes', bytes),
      }),
      'in',
    );
    const found: Uint8Array[] = [];
    for await (const piece of inside.readChunks?.('a') ?? []) found.push(piece);
    expect(found).toEqual([bytes]);
    await inside.writeChunks?.('a', sums);
    expect(await inside.link('a', to, 'b', true)).toEqual(file('there'));
    await inside.endSwap('a', keep);
    await inside.tidy('a');
    await inside.write('a', bytes);
    await inside.remove('a');
    expect([await inside.hasFolder('a'), await inside.removeFolder('a')]).toEqual([false, false]);
    await inside.settle();
    expect(await inside.holds('a', bytes)).toEqual(file('a'));
    expect(await inside.statAndHash('a')).toEqual({ stat: file('a'), sha256: 's' });
    expect(await inside.writeAndReadBack('a', bytes)).toEqual(file('a'));
    expect(await inside.stat('a')).toEqual(file('a'));
    expect(await inside.readBytes('a')).toEqual(bytes);
    expect(asked).toEqual([
      ['readChunks', 'in/a'],
      ['writeChunks', 'in/a', sums],
      ['link', 'in/a', to, 'b', true],
      ['endSwap', 'in/a', keep],
      ['tidy', 'in/a'],
      ['write', 'in/a', bytes],
      ['remove', 'in/a'],
      ['hasFolder', 'in/a'],
      ['removeFolder', 'in/a'],
      ['settle'],
      ['holds', 'in/a', bytes],
      ['statAndHash', 'in/a'],
      ['writeAndReadBack', 'in/a', bytes],
      ['stat', 'in/a'],
      ['readBytes', 'in/a'],
    ]);
  });

  it('over a folder that can do little, asks for none of the rest', async () => {
    const memory = new MemoryFolder({ 'in/a.txt': text('a') });
    const little: Folder = {
      stat: (path) => memory.stat(path),
      read: (path) => memory.read(path),
      write: (path, data) => memory.write(path, data),
      remove: (path) => memory.remove(path),
      list: (under) => memory.list(under),
    };
    const inside = new SubFolder(little, 'in');
    expect([inside.readChunks, inside.writeChunks, inside.stats, inside.swap]).toEqual(
      Array.from({ length: 4 }, () => undefined),
    );
    expect(await inside.link('a.txt', memory, 'b')).toBeUndefined();
    // Folders that nobody can ask about are there, and need not go.
    expect([await inside.hasFolder('none'), await inside.removeFolder('none'), await inside.room()]).toEqual([
      true,
      true,
      undefined,
    ]);
    await inside.endSwap('a.txt', () => Promise.reject(new Error('nothing is to be kept')));
    await inside.tidy('');
    await inside.settle();
    expect([
      await inside.stat('none'),
      await inside.holds('a.txt', text('b')),
      await inside.statAndHash('none'),
    ]).toEqual([undefined, undefined, undefined]);
    expect(await inside.writeAndReadBack('c.txt', text('c'))).toMatchObject({ path: 'c.txt', size: 1 });
    expect(await (await inside.read('c.txt')).text()).toBe('c');
  });

  it('lists what lies in it, and the links; without what is hidden, and what is only called alike', async () => {
    const files = ['in/a', 'in/deep/b', 'inn/c', 'd'];
    const outer = telling({
      list: async function* (under = '', onLink?: (path: string) => void) {
        for (const path of files) if (under === '' || path.startsWith(`${under}/`)) yield file(path);
        for (const path of ['in/link', 'out']) if (path.startsWith(under)) onLink?.(path);
      },
    });
    const listed = async (folder: Folder, under?: string) => {
      const found: string[] = [];
      for await (const { path } of folder.list(under, (link) => found.push(`-> ${link}`))) found.push(path);
      return found.sort();
    };
    expect(await listed(new SubFolder(outer, 'in'))).toEqual(['-> link', 'a', 'deep/b']);
    expect(await listed(new SubFolder(outer, 'in'), 'deep')).toEqual(['deep/b']);
    expect(await listed(new SubFolder(outer, ''))).toEqual(['-> in/link', '-> out', ...files].sort());
    expect(await listed(new WithoutFolder(outer, ['in']))).toEqual(['-> out', 'd', 'inn/c']);
    expect(await listed(new WithoutFolder(outer, ['inn', 'x']), 'in')).toEqual(['-> in/link', 'in/a', 'in/deep/b']);
  });

  it('law: files by name are told by their own names, be they there or not', async () => {
    const odd = telling({
      stats: () => Promise.resolve(undefined as never),
      changes: () => Promise.resolve(undefined as never),
    });
    expect(await new SubFolder(odd, 'in').stats?.(['a'])).toEqual([]);
    expect(await new SubFolder(odd, 'in').changes?.(undefined)).toBeUndefined();
    expect(
      await new SubFolder(telling({ digests: (() => undefined) as never }), 'in').digests?.('crc32', ['a']),
    ).toEqual([]);
  });
});
