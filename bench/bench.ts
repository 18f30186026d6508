/** Speed and memory against other tools, measured in the same run on the same files. `npm run bench` */
import { openAsBlob } from 'node:fs';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { openPack, sha256, type Pack } from '../src/core';
import { MemoryFolder } from '../tests/support/memoryFolder';
import { bridgeLines } from './bridge';
import { largeGameLines, hugePackLines } from './largeGame';
import { firstPageLines } from './firstPage';
import { largePackLines } from './largePacks';
import { memoryLines } from './memory';
import { packLines } from './packs';
import { stackLines } from './stack';
import { logLines } from './log';
import { settingsLines } from './settings';
import { studyOfGame } from './study';
import { finish, fromClickTo, report, timed, timedTool } from './measure';

const ARCHIVE = path.resolve('.satchel/demo/every-island.zip');
const FILES = 6307;

/** unzip to disk, then sha256sum of every file: what the same work costs with other tools. */
function reference(): { list: number; unpackAndHash: number } {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-bench-'));
  const list = timedTool('unzip', ['-l', ARCHIVE], folder);
  const unpack = timedTool('unzip', ['-q', ARCHIVE, '-d', folder], folder);
  const hash = timedTool('sh', ['-c', 'find . -type f -print0 | xargs -0 sha256sum'], folder);
  rmSync(folder, { recursive: true, force: true });
  return { list, unpackAndHash: unpack + hash };
}

async function unpackHashWrite(pack: Pack): Promise<void> {
  const folder = new MemoryFolder();
  let files = 0;
  const hashes: Promise<string>[] = [];
  for await (const { path: name, data } of pack.readMany(pack.entries.map((entry) => entry.path))) {
    // Hashing goes on while the next file is unpacked, as in a deployment.
    hashes.push(sha256(data));
    await folder.write(name, data);
    files++;
  }
  if (new Set(await Promise.all(hashes)).size < 6000) throw new Error('hashes are missing');
  if (files !== pack.entries.length) throw new Error(`${files} files came out`);
}

/** The whole deployment through the interface: unpack, hash, write, read back and compare, book-keeping. */
async function deployInChromium(): Promise<number> {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  const page = await browser.newPage();
  await page.goto(process.env.SATCHEL_URL as string);
  await page.getByRole('button', { name: 'Take Every Island' }).click({ timeout: 60_000 });
  await page.getByRole('heading', { name: 'Every Island', level: 1 }).waitFor({ timeout: 120_000 });
  await page.getByRole('link', { name: /^Deploy/ }).click();
  page.setDefaultTimeout(180_000);
  const button = page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true });
  const seconds = await fromClickTo(
    page,
    button,
    `${FILES.toLocaleString('en')} of ${FILES.toLocaleString('en')} landed`,
  );
  await browser.close();
  return seconds;
}

await firstPageLines(process.env.SATCHEL_FIRST as string);

const blob = await openAsBlob(ARCHIVE);
/** Each round measures the tools and ours one right after the other, since other work on the machine comes and goes. */
const rounds: { list: number; unpackAndHash: number; index: number; node: number; chromium: number }[] = [];
for (let round = 0; round < 3; round++) {
  const tools = reference();
  const index = await timed(async () => void (await openPack(blob, 'every-island.zip')));
  const pack = await openPack(blob, 'every-island.zip');
  const node = await timed(() => unpackHashWrite(pack));
  rounds.push({ ...tools, index, node, chromium: await deployInChromium() });
}
const middle = (pick: (one: (typeof rounds)[number]) => number) => rounds.map(pick).sort((a, b) => a - b)[1] as number;
const [list, unpackAndHash] = [middle((one) => one.list), middle((one) => one.unpackAndHash)];
// unzip -l is a small C program that reads the same directory and starts in milliseconds; a limit of 40 says "no
// whole-archive read".
report({
  name: 'index 6,307 files (Node)',
  ours: middle((one) => one.index),
  reference: 'unzip -l',
  theirs: list,
  limit: 40,
});
report({
  name: 'unpack, hash, write to memory (Node)',
  ours: middle((one) => one.node),
  reference: 'unzip + sha256sum',
  theirs: unpackAndHash,
  limit: 1.5,
});
report({
  name: 'deploy to the browser folder (Chromium)',
  ours: middle((one) => one.chromium),
  reference: 'unzip + sha256sum',
  theirs: unpackAndHash,
  limit: 3,
});
const [large, many, files, huge, packs, ...games] = (process.env.SATCHEL_GAMES as string).split('\n') as [
  string,
  string,
  string,
  string,
  string,
  ...string[],
];
await bridgeLines(ARCHIVE, games);
await largeGameLines(files);
await hugePackLines(huge);
await packLines(ARCHIVE);
await stackLines();
await settingsLines();
await studyOfGame();
await logLines();
await memoryLines([large, many]);
await largePackLines(packs);
finish();
