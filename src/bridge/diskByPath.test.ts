import { mkdirSync, readFileSync, readdirSync, renameSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { text as bytes } from '../../tests/support/bytes';
import { fresh, listed, top } from '../../tests/support/diskFolder';
import { FOLDER_CONTRACT } from '../../tests/support/folderContract';
import type * as Calls from './diskCalls';

/** Where folders cannot be held open, as on other systems than Linux: their real paths are compared. */
vi.mock('./diskCalls', async (real) => ({ ...(await real<typeof Calls>()), HELD: false }));
afterAll(() => rmSync(top, { recursive: true, force: true }));

describe('a folder on the disk, by its path, keeps the contract', () => {
  for (const { name, run } of FOLDER_CONTRACT) it(name, () => run(fresh().folder));
});

describe('nothing outside is read or written by the path of a folder', () => {
  const refusedFor = (why: string) => ({ code: 'folder-refused', failure: { details: { why } } });
  const LEADS_OUT = 'it is a link that leads out of the folder';

  it('through a link to a file or a folder outside', async () => {
    const { folder, outside, root } = fresh();
    symlinkSync(path.join(outside, 'secret.txt'), path.join(root, 'file'));
    symlinkSync(outside, path.join(root, 'folder'));
    symlinkSync('circle', path.join(root, 'circle'));
    expect(await listed(folder)).toEqual([]);
    for (const of of ['file', 'folder/secret.txt'])
      for (const attempt of [() => folder.read(of), () => folder.write(of, bytes('x')), () => folder.stat(of)])
        await expect(attempt(), of).rejects.toMatchObject(refusedFor(LEADS_OUT));
    for (const of of ['folder/new/x', 'folder/x'])
      await expect(folder.write(of, bytes('x')), of).rejects.toMatchObject(refusedFor(LEADS_OUT));
    await expect(folder.read('circle')).rejects.toMatchObject({ code: 'folder-refused' });
    expect(readdirSync(outside)).toEqual(['secret.txt']);
    expect(readFileSync(path.join(outside, 'secret.txt'), 'utf8')).toBe('secret');
  });

  it('where a link has taken the place of the folder while it was written', async () => {
    const { folder, outside, root } = fresh();
    mkdirSync(path.join(root, 'maps'));
    const writing = folder.writeFrom('maps/secret.txt', async (handle) => {
      await handle.writeFile('mine');
      renameSync(path.join(root, 'maps'), path.join(root, 'moved'));
      symlinkSync(outside, path.join(root, 'maps'));
    });
    await expect(writing).rejects.toMatchObject(refusedFor(LEADS_OUT));
    expect(readFileSync(path.join(outside, 'secret.txt'), 'utf8')).toBe('secret');
  });

  it('links that stay inside are followed; a file is no folder', async () => {
    const { folder, root } = fresh();
    mkdirSync(path.join(root, 'real'));
    writeFileSync(path.join(root, 'real/a'), 'one');
    symlinkSync('real', path.join(root, 'other'));
    symlinkSync('real/a', path.join(root, 'alias'));
    await folder.write('other/new/b', bytes('two'));
    await folder.write('alias', bytes('three'));
    expect(await listed(folder)).toEqual(['alias', 'real/a', 'real/new/b']);
    expect(readFileSync(path.join(root, 'real/a'), 'utf8')).toBe('three');
    await expect(folder.write('real/a/c', bytes('x'))).rejects.toMatchObject(refusedFor('“real/a” is a file'));
    await expect(folder.write('real/a/b/c', bytes('x'))).rejects.toMatchObject({ code: 'folder-refused' });
    expect(await folder.stat('real/a/b')).toBeUndefined();
    expect(await folder.stat('none/b')).toBeUndefined();
  });
});
