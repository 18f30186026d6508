import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  closeSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { givenFolder, setUpGame } from './bridge';
import { report, timedTool } from './measure';

const MB = 1024 ** 2;
/** What a 2 GB archive may cost while it is read. */
const ALLOWED = 300;
/** What page and server may each need in all while it is deployed. */
const ALLOWED_ALL = 400;
/** Large files in one, and originals in the way that are as large as they; the others are 16 MB. */
const [LARGE, LARGE_ORIGINALS] = [16, 4];
/** Small files in another, of a quarter of a megabyte, with originals that are as large. */
const SMALL = 8192;
/** As many in a picked folder: browsers take a second to write a hundred. */
const SMALL_ORIGINALS = 2048;

/**
 * The browser's processes for pages: ours with its workers is the largest, beside those of the browser's own surface
 * and a spare one.
 */
const PAGE = '--type=renderer';
const SERVER = 'next-server';

/** Where the files lie, in archive and game. */
const largeName = (n: number): string => `part_${n}.dat`;
const smallName = (n: number): string => `island_${n >> 8}/texture_${n}.dds`;

/** Resident memory in MB of the largest process whose command line says so. */
function memoryOf(says: string): number {
  let pages = 0;
  for (const id of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    try {
      if (!readFileSync(`/proc/${id}/cmdline`, 'utf8').includes(says)) continue;
      // statm counts pages of 4 KiB: size, resident, shared (proc(5)).
      const [, resident = 0, shared = 0] = readFileSync(`/proc/${id}/statm`, 'utf8').split(' ').map(Number);
      pages = Math.max(pages, resident - shared);
    } catch {
      // It ended meanwhile.
    }
  }
  return (pages * 4096) / MB;
}

/** @returns to be called at the end: the highest memory meanwhile, in MB */
function watchMemory(says: string): () => number {
  let peak = memoryOf(says);
  const sampler = setInterval(() => (peak = Math.max(peak, memoryOf(says))), 100);
  return () => {
    clearInterval(sampler);
    return peak;
  };
}

/** Files of 128 MB that do not pack, or only the first of their 16 MB blocks. */
function writeLarge(folder: string, seed: number, blocksOf: (n: number) => number): void {
  mkdirSync(folder, { recursive: true });
  const block = Buffer.alloc(16 * MB);
  for (let i = 0; i < block.length; i += 4) block.writeUInt32LE(Math.imul(i, 2654435761) >>> 0, i);
  for (let n = 0; n < LARGE; n++) {
    const file = openSync(path.join(folder, largeName(n)), 'w');
    for (let i = 0; i < blocksOf(n); i++) {
      block.writeUInt32LE(seed + n * 8 + i, 0);
      writeSync(file, block);
    }
    closeSync(file);
  }
}

/** Files of 256 KB that do not pack, 256 in a folder. */
function writeSmall(folder: string, seed: number): void {
  const file = randomBytes(MB / 4);
  for (let n = 0; n < SMALL; n++) {
    const at = path.join(folder, smallName(n));
    mkdirSync(path.dirname(at), { recursive: true });
    file.writeUInt32LE(seed + n, 0);
    writeFileSync(at, file);
  }
}

/** A browser with one page, so that no other counts as it. */
async function openBrowser(folder: string): Promise<{ browser: BrowserContext; page: Page }> {
  // A lasting profile: private windows keep everything in memory and have little room.
  const browser = await chromium.launchPersistentContext(path.join(folder, 'profile'), {
    executablePath: process.env.CHROMIUM as string,
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  const page = browser.pages()[0] ?? (await browser.newPage());
  page.setDefaultTimeout(300_000);
  return { browser, page };
}

/**
 * A 2 GB archive, opened in Node, brought in in Chromium, and deployed over the bridge and into a picked folder; then
 * one of small files. Linux only, where /proc tells.
 *
 * @param games two empty folders that the server was started with
 */
export async function memoryLines([game, other]: readonly [string, string]): Promise<void> {
  if (process.platform !== 'linux') {
    console.log('memory of a 2 GB archive: skipped, since only Linux tells it in /proc');
    return;
  }
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-bench-'));
  writeLarge(path.join(folder, 'data'), 0, () => 8);
  timedTool('zip', ['-0', '-q', '-r', '-m', 'large.zip', 'data'], folder);

  // In a process of its own: what this one has used before would hide it.
  const { stdout, stderr } = spawnSync(process.execPath, [
    '--import',
    'tsx',
    'bench/openLarge.ts',
    path.join(folder, 'large.zip'),
  ]);
  if (stdout.length === 0) throw new Error(stderr.toString());
  report({
    name: 'memory: open a 2 GB ZIP and read it through (Node)',
    ours: Number(stdout.toString()) / MB,
    reference: 'allowance',
    theirs: ALLOWED,
    limit: 1,
    unit: 'MB',
  });

  const { browser, page } = await openBrowser(folder);
  await page.goto(process.env.SATCHEL_URL as string);
  await page.getByRole('heading', { name: 'On the download shelf' }).waitFor({ timeout: 60_000 });
  const done = watchMemory(PAGE);
  await bringIn(page, folder);
  report({
    name: 'memory: bring in a 2 GB ZIP (Chromium, page and worker, all of it)',
    ours: done(),
    reference: 'allowance',
    theirs: ALLOWED,
    limit: 1,
    unit: 'MB',
  });
  await browser.close();
  writeLarge(path.join(game, 'data'), 1000, (n) => (n < LARGE_ORIGINALS ? 8 : 1));
  await overBridge(folder, game, LARGE);
  await intoPicked(folder, LARGE, {
    names: Array.from({ length: LARGE_ORIGINALS }, (_, n) => largeName(n)),
    size: 128 * MB,
  });

  rmSync(path.join(folder, 'large.zip'));
  writeSmall(path.join(folder, 'data'), 0);
  timedTool('zip', ['-0', '-q', '-r', '-m', 'large.zip', 'data'], folder);
  writeSmall(path.join(other, 'data'), SMALL);
  // The server goes on as the last deployment left it.
  await overBridge(folder, other, SMALL);
  await intoPicked(folder, SMALL, {
    names: Array.from({ length: SMALL_ORIGINALS }, (_, n) => smallName(n)),
    size: MB / 4,
  });
  rmSync(folder, { recursive: true, force: true });
}

async function bringIn(page: Page, folder: string): Promise<void> {
  await page.getByLabel('Choose downloads').setInputFiles(path.join(folder, 'large.zip'));
  await waitFor(page, 'h1', 'Large');
}

/**
 * Looks once a second: Playwright's own waiting looks at every picture the page paints, and what it needs for that
 * counts as the page's.
 */
async function waitFor(page: Page, where: string, text: string): Promise<void> {
  await page.waitForFunction(
    ([selector, wanted]) => document.querySelector<HTMLElement>(selector)?.innerText.includes(wanted),
    [where, text] as const,
    { polling: 1000, timeout: 300_000 },
  );
}

/** Takes in the archive and deploys it. @returns the most memory of the page, in MB */
async function deployArchive(page: Page, folder: string, files: number): Promise<number> {
  const ofPage = watchMemory(PAGE);
  await bringIn(page, folder);
  await page.getByRole('link', { name: /^Deploy/ }).click();
  await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  const count = files.toLocaleString('en');
  await waitFor(page, 'main', `${count} of ${count} landed`);
  return ofPage();
}

function reportAll(what: string, files: number, ours: number): void {
  report({
    name: `memory: deploy a 2 GB ZIP of ${files.toLocaleString('en')} files ${what}, all of it)`,
    ours,
    reference: 'allowance',
    theirs: ALLOWED_ALL,
    limit: 1,
    unit: 'MB',
  });
}

async function overBridge(folder: string, game: string, files: number): Promise<void> {
  rmSync(path.join(folder, 'profile'), { recursive: true, force: true });
  const { browser, page } = await openBrowser(folder);
  await setUpGame(page, givenFolder(game));
  // From the beginning: the pack goes over to the server as soon as it is brought in.
  const ofServer = watchMemory(SERVER);
  const ofPage = await deployArchive(page, folder, files);
  reportAll('over the bridge (the server', files, ofServer());
  reportAll('over the bridge (Chromium, page and worker', files, ofPage);
  await browser.close();
}

/** What the game has of its own. */
interface Originals {
  /** In its folder `data`, at most one folder deep. */
  names: readonly string[];
  /** Bytes of each. */
  size: number;
}

/** Into a folder of the browser's own file system, which the picker answers with: real files behind real handles. */
async function intoPicked(folder: string, files: number, originals: Originals): Promise<void> {
  rmSync(path.join(folder, 'profile'), { recursive: true, force: true });
  const before = await openBrowser(folder);
  await before.page.goto(process.env.SATCHEL_DOOR as string);
  await before.page.evaluate(writeOriginals, originals);
  // What that needed would count as the page's.
  await before.browser.close();
  const { browser, page } = await openBrowser(folder);
  await page.addInitScript(() =>
    Object.assign(window, {
      showDirectoryPicker: async () => (await navigator.storage.getDirectory()).getDirectoryHandle('game'),
    }),
  );
  await setUpGame(page);
  reportAll('into a picked folder (Chromium, page and worker', files, await deployArchive(page, folder, files));
  await browser.close();
}

/** Runs in the page. */
async function writeOriginals({ names, size }: Originals): Promise<void> {
  const game = await (await navigator.storage.getDirectory()).getDirectoryHandle('game', { create: true });
  const data = await game.getDirectoryHandle('data', { create: true });
  const block = new Uint8Array(Math.min(size, 16 * 1024 ** 2));
  for (const [n, name] of names.entries()) {
    block.fill(n + 1);
    const [file = '', folder] = name.split('/').reverse();
    const at = folder === undefined ? data : await data.getDirectoryHandle(folder, { create: true });
    const stream = await (await at.getFileHandle(file, { create: true })).createWritable();
    for (let done = 0; done < size; done += block.length) await stream.write(block);
    await stream.close();
  }
}
