import { createHash } from 'node:crypto';
import {
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  statSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import type * as Fs from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it, vi } from 'vitest';
import { SatchelError, type Progress } from '@/core';
import { WAIT } from '../../tests/support/system';
import { has, readFiles, runTool, temporaryFolder } from '../../tests/support/tools';
import { threadsHere } from '../../tests/support/threadsHere';
import { DiskFolder } from './disk';
import { startUnpacking, unpackDownload } from './unpackDownload';

vi.mock('node:worker_threads', async (real) =>
  (await import('../../tests/support/threadsHere')).asThreadsHere(await real()),
);

/** How much the disk has left, where it is not asked (bytes). */
const { disk } = vi.hoisted(() => ({ disk: { left: undefined as number | undefined } }));
vi.mock('node:fs', async (real) => {
  const fs = await real<typeof Fs>();
  const statfsSync = (...of: Parameters<typeof fs.statfsSync>) => {
    const found = fs.statfsSync(...of);
    return disk.left === undefined ? found : { ...found, bavail: disk.left / 4096, bsize: 4096 };
  };
  return { ...fs, statfsSync };
});

const vaultIn = (top: string) => {
  mkdirSync(path.join(top, 'vault'), { recursive: true });
  return DiskFolder.open(path.join(top, 'vault'));
};
const place = () => mkdtempSync(path.join(tmpdir(), 'satchel-unpack-'));

/** A folder with files to pack: small, empty, one of some megabytes, names beyond ASCII, and a link. */
function makeFiles(top: string): string {
  const folder = path.join(top, 'pack');
  mkdirSync(path.join(folder, 'größe', 'tief'), { recursive: true });
  writeFileSync(path.join(folder, 'a.txt'), 'a text\r\n');
  writeFileSync(path.join(folder, 'empty'), '');
  for (let i = 0; i < 60; i++) writeFileSync(path.join(folder, 'größe', `${i}.dat`), `${i} `.repeat(1000 + i));
  writeFileSync(
    path.join(folder, 'größe', 'tief', 'large.bin'),
    Buffer.alloc(5_000_000).fill('0123456789abcdef pattern'),
  );
  symlinkSync('a.txt', path.join(folder, 'link'));
  return folder;
}

const MAKERS: [name: string, tool: string, make: (folder: string, to: string) => void, format: string][] = [
  ['x.7z', '7z', (folder, to) => runTool('7z', ['a', '-bso0', to, '.', '-xr!link'], { cwd: folder }), '7z'],
  ['x.tar.gz', 'tar', (folder, to) => runTool('tar', ['czf', to, '-C', folder, '.']), 'tar'],
  ['x.tar.xz', 'tar', (folder, to) => runTool('tar', ['cJf', to, '-C', folder, '.']), 'tar'],
  ['x.tar', 'bsdtar', (folder, to) => runTool('bsdtar', ['-cf', to, '-C', folder, '.']), 'tar'],
];

describe('a download is unpacked where it lies', () => {
  it.each(MAKERS.map(([name, tool, make, format]) => ({ name, tool, make, format })))(
    '$name, as unzip finds it afterwards',
    async ({ name, tool, make, format }) => {
      if (!has(tool) || !has('unzip')) return;
      const top = place();
      const folder = makeFiles(top);
      make(folder, path.join(top, name));
      const told: Progress[] = [];
      const before = readFileSync(path.join(top, name));
      const found = await unpackDownload(
        vaultIn(top),
        'pack-1',
        { files: [path.join(top, name)], name },
        { onProgress: (progress) => told.push(progress) },
      );
      expect(found).toMatchObject({
        format,
        size: before.length,
        sha256: createHash('sha256').update(before).digest('hex'),
      });
      const zip = path.join(top, 'vault', 'packs', 'pack-1.zip');
      expect(statSync(zip).size).toBe(found.kept.size);
      expect(readdirSync(path.join(top, 'vault', 'packs'))).toEqual(['pack-1.zip']);
      const out = path.join(temporaryFolder(), 'out');
      runTool('unzip', ['-q', zip, '-d', out]);
      const wanted = readFiles(folder);
      delete wanted.link;
      expect(Object.keys(readFiles(out)).sort()).toEqual(Object.keys(wanted).sort());
      for (const [of, bytes] of Object.entries(readFiles(out)))
        expect(bytes.equals(wanted[of] as Buffer), of).toBe(true);
      expect(told.length).toBeGreaterThan(1);
      expect(readFileSync(path.join(top, name)).equals(before)).toBe(true);
      if (name !== 'x.7z') expect(found.notices.map(({ kind, path: of }) => [kind, of])).toEqual([['link', 'link']]);
    },
  );
});

/** Bytes that no packer makes smaller. */
const noise = (size: number): Buffer =>
  Buffer.from(crypto.getRandomValues(new Uint8Array(Math.min(size, 65_536)))).subarray(0, size);

describe.skipIf(!has('7z') || !has('zip'))('a download in parts, with a password, or broken', () => {
  const made = (values: string[], ...files: [string, Buffer | string][]) => {
    const top = place();
    mkdirSync(path.join(top, 'pack', 'in'), { recursive: true });
    for (const [name, data] of files) writeFileSync(path.join(top, 'pack', name), data);
    runTool(values[0] ?? '', values.slice(1), { cwd: path.join(top, 'pack') });
    return {
      top,
      at: (name: string) => path.join(top, name),
      take: (names: string[], name: string, password?: string) =>
        unpackDownload(
          vaultIn(top),
          'pack-1',
          { files: names.map((one) => path.join(top, name, '..', one)), name, password },
          {},
        ),
    };
  };
  const packsOf = (top: string) => readdirSync(path.join(top, 'vault', 'packs'));

  it('parts are read one behind the other, without being joined on the disk', async () => {
    const { top, take } = made(['7z', 'a', '-bso0', '-v20k', '../x.7z', '.'], ['in/a.bin', noise(60_000)]);
    const parts = readdirSync(top)
      .filter((name) => /\.\d{3}$/.test(name))
      .sort();
    expect(parts.length).toBeGreaterThan(2);
    expect(await take(parts, 'x.7z')).toMatchObject({
      format: '7z',
      size: parts.reduce((sum, name) => sum + statSync(path.join(top, name)).size, 0),
    });
    expect(
      runTool('unzip', ['-p', path.join(top, 'vault/packs/pack-1.zip'), 'in/a.bin']).equals(
        readFileSync(path.join(top, 'pack/in/a.bin')),
      ),
    ).toBe(true);
    await expect(take(parts.slice(0, -1), 'x.7z')).rejects.toMatchObject({ code: 'split-volume' });
  });

  it('a locked ZIP needs its password, and nothing is left where it is missing, wrong, or what comes out is damaged', async () => {
    const { top, take } = made(['zip', '-q', '-P', 'sesame', '../x.zip', 'in/a.bin'], ['in/a.bin', noise(30_000)]);
    await expect(take(['x.zip'], 'x.zip')).rejects.toMatchObject({ code: 'encrypted' });
    await expect(take(['x.zip'], 'x.zip', 'open')).rejects.toMatchObject({ code: 'wrong-password' });
    expect(packsOf(top)).toEqual([]);
    expect(await take(['x.zip'], 'x.zip', 'sesame')).toMatchObject({ format: 'zip' });
    expect(packsOf(top)).toEqual(['pack-1.zip']);
    expect(
      runTool('unzip', ['-p', path.join(top, 'vault/packs/pack-1.zip')]).equals(
        readFileSync(path.join(top, 'pack/in/a.bin')),
      ),
    ).toBe(true);

    const broken = made(['7z', 'a', '-bso0', '../y.7z', '.'], ['in/a.bin', noise(60_000)]);
    const bytes = readFileSync(broken.at('y.7z'));
    writeFileSync(broken.at('y.7z'), bytes.fill(7, 20_000, 20_100));
    await expect(broken.take(['y.7z'], 'y.7z')).rejects.toMatchObject({ code: 'damaged' });
    await expect(broken.take(['missing.7z'], 'missing.7z')).rejects.toMatchObject({ code: 'folder-refused' });
    expect(packsOf(broken.top)).toEqual([]);
  });
});

/** A locked ZIP with one file, and a vault. */
function lockedZip(size = 30_000) {
  const top = place();
  mkdirSync(path.join(top, 'pack'));
  writeFileSync(path.join(top, 'pack/a.bin'), Buffer.alloc(size, 'sesame'));
  runTool('zip', ['-q', '-0', '-P', 'sesame', '../x.zip', 'a.bin'], { cwd: path.join(top, 'pack') });
  const at = path.join(top, 'x.zip');
  return {
    at,
    packs: () => readdirSync(path.join(top, 'vault/packs')),
    take: (options: Parameters<typeof unpackDownload>[3] = {}, files = [at]) =>
      unpackDownload(vaultIn(top), 'pack-1', { files, name: 'my x.zip', password: 'sesame' }, options),
  };
}

describe.skipIf(!has('zip'))('a download that cannot be taken', () => {
  it('one that is written to meanwhile is still coming', async () => {
    const { take, at, packs } = lockedZip();
    const onProgress = () => utimesSync(at, new Date(0), new Date(0));
    await expect(take({ onProgress })).rejects.toMatchObject({
      code: 'still-coming',
      failure: { details: { name: 'my x.zip' } },
    });
    expect(packs()).toEqual([]);
  });

  it('one that does not fit on the disk is refused before it is unpacked', async () => {
    const { take, packs } = lockedZip();
    // Its 30,000 bytes, what a ZIP needs for one file, and its own end.
    disk.left = 30_000 + 400 + 2 * 'a.bin'.length + 65_536 - 1;
    try {
      const refused = { code: 'folder-refused', failure: { details: { path: 'my x.zip', why: 'the disk is full' } } };
      await expect(take()).rejects.toMatchObject(refused);
      expect(packs()).toEqual([]);
      disk.left += 1;
      expect(await take()).toMatchObject({ format: 'zip' });
    } finally {
      disk.left = undefined;
    }
  });

  it('one that is nowhere, a folder, or none at all is named', async () => {
    const { take, at } = lockedZip();
    await expect(take({}, [])).rejects.toMatchObject({
      code: 'folder-missing-file',
      failure: { details: { path: 'my x.zip' } },
    });
    await expect(take({}, [path.dirname(at)])).rejects.toMatchObject({
      code: 'folder-refused',
      failure: { details: { why: 'it is no file' } },
    });
  });

  it('nobody waits for it from the beginning', async () => {
    const { take, packs } = lockedZip();
    await expect(take({ signal: AbortSignal.abort() })).rejects.toMatchObject({ code: 'cancelled' });
    expect(packs()).toEqual([]);
  });

  it.each([
    ['fails', 'error', new Error('out of memory')],
    ['ends', 'exit', 3],
  ])('the thread %s: what it had begun is gone, and it is said', async (_, event, cause) => {
    const { take, packs } = lockedZip();
    const taking = take();
    threadsHere.at(-1)?.emit(event, cause);
    await expect(taking).rejects.toMatchObject({
      code: 'unexpected',
      failure: { details: { why: 'the part of the app that unpacks ended' } },
      cause,
    });
    await vi.waitFor(() => expect(packs().filter((name) => name.endsWith('.part'))).toEqual([]), WAIT);
  });

  it('it listens to nobody afterwards', async () => {
    const stop = new AbortController();
    const { take } = lockedZip();
    const [add, remove] = [vi.spyOn(stop.signal, 'addEventListener'), vi.spyOn(stop.signal, 'removeEventListener')];
    await take({ signal: stop.signal });
    expect(remove.mock.calls).toEqual(add.mock.calls);
  });
});

describe('a download is told line by line while it is unpacked', () => {
  const found = { size: 1, sha256: 'a', kept: { size: 2, crc32: 3 }, format: 'zip' as const, notices: [] };
  const lines = async (response: Response) =>
    (await response.text())
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as unknown);
  const never = new AbortController().signal;

  it('how far it is, and what came out', async () => {
    const progress = { phase: 'Unpacking it once', done: 1, total: 2, unit: 'files' as const };
    const response = startUnpacking(async ({ onProgress }) => {
      onProgress?.(progress);
      return found;
    }, never);
    expect(await lines(response)).toEqual([{ progress }, { unpacked: found }]);
    expect(await lines(startUnpacking(async () => undefined, never))).toEqual([{ unpacked: null }]);
  });

  it('why not, with the sentence for it', async () => {
    const response = startUnpacking(async () => {
      throw new SatchelError('still-coming', { name: 'x.zip' });
    }, never);
    expect(await lines(response)).toEqual([{ failure: new SatchelError('still-coming', { name: 'x.zip' }).failure }]);
  });

  it.each(['the page goes away', 'the request ends'])('where %s it stops', async (who) => {
    const gone = new AbortController();
    let heard: AbortSignal | undefined;
    const response = startUnpacking(({ signal }) => {
      heard = signal;
      return new Promise(() => undefined);
    }, gone.signal);
    await vi.waitFor(() => expect(heard?.aborted).toBe(false), WAIT);
    if (who === 'the page goes away') await response.body?.cancel();
    else gone.abort();
    expect(heard?.aborted).toBe(true);
  });
});
