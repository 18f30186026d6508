import { spawnSync } from 'node:child_process';
import {
  constants,
  existsSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import type * as Fs from 'node:fs/promises';
import path from 'node:path';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { downloadsPlace as place } from '../../tests/support/downloadsPlace';
import { coded } from '../../tests/support/system';
import { has, runTool } from '../../tests/support/tools';
import { takeDownload } from './downloads';

/** What the system does with the next calls of a kind, in place of its own. */
const { instead, done } = vi.hoisted(() => {
  interface Calls {
    copyFile?: ((from: string, to: string, mode: number) => Promise<void>) | undefined;
    link?: (() => Promise<void>) | undefined;
  }
  const calls: Calls = {};
  const synced: string[] = [];
  return { instead: calls, done: { synced } };
});
vi.mock('node:fs/promises', async (real) => {
  const fs = await real<typeof Fs>();
  return {
    ...fs,
    copyFile: (from: string, to: string, mode: number) => (instead.copyFile ?? fs.copyFile)(from, to, mode),
    link: (from: string, to: string) => (instead.link ?? (() => fs.link(from, to)))(),
    open: async (...values: Parameters<typeof fs.open>) => {
      const handle = await fs.open(...values);
      const { sync } = handle;
      handle.sync = () => {
        done.synced.push(String(values[0]));
        return sync.call(handle);
      };
      return handle;
    },
  };
});
afterEach(() => {
  instead.copyFile = undefined;
  instead.link = undefined;
});

describe('a download among the packs of a game', () => {
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
});

describe('a download that is taken', () => {
  const given = (words = 'the words of it') => {
    const one = place();
    writeFileSync(one.at('in', 'a.zip'), words);
    return { ...one, from: one.at('in', 'a.zip'), packs: () => readdirSync(one.at('vault', 'packs')) };
  };
  const failing = (code: string) => () => Promise.reject(coded(code));
  const copy = async (from: string, to: string) => writeFileSync(to, readFileSync(from));

  it('shares its bytes where the disk has that (ioctl_ficlone(2)), and lies on the disk before it is told', async () => {
    const { vault, from, at, packs } = given();
    const modes: number[] = [];
    instead.copyFile = async (one, two, mode) => {
      modes.push(mode);
      await copy(one, two);
    };
    done.synced = [];
    expect(await takeDownload(vault, 'p', from)).toMatchObject({ how: 'shared', size: 15 });
    expect(modes).toEqual([constants.COPYFILE_EXCL | constants.COPYFILE_FICLONE_FORCE]);
    expect(packs()).toEqual(['p.zip']);
    expect(statSync(at('vault/packs/p.zip')).ino).not.toBe(statSync(from).ino);
    expect(done.synced.map((one) => path.dirname(one))).toEqual([at('vault', 'packs')]);
  });

  it('is copied where neither can be done, if that was agreed to, in one piece or not at all', async () => {
    const { vault, from, packs } = given();
    const modes: number[] = [];
    instead.copyFile = async (one, two, mode) => {
      modes.push(mode);
      // Half of it is there when the disk says no.
      writeFileSync(two, 'half');
      if (mode !== constants.COPYFILE_EXCL) throw coded('ENOTSUP');
      await copy(one, two);
    };
    instead.link = failing('EXDEV');
    await expect(takeDownload(vault, 'p', from)).rejects.toMatchObject({
      code: 'needs-copy',
      failure: { details: { name: 'a.zip', size: expect.stringMatching(/\d/) as string } },
      cause: { code: 'EXDEV' },
    });
    expect(packs()).toEqual([]);
    modes.length = 0;
    expect(await takeDownload(vault, 'p', from, { copy: true })).toMatchObject({ how: 'copied', size: 15 });
    expect(modes).toEqual([constants.COPYFILE_EXCL | constants.COPYFILE_FICLONE_FORCE, constants.COPYFILE_EXCL]);
  });

  it.each([
    ['grows', (from: string) => writeFileSync(from, 'more and more and more')],
    ['is written in place', (from: string) => utimesSync(from, 9, 9)],
    ['is cut', (from: string) => writeFileSync(from, '')],
  ])('one that %s meanwhile is still coming', async (_, change) => {
    const { vault, from, packs } = given();
    instead.copyFile = async (one, two) => {
      await copy(one, two);
      change(one);
    };
    await expect(takeDownload(vault, 'p', from)).rejects.toMatchObject({
      code: 'still-coming',
      failure: { details: { name: 'a.zip' } },
    });
    expect(packs()).toEqual([]);
  });

  it('one of which less came than it has is still coming; one that went meanwhile is taken', async () => {
    const { vault, from } = given();
    instead.copyFile = async (_, two) => writeFileSync(two, 'half');
    await expect(takeDownload(vault, 'p', from)).rejects.toMatchObject({ code: 'still-coming' });
    instead.copyFile = async (one, two) => {
      await copy(one, two);
      rmSync(one);
    };
    expect(await takeDownload(vault, 'p', from)).toMatchObject({ size: 15 });
  });

  it('a failure is said in words; where nobody waits any more that is all that is said', async () => {
    const { vault, from, packs } = given();
    const stop = new AbortController();
    // What it had written is gone again.
    const fail = async () => undefined;
    instead.copyFile = fail;
    await expect(takeDownload(vault, 'p', from)).rejects.toMatchObject({
      code: 'folder-refused',
      failure: { details: { path: 'a.zip', why: expect.stringContaining('ENOENT') as string } },
      cause: { code: 'ENOENT' },
    });
    instead.copyFile = async () => stop.abort();
    await expect(takeDownload(vault, 'p', from, { signal: stop.signal })).rejects.toMatchObject({ code: 'cancelled' });
    instead.copyFile = undefined;
    await takeDownload(vault, 'p', from, { signal: new AbortController().signal });
    expect(packs()).toEqual(['p.zip']);
  });

  it('one that is nowhere says so', async () => {
    const { vault, at } = given();
    await expect(takeDownload(vault, 'p', at('in', 'no.zip'))).rejects.toMatchObject({ code: 'ENOENT' });
  });
});
