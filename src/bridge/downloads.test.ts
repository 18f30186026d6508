import { createHash } from 'node:crypto';
import { mkdirSync, rmSync, symlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { describe, expect, it, vi } from 'vitest';
import { comingName, isDownload } from '@/core';
import { downloadsPlace as place } from '../../tests/support/downloadsPlace';
import { Downloads } from './downloads';

const old = (file: string) => utimesSync(file, new Date(Date.now() - 60_000), new Date(Date.now() - 60_000));

describe('the downloads folder', () => {
  it('is remembered beside the originals, lists what can be packs, the newest first, and never a link or a folder', async () => {
    const { at, downloads } = place();
    expect(await downloads.list()).toBeNull();
    downloads.give(at('in'));
    for (const name of ['a.zip', 'b.7z', 'notes.txt', 'c.rar.part']) writeFileSync(at('in', name), name);
    old(at('in', 'a.zip'));
    mkdirSync(at('in', 'folder.zip'));
    symlinkSync('/etc/hostname', at('in', 'link.zip'));
    const again = new Downloads(at('backup'), () => []);
    const list = await again.list();
    expect(list?.files.map(({ name }) => name).sort()).toEqual(['a.zip', 'b.7z', 'c.rar.part']);
    expect(list?.files.at(-1)).toMatchObject({ name: 'a.zip', settled: true });
    expect(list?.files.find(({ name }) => name === 'b.7z')?.settled).toBe(false);
    for (const name of ['link.zip', 'folder.zip', '../backup/downloads.json', '..', 'a/b.zip', 'missing.zip'])
      await expect(again.find(name)).rejects.toMatchObject({ code: 'folder-missing-file' });
    rmSync(at('in'), { recursive: true });
    await expect(again.list()).rejects.toMatchObject({ code: 'folder-gone' });
    await again.forget();
    expect(await again.list()).toBeNull();
  });

  it.each([
    ['game', 'downloads-in-game'],
    ['backup', 'downloads-in-game'],
    ['nowhere', 'folder-refused'],
  ])('%s is refused', (name, code) => {
    const { at, downloads } = place();
    expect(() => downloads.give(at(name))).toThrowError(expect.objectContaining({ code }) as Error);
    expect(() => downloads.give('/')).toThrowError(expect.objectContaining({ code: 'whole-disk' }) as Error);
  });

  it.each([
    ['a.zip', undefined, true],
    ['a.zip.part', 'a.zip', true],
    ['a.7z.somebrowser', 'a.7z', true],
    ['a.7z.001', undefined, true],
    ['a.part2.rar', undefined, true],
    ['picture.jpg', undefined, false],
    ['a.txt.part', undefined, false],
    ['a.tar.gz', undefined, true],
    ['a.tgz', undefined, true],
    ['a.tbz2', undefined, true],
    ['a.tzst.part', 'a.tzst', true],
  ])('%s: half-way to %s, a download: %s', (name, coming, download) => {
    expect([comingName(name), isDownload(name)]).toEqual([coming, download]);
  });
});

describe('what the downloads folder lists', () => {
  const given = () => {
    const one = place();
    one.downloads.give(one.at('in'));
    return one;
  };
  const names = async (downloads: Downloads) => (await downloads.list())?.files.map(({ name }) => name);

  it('the newest first, and by their names where they came together; two thousand of them', async () => {
    const { at, downloads } = given();
    const put = (name: string, seconds: number) => {
      writeFileSync(at('in', name), name);
      utimesSync(at('in', name), seconds, seconds);
    };
    for (const [name, seconds] of [
      ['c.zip', 5],
      ['a.zip', 5],
      ['d.zip', 9],
      ['b.zip', 5],
      ['e.zip', 1],
    ] as const)
      put(name, seconds);
    expect(await names(downloads)).toEqual(['d.zip', 'a.zip', 'b.zip', 'c.zip', 'e.zip']);
    for (let i = 0; i < 2000; i++) put(`${i}.7z`, 100 + i);
    const all = (await names(downloads)) ?? [];
    expect([all.length, all[0], all.at(-1)]).toEqual([2000, '1999.7z', '0.7z']);
  });

  it('what was written to in the last three seconds is still coming', async () => {
    const { at, downloads } = given();
    const now = 1_800_000_000_000;
    vi.useFakeTimers({ toFake: ['Date'], now });
    try {
      for (const [name, ago] of [
        ['new.zip', 3],
        ['old.zip', 4],
      ] as const) {
        writeFileSync(at('in', name), name);
        utimesSync(at('in', name), now / 1000 - ago, now / 1000 - ago);
      }
      const found = (await downloads.list())?.files.map(({ name, size, settled }) => [name, size, settled]);
      expect(found).toEqual([
        ['new.zip', 7, false],
        ['old.zip', 7, true],
      ]);
    } finally {
      vi.useRealTimers();
    }
  });

  it.each(['no JSON', '{}', '{ "format": 2, "folder": "/in" }', '{ "format": 1, "folder": "in" }'])(
    'none is given where what was noted says nothing: %s',
    async (noted) => {
      const { at, downloads } = given();
      writeFileSync(at('backup', 'downloads.json'), noted);
      expect(downloads.folder).toBeUndefined();
      expect(await downloads.list()).toBeNull();
      await expect(downloads.find('a.zip')).rejects.toMatchObject({
        code: 'folder-missing-file',
        failure: { details: { path: 'a.zip' } },
      });
      expect(await downloads.search({ size: 1, sha256: '' })).toBeUndefined();
    },
  );

  it('is named where it is gone, and nothing is found in it', async () => {
    const { at, downloads } = given();
    rmSync(at('in'), { recursive: true });
    await expect(downloads.list()).rejects.toMatchObject({ failure: { details: { path: at('in') } } });
    expect(await downloads.search({ size: 1, sha256: '' })).toBeUndefined();
  });

  it('a folder inside a game’s is refused by its name, one beside it is not', () => {
    const { at, downloads } = place();
    mkdirSync(at('game', 'deep'));
    mkdirSync(at('game more'));
    expect(() => downloads.give(at('game', 'deep'))).toThrow(at('game', 'deep'));
    downloads.give(at('game more'));
    expect(downloads.folder).toBe(at('game more'));
  });

  it('by its content only among files of its size, whichever of them it is', async () => {
    const { at, downloads } = given();
    for (const [name, words] of [
      ['a.zip', 'one'],
      ['b.zip', 'two'],
      ['c.zip', 'three'],
    ] as const)
      writeFileSync(at('in', name), words);
    const wanted = (words: string) => ({
      size: words.length,
      sha256: createHash('sha256').update(words).digest('hex'),
    });
    for (const [words, name] of [
      ['one', 'a.zip'],
      ['two', 'b.zip'],
      ['three', 'c.zip'],
    ] as const)
      expect(await downloads.search(wanted(words))).toBe(at('in', name));
    expect(await downloads.search({ ...wanted('three'), size: 3 })).toBeUndefined();
  });
});
