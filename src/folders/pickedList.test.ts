import { describe, expect, it } from 'vitest';
import type { FileStat } from '@/core';
import { PickedFolder, type PickedHandle } from './picked';

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
