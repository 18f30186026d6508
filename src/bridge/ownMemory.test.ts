import { mkdirSync, mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, it, vi } from 'vitest';
import type { Progress } from '@/core';
import { has, readFiles, runTool, temporaryFolder } from '../../tests/support/tools';
import { DiskFolder } from './disk';
import { unpackDownload } from './unpackDownload';

/** What only threads with a memory of their own can show. */

vi.mock('node:worker_threads', async (real) =>
  (await import('../../tests/support/threads')).builtThreads(await real()),
);

/** An archive of files that are much of the same, and a vault beside it. */
function made(files: number, size: number) {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-memory-'));
  for (const folder of ['pack/in', 'vault']) mkdirSync(path.join(top, folder), { recursive: true });
  for (let i = 0; i < files; i++)
    writeFileSync(path.join(top, 'pack/in', `${i}.bin`), Buffer.alloc(size, `much of the same, ${i} `));
  runTool('7z', ['a', '-bso0', '-mx1', '../x.7z', '.'], { cwd: path.join(top, 'pack') });
  const vault = DiskFolder.open(path.join(top, 'vault'));
  return {
    top,
    packs: () => readdirSync(path.join(top, 'vault/packs')),
    take: (options: Parameters<typeof unpackDownload>[3]) =>
      unpackDownload(vault, 'pack-1', { files: [path.join(top, 'x.7z')], name: 'x.7z' }, options),
  };
}

it.skipIf(!has('7z') || !has('unzip'))(
  'more than the library may be ahead comes through, as unzip finds it',
  async () => {
    const { top, take, packs } = made(20, 2_000_000);
    await take({});
    expect(packs()).toEqual(['pack-1.zip']);
    const out = path.join(temporaryFolder(), 'out');
    runTool('unzip', ['-q', path.join(top, 'vault/packs/pack-1.zip'), '-d', out]);
    for (const [of, bytes] of Object.entries(readFiles(out)))
      expect(bytes.equals(readFileSync(path.join(top, 'pack', of))), of).toBe(true);
    expect(Object.keys(readFiles(out))).toHaveLength(20);
  },
);

it.skipIf(!has('7z'))('where nobody waits for it any more, nothing of it is left', async () => {
  const { take, packs } = made(40, 2_000_000);
  const stop = new AbortController();
  // In the middle of it: a file is begun among the packs.
  let begun: string[] = [];
  const onProgress = ({ phase }: Progress) => {
    if (phase !== 'Unpacking it once' || stop.signal.aborted) return;
    begun = packs();
    stop.abort();
  };
  await expect(take({ signal: stop.signal, onProgress })).rejects.toMatchObject({ code: 'cancelled' });
  expect(begun).toHaveLength(1);
  expect(packs()).toEqual([]);
});
