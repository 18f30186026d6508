import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import type { FileStat } from '@/core';
import { text } from '../../tests/support/bytes';
import { FakeDirectory, type FakeFile } from '../../tests/support/fakeHandles';
import { FOLDER_CONTRACT } from '../../tests/support/folderContract';
import { PickedFolder, isAllowed, type PickedHandle } from './picked';

const sha256 = (bytes: string): string => createHash('sha256').update(bytes).digest('hex');

describe('a picked folder, over handles as the standard has them', () => {
  const picked = (root = new FakeDirectory('game')) => new PickedFolder(root as unknown as PickedHandle);
  const now = async (folder: PickedFolder, path: string) =>
    (await folder.stat(path)) ? (await folder.read(path)).text() : undefined;

  for (const { name, run } of FOLDER_CONTRACT) it(`keeps the contract: ${name}`, () => run(picked()));

  it('is allowed where the browser says so, or has nothing to say', async () => {
    const answers = (state?: string) =>
      ({ ...(state ? { queryPermission: () => Promise.resolve(state) } : {}) }) as unknown as PickedHandle;
    expect(await Promise.all(['granted', 'prompt', 'denied', undefined].map((one) => isAllowed(answers(one))))).toEqual(
      [true, false, false, true],
    );
  });

  it('looks at a file before it writes, and once more when all is written', async () => {
    const folder = picked();
    await folder.write('a/b.txt', text('mine'));
    const gone = { size: 4, sha256: sha256('mine') };
    await expect(folder.swap('a/b.txt', text('new'), { size: 4, sha256: sha256('ours') })).rejects.toMatchObject({
      code: 'changed-meanwhile',
    });
    await expect(folder.swap('a/b.txt', text('new'), undefined)).rejects.toMatchObject({ code: 'changed-meanwhile' });
    await expect(folder.swap('a/c.txt', text('new'), gone)).rejects.toMatchObject({ code: 'changed-meanwhile' });
    // Another program writes while the pieces come.
    async function* pieces() {
      yield text('ne');
      await folder.write('a/b.txt', text('theirs'));
      yield text('w');
    }
    await expect(folder.swap('a/b.txt', pieces(), gone)).rejects.toMatchObject({ code: 'changed-meanwhile' });
    expect(await now(folder, 'a/b.txt')).toBe('theirs');
    expect((await folder.swap('a/b.txt', text('new!'), { size: 6, sha256: sha256('theirs') }))?.size).toBe(4);
    expect(await folder.swap('a/b.txt', undefined, { size: 4, sha256: sha256('new!') })).toBeUndefined();
    expect(await folder.stat('a/b.txt')).toBeUndefined();
    // Where there is to be none, the file that is made to be written to is no other version.
    expect((await folder.swap('a/d.txt', text('fresh'), undefined))?.size).toBe(5);
  });

  it('keeps the version that it holds where the write fails, and says why', async () => {
    const root = new FakeDirectory('game');
    const folder = picked(root);
    await folder.write('a.txt', text('mine'));
    async function* torn() {
      yield await Promise.resolve(text('half'));
      throw new DOMException('', 'NotAllowedError');
    }
    await expect(folder.writeChunks('a.txt', torn())).rejects.toMatchObject({ code: 'folder-permission' });
    expect(await now(folder, 'a.txt')).toBe('mine');
    await expect(folder.write('a.txt/b', text('x'))).rejects.toMatchObject({
      code: 'folder-refused',
      failure: { details: { why: 'a file and a folder have the same name' } },
    });
    await expect(folder.read('none.txt')).rejects.toMatchObject({ code: 'folder-missing-file' });
  });

  it('takes a folder away only where nothing is in it but what the browser itself left', async () => {
    const folder = picked();
    await folder.write('mods/a.txt', text('mine'));
    expect([await folder.hasFolder('mods'), await folder.hasFolder('none')]).toEqual([true, false]);
    expect(await folder.removeFolder('mods')).toBe(false);
    await folder.remove('mods/a.txt');
    await folder.write('mods/a.txt.crswap', text('left'));
    expect(await folder.removeFolder('mods')).toBe(true);
    expect([await folder.hasFolder('mods'), await folder.removeFolder('mods/deeper')]).toEqual([false, true]);
  });

  it('lists a folder inside it, and one that is not there as empty', async () => {
    const folder = picked();
    await folder.write('a/b/c.txt', text('mine'));
    await folder.write('d.txt', text('mine'));
    const under = async (at: string) => {
      const found: string[] = [];
      for await (const { path } of folder.list(at)) found.push(path);
      return found;
    };
    expect([await under('a'), await under('none'), await under('')]).toEqual([
      ['a/b/c.txt'],
      [],
      ['a/b/c.txt', 'd.txt'],
    ]);
  });

  it('asks for leave to write, not only to read', async () => {
    const asked: unknown[] = [];
    const queryPermission = (options: unknown) => {
      asked.push(options);
      return Promise.resolve('granted');
    };
    expect(await isAllowed({ queryPermission } as unknown as PickedHandle)).toBe(true);
    expect(asked).toEqual([{ mode: 'readwrite' }]);
  });

  it('tells what a file is, and nothing of what is none', async () => {
    const root = new FakeDirectory('game');
    const folder = picked(root);
    await folder.write('a/b.txt', text('mine'));
    expect(await folder.stat('a/b.txt')).toEqual({ path: 'a/b.txt', size: 4, modified: 1_005_000 });
    for (const of of ['a/c.txt', 'c/b.txt']) {
      expect(await folder.stat(of)).toBeUndefined();
      await expect(folder.read(of)).rejects.toMatchObject({
        code: 'folder-missing-file',
        failure: { details: { path: of } },
      });
      await folder.remove(of);
    }
    // Nothing is made by looking.
    expect([...root.children.keys()]).toEqual(['a']);
    await expect(folder.stat('a')).rejects.toMatchObject({ code: 'folder-refused' });
  });

  it('a version that may go is known by its date, or by its bytes', async () => {
    const folder = picked();
    await folder.write('a.txt', text('mine'));
    const { modified } = (await folder.stat('a.txt')) as FileStat;
    await folder.swap('a.txt', text('new'), { size: 4, sha256: 'unknown', modified });
    expect(await now(folder, 'a.txt')).toBe('new');
    await expect(folder.swap('a.txt', text('x'), { size: 3, sha256: 'unknown', modified: 1 })).rejects.toMatchObject({
      code: 'changed-meanwhile',
      failure: { details: { path: 'a.txt' } },
    });
    await expect(folder.swap('a.txt', text('x'), { size: 4, sha256: sha256('new') })).rejects.toMatchObject({
      code: 'changed-meanwhile',
    });
    await folder.swap('a.txt', text('last'), { size: 3, sha256: sha256('new'), modified: 1 });
    expect(await now(folder, 'a.txt')).toBe('last');
  });

  it('writes where there was nothing, unless something came meanwhile', async () => {
    const folder = picked();
    expect(await folder.swap('in/a.txt', text('new'), undefined)).toMatchObject({ path: 'in/a.txt', size: 3 });
    async function* pieces(meanwhile: string) {
      yield text('ne');
      await folder.write('in/b.txt', text(meanwhile));
      yield text('w');
    }
    await expect(folder.swap('in/b.txt', pieces('theirs'), undefined)).rejects.toMatchObject({
      code: 'changed-meanwhile',
    });
    expect(await now(folder, 'in/b.txt')).toBe('theirs');
    expect(await folder.swap('in/c.txt', pieces('x'), undefined)).toMatchObject({ path: 'in/c.txt', size: 3 });
    expect(await now(folder, 'in/c.txt')).toBe('new');
    await expect(folder.swap('in/none', undefined, { size: 1, sha256: 'x' })).rejects.toMatchObject({
      code: 'changed-meanwhile',
    });
    expect(await folder.swap('in/none', undefined, undefined)).toBeUndefined();
  });

  it('one that comes back while it is taken away has changed', async () => {
    const root = new FakeDirectory('game');
    const folder = picked(root);
    await folder.write('a.txt', text('mine'));
    const { removeEntry } = root;
    root.removeEntry = async (name) => {
      await removeEntry.call(root, name);
      await folder.write('a.txt', text('back'));
    };
    await expect(folder.swap('a.txt', undefined, { size: 4, sha256: sha256('mine') })).rejects.toMatchObject({
      code: 'changed-meanwhile',
      failure: { details: { path: 'a.txt' } },
    });
    expect(await now(folder, 'a.txt')).toBe('back');
  });

  it('a write that fails is given up with the browser, and said in its own words', async () => {
    const root = new FakeDirectory('game');
    const folder = picked(root);
    await folder.write('a.txt', text('mine'));
    const file = root.children.get('a.txt') as FakeFile;
    const ended: string[] = [];
    const stream = (error?: Error) => () =>
      Promise.resolve({
        write: () => (error ? Promise.reject(error) : Promise.resolve()),
        close: async () => void ended.push('closed'),
        abort: () => {
          ended.push('given up');
          return Promise.reject(new Error('too late'));
        },
      });
    file.createWritable = stream(new DOMException('no room', 'QuotaExceededError'));
    const cause = expect.any(DOMException) as DOMException;
    await expect(folder.write('a.txt', text('new'))).rejects.toMatchObject({
      code: 'folder-refused',
      failure: { details: { path: 'a.txt', why: 'no room' } },
      cause,
    });
    expect(ended).toEqual(['given up']);
    file.createWritable = stream(new DOMException('no', 'NotAllowedError'));
    await expect(folder.write('a.txt', text('new'))).rejects.toMatchObject({
      code: 'folder-permission',
      failure: { details: { name: 'game' } },
    });
    file.createWritable = stream();
    await folder.write('a.txt', text('new'));
    expect(ended).toEqual(['given up', 'given up', 'closed']);
  });

  it('large files come in pieces, and what goes wrong with them is said', async () => {
    const root = new FakeDirectory('game');
    const folder = picked(root);
    const all = new Uint8Array(9_000_000).fill(7);
    await folder.write('large', all);
    const sizes: number[] = [];
    for await (const piece of folder.readChunks('large')) sizes.push(piece.length);
    expect([sizes.length > 1, sizes.reduce((sum, one) => sum + one, 0)]).toEqual([true, all.length]);
    for await (const piece of folder.readChunks('large')) {
      expect(piece[0]).toBe(7);
      break;
    }
    const file = root.children.get('large') as FakeFile;
    const torn = () => {
      throw new DOMException('it was changed', 'NotReadableError');
    };
    file.getFile = () =>
      Promise.resolve(
        Object.assign(new File([all], 'large'), {
          slice: () => ({ arrayBuffer: torn, size: 1 }),
          stream: torn,
          arrayBuffer: torn,
        }),
      );
    await expect(folder.readChunks('large').next()).rejects.toMatchObject({ code: 'folder-refused' });
  });

  it('a folder that is gone is named, and one inside it is not there', async () => {
    const root = new FakeDirectory('game');
    const folder = picked(root);
    await folder.write('in/a.txt', text('mine'));
    const inside = root.children.get('in') as FakeDirectory;
    inside.entries = () => ({ next: () => Promise.reject(new DOMException('', 'NotFoundError')) }) as never;
    expect(await folder.list('in').next()).toMatchObject({ done: true });
    root.entries = () => ({ next: () => Promise.reject(new DOMException('', 'NotFoundError')) }) as never;
    await expect(folder.list().next()).rejects.toMatchObject({
      code: 'folder-gone',
      failure: { details: { path: 'game' } },
    });
  });

  it('takes away what the browser itself left, and no folder called so', async () => {
    const root = new FakeDirectory('game');
    const folder = picked(root);
    for (const of of ['mods/a.crswap', 'mods/b.crswap.txt', 'deep/c.crswap/d']) await folder.write(of, text('x'));
    expect([await folder.removeFolder('mods'), await folder.removeFolder('deep')]).toEqual([false, false]);
    expect([...(root.children.get('mods') as FakeDirectory).children.keys()]).toEqual(['b.crswap.txt']);
    expect([...(root.children.get('deep') as FakeDirectory).children.keys()]).toEqual(['c.crswap']);
    root.removeEntry = () => Promise.reject(new DOMException('no', 'NotAllowedError'));
    await folder.write('mods2/x', text('x'));
    await expect(folder.removeFolder('mods2')).rejects.toMatchObject({ code: 'folder-permission' });
  });
});
