import { spawnSync } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, readFileSync, readdirSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { report, timedTool } from './measure';

const MB = 1024 ** 2;
/** What a 2 GB archive may cost beyond itself. */
const ALLOWED = 300;

/** Resident memory in MB of the processes whose command line says so: `--type=renderer` is the browser's page with its workers. */
function memoryOf(says: string): number {
  let pages = 0;
  for (const id of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      if (!readFileSync(`/proc/${id}/cmdline`, 'utf8').includes(says)) continue;
      // statm counts pages of 4 KiB: size, resident, shared (proc(5)).
      const [, resident = 0, shared = 0] = readFileSync(`/proc/${id}/statm`, 'utf8').split(' ').map(Number);
      pages += resident - shared;
    } catch {
      // It ended meanwhile.
    }
  }
  return (pages * 4096) / MB;
}

/** @returns to be called at the end: by how much the memory had grown at its highest, in MB */
function watchMemory(says: string): () => number {
  const start = memoryOf(says);
  let peak = start;
  const sampler = setInterval(() => (peak = Math.max(peak, memoryOf(says))), 100);
  return () => {
    clearInterval(sampler);
    return peak - start;
  };
}

/** A 2 GB archive, opened in Node and brought in in Chromium. Linux only, where /proc tells. */
export async function memoryLines(): Promise<void> {
  if (process.platform !== 'linux') {
    console.log('memory of a 2 GB archive: skipped, since only Linux tells it in /proc');
    return;
  }
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-bench-'));
  const block = Buffer.alloc(16 * MB);
  for (let i = 0; i < block.length; i += 4) block.writeUInt32LE(Math.imul(i, 2654435761) >>> 0, i);
  for (let n = 0; n < 16; n++) {
    const file = openSync(path.join(folder, `part_${n}.dat`), 'w');
    for (let i = 0; i < 8; i++) {
      block.writeUInt32LE(n * 8 + i, 0);
      writeSync(file, block);
    }
    closeSync(file);
  }
  timedTool('zip', ['-0', '-q', '-m', 'large.zip', ...Array.from({ length: 16 }, (_, n) => `part_${n}.dat`)], folder);

  // In a process of its own: what this one has used before would hide it.
  const { stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', 'bench/openLarge.ts', path.join(folder, 'large.zip')]);
  if (stdout.length === 0) throw new Error(stderr.toString());
  report({ name: 'memory: open a 2 GB ZIP and read it through (Node)', ours: Number(stdout.toString()) / MB, reference: 'allowance', theirs: ALLOWED, limit: 1, unit: 'MB' });

  // A lasting profile: private windows keep everything in memory and have little room.
  const browser = await chromium.launchPersistentContext(path.join(folder, 'profile'), { executablePath: process.env.CHROMIUM as string, args: ['--no-sandbox', '--disable-background-networking'] });
  const page = await browser.newPage();
  await page.goto(process.env.SATCHEL_URL as string);
  await page.getByRole('heading', { name: 'On the download shelf' }).waitFor({ timeout: 60_000 });
  const done = watchMemory('--type=renderer');
  await page.getByLabel('Choose downloads').setInputFiles(path.join(folder, 'large.zip'));
  await page.getByRole('heading', { name: 'Large', level: 1 }).waitFor({ timeout: 300_000 });
  report({ name: 'memory: bring in a 2 GB ZIP (Chromium, page and worker)', ours: done(), reference: 'allowance', theirs: ALLOWED, limit: 1, unit: 'MB' });
  await browser.close();
  rmSync(folder, { recursive: true, force: true });
}
