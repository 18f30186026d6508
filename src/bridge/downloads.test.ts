import { spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { comingName, isDownload } from '@/core';
import { has, runTool } from '../../tests/support/tools';
import { DiskFolder } from './disk';
import { Downloads, takeDownload } from './downloads';

const place = (at = tmpdir()) => {
  const top = mkdtempSync(path.join(at, 'satchel-downloads-'));
  for (const name of ['in', 'backup', 'game', 'vault']) mkdirSync(path.join(top, name));
  return {
    top,
    at: (...names: string[]) => path.join(top, ...names),
    downloads: new Downloads(path.join(top, 'backup'), () => [path.join(top, 'game')]),
    vault: DiskFolder.open(path.join(top, 'vault')),
  };
};
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

  it.skipIf(!has('sha256sum') || !has('cksum'))(
    'a download gets a second name, with the checksum that sha256sum finds; the download can go, and is found by its content',
    async () => {
      const { at, downloads, vault } = place();
      downloads.give(at('in'));
      writeFileSync(at('in', 'a.zip'), crypto.getRandomValues(new Uint8Array(50_000)));
      const taken = await takeDownload(vault, 'pack-1', await downloads.find('a.zip'));
      expect(taken.sha256).toBe(
        runTool('sha256sum', [at('in', 'a.zip')])
          .toString()
          .slice(0, 64),
      );
      expect(['shared', 'second name']).toContain(taken.how);
      const kept = at('vault', 'packs', 'pack-1.zip');
      expect(statSync(kept).ino === statSync(at('in', 'a.zip')).ino).toBe(taken.how === 'second name');
      const bytes = readFileSync(kept);
      renameSync(at('in', 'a.zip'), at('in', 'other name.zip'));
      expect(await downloads.search(taken)).toBe(at('in', 'other name.zip'));
      rmSync(at('in', 'other name.zip'));
      expect(await downloads.search(taken)).toBeUndefined();
      expect(readFileSync(kept).equals(bytes)).toBe(true);
    },
  );

  it.skipIf(!existsSync('/dev/shm'))(
    'from another disk it is copied only when that was agreed to, and nothing is left half-way',
    async () => {
      const { at, vault } = place();
      const other = place('/dev/shm');
      writeFileSync(other.at('in', 'a.zip'), 'on another disk');
      const name = other.at('in', 'a.zip');
      if (statSync(name).dev === statSync(at('vault')).dev) return;
      await expect(takeDownload(vault, 'pack-1', name)).rejects.toMatchObject({ code: 'needs-copy' });
      expect(existsSync(at('vault', 'packs', 'pack-1.zip'))).toBe(false);
      expect(await takeDownload(vault, 'pack-1', name, { copy: true })).toMatchObject({ how: 'copied', size: 15 });
      expect(readFileSync(at('vault', 'packs', 'pack-1.zip'), 'utf8')).toBe('on another disk');
      expect(
        runTool('ls', [at('vault', 'packs')])
          .toString()
          .trim(),
      ).toBe('pack-1.zip');
      rmSync(other.top, { recursive: true });
    },
  );

  it('where nobody waits for it any more, nothing of it is left', async () => {
    const { at, vault } = place();
    writeFileSync(at('in', 'a.zip'), new Uint8Array(3_000_000));
    await expect(
      takeDownload(vault, 'pack-1', at('in', 'a.zip'), { signal: AbortSignal.abort() }),
    ).rejects.toMatchObject({
      code: 'cancelled',
    });
    expect(runTool('ls', [at('vault', 'packs')]).toString()).toBe('');
  });

  it('what a server that was killed had begun is gone when the packs are next listed', async () => {
    const { at, vault } = place();
    writeFileSync(at('in', 'a.zip'), new Uint8Array(60_000_000));
    const taking = takeDownload(vault, 'pack-1', at('in', 'a.zip'));
    await expect.poll(() => readdirSync(at('vault', 'packs')).length).toBe(1);
    const [begun = ''] = readdirSync(at('vault', 'packs'));
    await taking;
    expect(begun).not.toBe('pack-1.zip');
    const killed = begun.replace(String(process.pid), String(spawnSync('true').pid));
    writeFileSync(at('vault', 'packs', killed), 'begun');
    const listed: string[] = [];
    for await (const { path: of } of vault.list('packs')) listed.push(of);
    expect([listed, readdirSync(at('vault', 'packs'))]).toEqual([['packs/pack-1.zip'], ['pack-1.zip']]);
  });

  it('a name outside of the packs is refused', async () => {
    const { at, vault } = place();
    writeFileSync(at('in', 'a.zip'), 'x');
    await expect(takeDownload(vault, '../../x', at('in', 'a.zip'))).rejects.toThrow();
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
