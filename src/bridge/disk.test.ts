import { spawnSync } from 'node:child_process';
import {
  chmodSync,
  existsSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { isMainThread } from 'node:worker_threads';
import { afterAll, describe, expect, it } from 'vitest';
import type { Folder } from '@/core';
import { FOLDER_CONTRACT } from '../../tests/support/folderContract';
import { SubFolder, WithoutFolder } from '@/folders/sub';
import { DiskFolder } from './disk';
import { text as bytes } from '../../tests/support/bytes';
import { top, fresh, listed } from '../../tests/support/diskFolder';

afterAll(() => rmSync(top, { recursive: true, force: true }));

describe('a folder on the disk keeps the contract', () => {
  for (const { name, run } of FOLDER_CONTRACT) it(name, () => run(fresh().folder));
});

describe('folders inside one keep the contract', () => {
  for (const { name, run } of FOLDER_CONTRACT) it(name, () => run(new SubFolder(fresh().folder, 'user/data')));
  for (const { name, run } of FOLDER_CONTRACT)
    it(`without what another root holds: ${name}`, () => run(new WithoutFolder(fresh().folder, ['user/data'])));

  it('one tells what has changed in it, the other what has changed beside it', async () => {
    const { root, folder } = fresh();
    const [inner, outer] = [new SubFolder(folder, 'user/data'), new WithoutFolder(folder, ['user/data'])];
    mkdirSync(path.join(root, 'user/data/deep'), { recursive: true });
    mkdirSync(path.join(root, 'user/database'));
    for (const name of ['user/data/deep/a', 'user/data/b', 'user/database/c', 'user/d'])
      writeFileSync(path.join(root, name), 'x');
    symlinkSync('/nowhere', path.join(root, 'user/data/deep/away'));
    const told = async (of: Folder, since?: string) => {
      const changes = await of.changes?.(since);
      return {
        now: changes?.now,
        says: [
          ...(changes?.folders.flatMap(({ files }) => files.map((file) => file.path)) ?? []).sort(),
          ...(changes?.links ?? []).map((link) => `link ${link}`),
          ...(changes?.gone ?? []).map((one) => `gone ${one}`),
        ],
      };
    };
    const [mine, beside] = [await told(inner), await told(outer)];
    expect(mine.says).toEqual(['b', 'deep/a', 'link deep/away']);
    expect(beside.says).toEqual(['user/d', 'user/database/c']);
    rmSync(path.join(root, 'user/data/deep'), { recursive: true });
    writeFileSync(path.join(root, 'user/e'), 'x');
    expect((await told(inner, mine.now)).says).toEqual(['gone deep']);
    expect((await told(outer, beside.now)).says).toEqual(['user/d', 'user/e']);
    expect(await inner.stats?.(['b', 'none'])).toMatchObject([{ path: 'b', size: 1 }, undefined]);
  });
});

/** May this process take on a user without rights, where it runs as one with all? */
const CAN_BE_ANOTHER = isMainThread && (process.getuid?.() !== 0 || process.seteuid !== undefined);

describe('a folder inside that may not be looked into', () => {
  it.skipIf(process.platform === 'win32' || !CAN_BE_ANOTHER)('does not keep the others from being listed', async () => {
    const { root, folder } = fresh();
    for (const name of ['closed', 'open', 'no search']) {
      mkdirSync(path.join(root, name));
      writeFileSync(path.join(root, name, 'file'), 'x');
    }
    chmodSync(top, 0o755);
    chmodSync(path.join(root, 'closed'), 0o000);
    chmodSync(path.join(root, 'no search'), 0o444);
    symlinkSync('closed/file', path.join(root, 'link'));
    const isRoot = process.getuid?.() === 0;
    // 65534 is nobody (Debian policy, 9.2.2).
    if (isRoot) process.seteuid?.(65534);
    try {
      expect(() => readdirSync(path.join(root, 'closed'))).toThrow('EACCES');
      const changed = async (of: DiskFolder) =>
        (await of.changes(undefined)).folders.flatMap(({ files }) => files.map((file) => file.path));
      expect([await listed(folder), await changed(folder)]).toEqual([['open/file'], ['open/file']]);
      // In a folder of the app's own nothing may be missed, nor the folder itself.
      const own = DiskFolder.open(root, true);
      for (const look of [listed, changed]) await expect(look(own)).rejects.toThrow('EACCES');
      for (const look of [listed, changed])
        await expect(look(DiskFolder.open(path.join(root, 'no search')))).rejects.toThrow('EACCES');
    } finally {
      if (isRoot) process.seteuid?.(0);
      for (const name of ['closed', 'no search']) chmodSync(path.join(root, name), 0o755);
    }
  });
});

it('does not take a folder that is gone, as on a disk taken away, for an empty one', async () => {
  const { root, folder } = fresh();
  await folder.write('a/file', bytes('x'));
  renameSync(root, `${root} elsewhere`);
  await new Promise((go) => setTimeout(go, 400));
  await expect(listed(folder)).rejects.toMatchObject({ code: 'folder-gone' });
});

describe('links that stay inside', () => {
  it('are followed, and a folder is not listed twice', async () => {
    const { folder, root } = fresh();
    mkdirSync(path.join(root, 'real'));
    writeFileSync(path.join(root, 'real', 'a'), 'one');
    symlinkSync('real', path.join(root, 'other'));
    symlinkSync('real/a', path.join(root, 'alias'));
    expect(await listed(folder)).toEqual(['alias', 'real/a']);
    // Links that are not listed are told, those that lead nowhere included.
    symlinkSync('nowhere', path.join(root, 'real', 'dangling'));
    const links: string[] = [];
    for await (const _ of folder.list('', (link) => links.push(link)));
    expect(links.sort()).toEqual(['other', 'real/dangling']);
    await folder.write('other/a', bytes('two'));
    expect(readFileSync(path.join(root, 'real', 'a'), 'utf8')).toBe('two');
    await folder.write('alias', bytes('three'));
    expect(readFileSync(path.join(root, 'real', 'a'), 'utf8')).toBe('three');
    expect(lstatSync(path.join(root, 'alias')).isSymbolicLink()).toBe(true);
  });
});

describe('what a disk can be like', () => {
  it('says that a file is read-only, and leaves it', async () => {
    const { folder, root } = fresh();
    writeFileSync(path.join(root, 'locked.ini'), 'mine');
    chmodSync(path.join(root, 'locked.ini'), 0o444);
    await expect(folder.write('locked.ini', bytes('x'))).rejects.toMatchObject({
      code: 'folder-refused',
      message: expect.stringContaining('read-only') as string,
    });
    await expect(folder.remove('locked.ini')).rejects.toMatchObject({ code: 'folder-refused' });
    expect(readFileSync(path.join(root, 'locked.ini'), 'utf8')).toBe('mine');
  });

  it('keeps a file’s rights when it is replaced', async () => {
    const { folder, root } = fresh();
    writeFileSync(path.join(root, 'run.sh'), 'old', { mode: 0o755 });
    await folder.write('run.sh', bytes('new'));
    expect(lstatSync(path.join(root, 'run.sh')).mode & 0o777).toBe(0o755);
  });

  it('does not wait for ever on a pipe, and does not list it', async () => {
    const { folder, root } = fresh();
    const { spawnSync } = await import('node:child_process');
    if (spawnSync('mkfifo', [path.join(root, 'pipe')]).status !== 0) return console.log('skipped: mkfifo is not here');
    expect(await listed(folder)).toEqual([]);
    await expect(folder.read('pipe')).rejects.toMatchObject({ code: 'folder-refused' });
  });

  it('removes what an ended process had begun to write, and never shows it', async () => {
    const { folder, root } = fresh();
    // No process has this number: it is above the highest that Linux gives.
    writeFileSync(path.join(root, '.satchel-99999999-1.part'), 'half');
    writeFileSync(path.join(root, `.satchel-${process.pid}-999999.part`), 'being written');
    expect(await listed(folder)).toEqual([]);
    expect(existsSync(path.join(root, '.satchel-99999999-1.part'))).toBe(false);
    expect(existsSync(path.join(root, `.satchel-${process.pid}-999999.part`))).toBe(true);
  });

  it('removes an empty folder together with what an ended process had begun to write in it, and nothing else', async () => {
    const { folder, root } = fresh();
    for (const name of ['made', 'used', 'busy']) mkdirSync(path.join(root, name));
    for (const name of ['made', 'used']) writeFileSync(path.join(root, name, '.satchel-99999999-1.part'), 'half');
    writeFileSync(path.join(root, 'used', 'mine.txt'), 'mine');
    writeFileSync(path.join(root, 'busy', `.satchel-${process.pid}-7.part`), 'being written');
    expect(await folder.removeFolder('made')).toBe(true);
    expect(await folder.removeFolder('used')).toBe(false);
    expect(await folder.removeFolder('busy')).toBe(false);
    expect(readdirSync(root).sort()).toEqual(['busy', 'used']);
    // A number that now belongs to another program keeps nothing for ever.
    const left = path.join(root, 'busy', `.satchel-${process.ppid}-7.part`);
    writeFileSync(left, 'half');
    utimesSync(left, new Date(0), new Date(0));
    expect(await listed(folder)).toEqual(['used/mine.txt']);
    expect(existsSync(left)).toBe(false);
  });

  it('is refused where another folder has taken its place, until a game is opened anew', async () => {
    const { folder, root } = fresh();
    await folder.write('a.txt', bytes('mine'));
    renameSync(root, `${root} before`);
    mkdirSync(root);
    await new Promise((done) => setTimeout(done, 50));
    for (const attempt of [
      () => folder.write('a.txt', bytes('x')),
      () => folder.stat('a.txt'),
      () => listed(folder),
      () => folder.swap('b.txt', bytes('x'), undefined),
    ])
      await expect(attempt()).rejects.toMatchObject({
        code: 'folder-refused',
        message: expect.stringContaining('taken its place') as string,
      });
    expect(readdirSync(root)).toEqual([]);
    expect(readFileSync(path.join(`${root} before`, 'a.txt'), 'utf8')).toBe('mine');
    folder.pin();
    await folder.write('a.txt', bytes('x'));
    expect(readdirSync(root)).toEqual(['a.txt']);
  });

  it('leaves nothing behind when a write fails half-way', async () => {
    const { folder, root } = fresh();
    await expect(
      folder.writeFrom('a/b', async (handle) => {
        await handle.writeFile('half');
        throw Object.assign(new Error('no space'), { code: 'ENOSPC' });
      }),
    ).rejects.toMatchObject({ code: 'folder-refused', message: expect.stringContaining('the disk is full') as string });
    expect(readdirSync(path.join(root, 'a'))).toEqual([]);
  });

  it('tells how much room there is, and that two folders share it', async () => {
    const [one, two] = [await fresh().folder.room(), await fresh().folder.room()];
    expect(one.left).toBeGreaterThan(0);
    expect(one.disk).toBe(two.disk);
  });
});

describe('what was written is settled on the disk', () => {
  it.each([1, 40])('%i files, with one that has gone since and one that has become a folder', async (count) => {
    const { folder, root } = fresh();
    for (let index = 0; index < count; index++) await folder.write(`maps/${index}.map`, bytes(String(index)));
    await folder.write('gone/file.map', bytes('x'));
    rmSync(path.join(root, 'gone'), { recursive: true });
    await folder.write('swapped', bytes('x'));
    rmSync(path.join(root, 'swapped'));
    mkdirSync(path.join(root, 'swapped'));
    await folder.settle();
    await folder.settle();
    for (let index = 0; index < count; index++)
      expect(readFileSync(path.join(root, `maps/${index}.map`), 'utf8')).toBe(String(index));
  });

  it('does not follow a link that has taken the place of a file, and does not wait for a pipe', async () => {
    if (process.platform === 'win32') return console.log('skipped: no pipes in folders here');
    const { folder, root, outside } = fresh();
    await folder.write('link', bytes('x'));
    await folder.write('pipe', bytes('x'));
    rmSync(path.join(root, 'link'));
    rmSync(path.join(root, 'pipe'));
    symlinkSync(path.join(outside, 'secret.txt'), path.join(root, 'link'));
    spawnSync('mkfifo', [path.join(root, 'pipe')]);
    // A refusal is as good as passing over it; hanging or touching the file outside is not.
    await folder.settle().catch((error: unknown) => expect(error).toMatchObject({ code: 'folder-refused' }));
    expect(readFileSync(path.join(outside, 'secret.txt'), 'utf8')).toBe('secret');
  });
});
