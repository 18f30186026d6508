import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type BrowserContext, type Locator, type Page } from '@playwright/test';
import { zipSync } from 'fflate';
import { givenFolder, setUpGame } from './bridge';
import { fromClickTo, report, timedTool } from './measure';

const FIND = "find -printf '%p %s %T@'";

/** A game of so many small files, 200 in a folder, and a folder of packs. */
function fillFolders(game: string, files: number): void {
  for (let folder = 0; folder * 200 < files; folder++) {
    const at = path.join(game, `area${Math.floor(folder / 50)}`, `part${folder % 50}`);
    mkdirSync(at, { recursive: true });
    for (let i = 0; i < 200; i++) writeFileSync(path.join(at, `item${i}.dat`), `${folder} ${i}\n`);
  }
  for (const name of ['first', 'second']) {
    mkdirSync(path.join(game, 'mods', name), { recursive: true });
    writeFileSync(path.join(game, 'mods', name, 'mod.txt'), `name = ${name}\n`);
  }
}

/** What the system's own tool needs for the names, sizes and dates of all files, the second time. */
function findSeconds(game: string): number {
  const list = () => timedTool('find', [game, '-type', 'f', '-printf', '%p %s %T@\n'], game);
  list();
  return list();
}

/** The game set up in a browser of its own, whose data lies in a folder. */
async function setUpIn(top: string, game: string): Promise<{ browser: BrowserContext; page: Page }> {
  const browser = await chromium.launchPersistentContext(path.join(top, 'profile'), {
    executablePath: process.env.CHROMIUM as string,
    args: ['--no-sandbox', '--disable-background-networking'],
    viewport: { width: 1280, height: 800 },
  });
  const page = browser.pages()[0] ?? (await browser.newPage());
  page.setDefaultTimeout(300_000);
  await setUpGame(page, givenFolder(game));
  return { browser, page };
}

/** Seconds from choosing a download to the pack's own page. */
async function bringIn(page: Page, archive: string, name: string): Promise<number> {
  const file = page.getByLabel('Choose downloads');
  await file.waitFor({ state: 'attached' });
  const began = performance.now();
  await file.setInputFiles(archive);
  await page.getByRole('heading', { name, level: 1 }).waitFor();
  return (performance.now() - began) / 1000;
}

/** The button that deploys. */
async function deployButton(page: Page): Promise<Locator> {
  await page
    .getByRole('link', { name: /^Deploy/ })
    .first()
    .click();
  const button = page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true });
  await button.waitFor();
  return button;
}

/** Seconds from opening the page of the game anew to its numbers. */
async function openGame(page: Page, files: number): Promise<number> {
  const began = performance.now();
  await page.reload();
  await page.waitForFunction(
    (text) => document.body.textContent.includes(text),
    `: ${files.toLocaleString('en')} files`,
  );
  return (performance.now() - began) / 1000;
}

const STEPS = ['Place', 'Stack', 'Settings', 'Deploy', 'Check', 'Ledger', 'Bring in'];

interface Measured {
  open: number;
  bring: number;
  step: number;
  off: number;
  deploy: number;
  find: number;
}

/** A game of so many files over the app's server, and what a player does in it with a pack of two files. */
async function inGame(game: string, files: number): Promise<Measured> {
  fillFolders(game, files);
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-bench-large-'));
  const pack = path.join(top, 'glow.zip');
  const bytes = (text: string) => new TextEncoder().encode(text);
  writeFileSync(pack, zipSync({ 'glow/mod.txt': bytes('name = Glow\n'), 'glow/glow.png': bytes('glow') }));
  const { browser, page } = await setUpIn(top, game);
  const find = findSeconds(game);
  const open = await openGame(page, files + 2);
  const bring = await bringIn(page, pack, 'Glow');
  let step = 0;
  for (const name of STEPS) {
    const link = page.getByRole('link', { name: new RegExp(`^${name}`) }).first();
    const start = performance.now();
    await link.click();
    await page.getByRole('main').getByRole('heading', { level: 1 }).first().waitFor();
    step = Math.max(step, (performance.now() - start) / 1000);
  }
  await page
    .getByRole('link', { name: /^Stack/ })
    .first()
    .click();
  const box = page.getByRole('main').getByRole('checkbox', { name: /Glow/ }).first();
  await box.waitFor();
  const off = await fromClickTo(page, box, 'left out of the next deployment');
  await box.click();
  const deploy = await fromClickTo(page, await deployButton(page), '2 of 2 landed');
  await browser.close();
  rmSync(top, { recursive: true, force: true });
  if (readFileSync(path.join(game, 'mods/glow/glow.png'), 'utf8') !== 'glow') throw new Error('nothing was deployed');
  return { open, bring, step, off, deploy, find };
}

/** A game of 200,000 files over the app's server. */
export async function largeGameLines(game: string): Promise<void> {
  const { open, bring, step, off, deploy, find } = await inGame(game, 200_000);
  const line = (name: string, ours: number, limit: number) =>
    report({ name: `a game of 200,000 files: ${name}`, ours, reference: FIND, theirs: find, limit });
  line('open it', open, 2);
  line('bring in a small pack', bring, 0.3);
  line('go to a step, the slowest of seven', step, 0.15);
  line('leave a pack of two files out', off, 0.15);
  line('deploy it, click to landed', deploy, 0.8);
}

/** A pack of 100,000 small files, brought in, deployed, opened again and put back over the app's server. */
export async function hugePackLines(game: string): Promise<void> {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-bench-huge-'));
  const archive = path.join(top, 'huge.zip');
  const files: Record<string, Uint8Array> = { 'huge/mod.txt': new TextEncoder().encode('name = Huge\n') };
  for (let i = 1; i < 100_000; i++)
    files[`huge/tex/set${Math.floor(i / 500)}/t${i}.dat`] = new TextEncoder().encode(`${i} `.repeat(12));
  writeFileSync(archive, zipSync(files));
  fillFolders(game, 0);
  const unpacked = path.join(top, 'unpacked');
  const theirs =
    timedTool('unzip', ['-q', archive, '-d', unpacked], top) +
    timedTool('sh', ['-c', 'find unpacked -type f -print0 | xargs -0 sha256sum'], top);
  const { browser, page } = await setUpIn(top, game);
  const line = (name: string, ours: number, limit: number) =>
    report({ name: `a pack of 100,000 files: ${name}`, ours, reference: 'unzip + sha256sum', theirs, limit });
  line('bring it in', await bringIn(page, archive, 'Huge'), 0.5);
  const button = await deployButton(page);
  line('deploy it', await fromClickTo(page, button, '100,000 of 100,000 landed'), 1.3);
  const began = performance.now();
  await page
    .getByRole('link', { name: /^Ledger/ })
    .first()
    .click();
  await page.getByRole('list', { name: 'Deployments, latest first' }).getByRole('listitem').first().waitFor();
  line('open the ledger', (performance.now() - began) / 1000, 0.05);
  line('open the game again', await openGame(page, 100_002), 0.3);
  await page
    .getByRole('link', { name: /^Ledger/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Put everything back…' }).click();
  const back = page.getByRole('button', { name: 'Put everything back now' });
  await back.waitFor();
  line('put all back', await fromClickTo(page, back, '2. Put everything back'), 1.5);
  await browser.close();
  rmSync(top, { recursive: true, force: true });
}
