import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import type { FileStat } from '@/core';
import { text } from '../../tests/support/bytes';
import { FakeDirectory } from '../../tests/support/fakeHandles';
import { FOLDER_CONTRACT } from '../../tests/support/folderContract';
import { PickedFolder, isAllowed, type PickedHandle } from './picked';

const sha256 = (bytes: string): string => createHash('sha256').update(bytes).digest('hex');

/**
 * A handle as the File System Standard has them (https://fs.spec.whatwg.org), as far as a listing asks: errors are
 * those that it names for an entry that is gone and for permission taken back. The whole adapter is tried on a
 * browser's real handles in e2e/folders.spec.ts.
 */
function handleOf(files: readonly string[], getFile: (name: string) => Promise<File>): PickedHandle {
  async function* entries() {
    for (const name of files) yield [name, { kind: 'file', name, getFile: () => getFile(name) }];
  }
  return { kind: 'directory', name: 'game', entries } as unknown as PickedHandle;
}
const asked = (name: string): File => Object.assign(new Blob([name]), { name, lastModified: 7 }) as unknown as File;

async function listed(handle: PickedHandle): Promise<FileStat[]> {
  const found: FileStat[] = [];
  for await (const stat of new PickedFolder(handle).list()) found.push(stat);
  return found;
}

describe('listing a picked folder', () => {
  const names = Array.from({ length: 100 }, (_, i) => `file ${String(i).padStart(3, '0')}`);

  it('asks about many files at a time, and gives them in the order of the folder', async () => {
    let now = 0;
    let most = 0;
    const files = await listed(
      handleOf(names, async (name) => {
        most = Math.max(most, ++now);
        await new Promise((go) => setTimeout(go, Math.random() * 3));
        now--;
        return asked(name);
      }),
    );
    expect(files).toEqual(names.map((path) => ({ path, size: 8, modified: 7 })));
    expect(most).toBeGreaterThan(8);
    expect(most).toBeLessThan(names.length);
  });

  it('leaves out what goes meanwhile', async () => {
    const files = await listed(
      handleOf(names, async (name) =>
        name.endsWith('5') ? Promise.reject(new DOMException('', 'NotFoundError')) : asked(name),
      ),
    );
    expect(files.map(({ path }) => path)).toEqual(names.filter((name) => !name.endsWith('5')));
  });

  it('leaves out a folder that goes meanwhile, but says so where all of it is gone', async () => {
    const gone = { entries: () => ({ next: () => Promise.reject(new DOMException('', 'NotFoundError')) }) };
    async function* entries() {
      yield ['gone', { kind: 'directory', name: 'gone', ...gone }];
      yield ['here', { kind: 'file', name: 'here', getFile: async () => asked('here') }];
    }
    expect((await listed({ name: 'game', entries } as unknown as PickedHandle)).map(({ path }) => path)).toEqual([
      'here',
    ]);
    await expect(listed({ name: 'game', ...gone } as unknown as PickedHandle)).rejects.toMatchObject({
      code: 'folder-gone',
    });
  });

  it('says that the permission is gone', async () => {
    await expect(
      listed(
        handleOf(names, async (name) =>
          name === names[70] ? Promise.reject(new DOMException('', 'NotAllowedError')) : asked(name),
        ),
      ),
    ).rejects.toMatchObject({ code: 'folder-permission' });
  });
});

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
});
