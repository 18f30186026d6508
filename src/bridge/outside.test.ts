import { mkdirSync, readFileSync, readdirSync, readlinkSync, renameSync, rmSync, symlinkSync } from 'node:fs';
import path from 'node:path';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { text as bytes } from '../../tests/support/bytes';
import { top, fresh, listed } from '../../tests/support/diskFolder';

afterAll(() => rmSync(top, { recursive: true, force: true }));

describe('nothing outside is read or written', () => {
  const BAD = [
    '../outside/secret.txt',
    'a/../../outside/secret.txt',
    '/etc/passwd',
    'C:/x',
    '..\\outside\\secret.txt',
    'a//b',
    './..',
    'con',
    'x/aux.txt',
    'name.',
    'a\0b',
    'a:b',
    '',
  ];
  it.each(BAD)('by the name %j', async (bad) => {
    const { folder, outside, root } = fresh();
    for (const attempt of [
      () => folder.stat(bad),
      () => folder.read(bad),
      () => folder.write(bad, bytes('x')),
      () => folder.remove(bad),
      () => folder.hasFolder(bad),
      () => folder.removeFolder(bad),
    ])
      await expect(attempt()).rejects.toMatchObject({ code: 'folder-refused' });
    expect(readFileSync(path.join(outside, 'secret.txt'), 'utf8')).toBe('secret');
    expect(readdirSync(outside)).toEqual(['secret.txt']);
    expect(readdirSync(root)).toEqual([]);
  });

  it('through a link to a file or a folder outside', async () => {
    const { folder, outside, root } = fresh();
    symlinkSync(path.join(outside, 'secret.txt'), path.join(root, 'file'));
    symlinkSync(outside, path.join(root, 'folder'));
    symlinkSync('../outside', path.join(root, 'up'));
    symlinkSync('circle', path.join(root, 'circle'));
    expect(await listed(folder)).toEqual([]);
    for (const of of ['file', 'folder/secret.txt', 'folder/new', 'up/secret.txt', 'circle', 'circle/x'])
      for (const attempt of [() => folder.read(of), () => folder.write(of, bytes('x')), () => folder.stat(of)])
        await expect(attempt(), of).rejects.toMatchObject({ code: 'folder-refused' });
    expect(readdirSync(outside)).toEqual(['secret.txt']);
    expect(readFileSync(path.join(outside, 'secret.txt'), 'utf8')).toBe('secret');
  });

  it('through a link that takes the place of a folder which was used a moment ago', async () => {
    const { folder, outside, root } = fresh();
    await folder.write('maps/deep/one.map', bytes('1'));
    // A folder that has just been made is not held; one that is looked into again is.
    await folder.read('maps/deep/one.map');
    await folder.stat('maps/one.map');
    renameSync(path.join(root, 'maps'), path.join(root, 'aside'));
    symlinkSync(outside, path.join(root, 'maps'));
    mkdirSync(path.join(outside, 'deep'));
    for (const attempt of [
      () => folder.read('maps/deep/one.map'),
      () => folder.write('maps/deep/two.map', bytes('2')),
      () => folder.stat('maps/secret.txt'),
      () => folder.remove('maps/secret.txt'),
    ])
      await expect(attempt()).rejects.toMatchObject({ code: 'folder-refused' });
    expect([readdirSync(outside).sort(), readdirSync(path.join(root, 'aside/deep'))]).toEqual([
      ['deep', 'secret.txt'],
      ['one.map'],
    ]);
  });

  it('a folder that was used a moment ago and is another one now is the other one', async () => {
    const { folder, root } = fresh();
    await folder.write('maps/one.map', bytes('1'));
    rmSync(path.join(root, 'maps'), { recursive: true });
    expect(await folder.stat('maps/one.map')).toBeUndefined();
    mkdirSync(path.join(root, 'maps'));
    await folder.write('maps/two.map', bytes('2'));
    expect(readdirSync(path.join(root, 'maps'))).toEqual(['two.map']);
    renameSync(path.join(root, 'maps'), path.join(root, 'older'));
    await folder.write('maps/three.map', bytes('3'));
    expect([readdirSync(path.join(root, 'maps')), readdirSync(path.join(root, 'older'))]).toEqual([
      ['three.map'],
      ['two.map'],
    ]);
  });

  it('lets every folder go after a while', async () => {
    if (process.platform !== 'linux') return console.log('skipped: only Linux holds folders');
    const { folder, root } = fresh();
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    for (let i = 0; i < 320; i++) mkdirSync(path.join(root, `f${i}`));
    for (let i = 0; i < 320; i++) await folder.stat(`f${i}/x`);
    const open = () =>
      readdirSync('/proc/self/fd').filter((fd) => {
        try {
          return readlinkSync(`/proc/self/fd/${fd}`).startsWith(root);
        } catch {
          return false;
        }
      });
    try {
      expect(open().length).toBe(288);
      vi.advanceTimersByTime(5000);
      expect(open()).toEqual([]);
    } finally {
      vi.useRealTimers();
    }
  });

  it('through a link that is made between the check and the write', async () => {
    if (process.platform !== 'linux') return console.log('skipped: only on Linux can a folder be held open');
    const { folder, outside, root } = fresh();
    mkdirSync(path.join(root, 'textures'));
    await folder.writeFrom('textures/secret.txt', async (handle) => {
      await handle.writeFile('mine');
      // Another program moves the folder away and puts a link in its place, while the file is being written.
      renameSync(path.join(root, 'textures'), path.join(root, 'moved'));
      symlinkSync(outside, path.join(root, 'textures'));
    });
    expect(readFileSync(path.join(outside, 'secret.txt'), 'utf8')).toBe('secret');
    expect(readdirSync(outside)).toEqual(['secret.txt']);
    // The bytes went into the folder that was checked, wherever it is now.
    expect(readFileSync(path.join(root, 'moved', 'secret.txt'), 'utf8')).toBe('mine');
  });

  it('a storm of links: 400 writes while a folder and a link change places', async () => {
    const { folder, outside, root } = fresh();
    mkdirSync(path.join(root, 'spot'));
    let turning = true;
    const turn = (async () => {
      while (turning) {
        renameSync(path.join(root, 'spot'), path.join(root, 'away'));
        symlinkSync(outside, path.join(root, 'spot'));
        await new Promise((done) => setImmediate(done));
        rmSync(path.join(root, 'spot'));
        renameSync(path.join(root, 'away'), path.join(root, 'spot'));
        await new Promise((done) => setImmediate(done));
      }
    })();
    const outcomes = await Promise.allSettled(
      Array.from({ length: 400 }, async (_, i) => {
        await new Promise((done) => setTimeout(done, i % 40));
        await folder.write('spot/secret.txt', bytes(`write ${i}`));
        return folder.readBytes('spot/secret.txt');
      }),
    );
    turning = false;
    await turn;
    expect(outcomes.some(({ status }) => status === 'fulfilled')).toBe(true);
    for (const outcome of outcomes)
      if (outcome.status === 'fulfilled') expect(new TextDecoder().decode(outcome.value)).toMatch(/^write \d+$/);
    expect(readFileSync(path.join(outside, 'secret.txt'), 'utf8')).toBe('secret');
    expect(readdirSync(outside)).toEqual(['secret.txt']);
  });
});
