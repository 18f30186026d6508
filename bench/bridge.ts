import { mkdirSync, mkdtempSync, openSync, readdirSync, rmSync, statSync, writeSync, closeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import {
  deploy,
  noDecisions,
  placeFiles,
  planDeployment,
  readState,
  resolveLayers,
  type Pack,
  type TargetPath,
  type Workshop,
} from '../src/core';
import { DiskFolder } from '@/bridge/disk';
import { openArchive } from '../src/bridge/packs';
import { fromClickTo, report, timed, timedTool } from './measure';

const FILES = 6307;
/** How long a player looks at a plan before deploying it (milliseconds). */
const READING = 4000;
const TEXTURES = 'Every Island';

/**
 * A place for files that stays until all is measured: a disk that has just deleted thousands of files makes new ones
 * more slowly (ext4 looks for inodes that were not deleted within the last minutes), whoever makes them.
 */
function keepUntilEnd(name: string): string {
  const folder = mkdtempSync(path.join(tmpdir(), `satchel-bench-${name}-`));
  kept.push(folder);
  return folder;
}
const kept: string[] = [];
process.once('exit', () => kept.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

/** A game that has a file of its own for each of the pack's: the same names, other bytes. */
export function fillGame(archive: string, game: string): void {
  mkdirSync(game, { recursive: true });
  timedTool('unzip', ['-q', archive, '-d', game], game);
  timedTool('mv', [path.join(TEXTURES, 'assets'), '.'], game);
  rmSync(path.join(game, TEXTURES), { recursive: true });
  const change = (at: string) => {
    for (const name of readdirSync(at)) {
      const full = path.join(at, name);
      if (statSync(full).isDirectory()) change(full);
      else {
        const file = openSync(full, 'r+');
        writeSync(file, 'own!', 64);
        closeSync(file);
      }
    }
  };
  change(game);
  settle();
}

/** What was written before has reached the disk when the clock starts. */
const settle = (): void => void timedTool('sync', [], '.');

/** What the same work costs with other tools: the originals copied, the archive unpacked, everything hashed. */
function reference(archive: string, game: string): number {
  const folder = keepUntilEnd('usual');
  const keep = timedTool('cp', ['-a', game, path.join(folder, 'originals')], folder);
  const unpack = timedTool('unzip', ['-q', archive, '-d', path.join(folder, 'new')], folder);
  const hash = timedTool('sh', ['-c', 'find new -type f -print0 | xargs -0 sha256sum'], folder);
  settle();
  return keep + unpack + hash;
}

/** Makes a game of a folder. @param button the one that chooses it; without it the browser's own picker is asked */
export async function setUpGame(page: Page, button?: string): Promise<void> {
  await page.goto(process.env.SATCHEL_DOOR as string);
  if (button === undefined) {
    await page.getByText('Let the browser open the folder instead…').click();
    await page.getByLabel('Name of the game, for the browser’s way').fill('Bench');
  } else await page.getByLabel('What do you call this game?').fill('Bench');
  await page.getByRole('button', { name: button ?? 'Choose its folder' }).click();
  await page.getByRole('button', { name: 'Looks right' }).click();
  await page.waitForURL('**/game/bring-in');
}

/** The button for a folder that the server was started with. */
export const givenFolder = (game: string): string => `Use ${game}`;

/** The whole deployment through the interface, the archive handed over included. */
async function deployOverBridge(archive: string, game: string): Promise<number> {
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  const page = await browser.newPage();
  page.setDefaultTimeout(180_000);
  await setUpGame(page, givenFolder(game));
  await page.getByLabel('Choose downloads').setInputFiles(archive);
  await page.getByRole('heading', { name: 'Every Island', level: 1 }).waitFor();
  await page.getByRole('link', { name: /^Deploy/ }).click();
  const button = page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true });
  await button.waitFor();
  // The player reads the plan; the pack goes over to the server meanwhile.
  await page.waitForTimeout(READING);
  const seconds = await fromClickTo(
    page,
    button,
    `${FILES.toLocaleString('en')} of ${FILES.toLocaleString('en')} landed`,
  );
  await browser.close();
  return seconds;
}

/** The same core on the same disk, twice: the second time there is nothing to do. */
async function twice(pack: Pack, game: string): Promise<{ first: number; second: number }> {
  const beside = keepUntilEnd('vault');
  const workshop: Workshop = {
    folders: { game: DiskFolder.open(game) },
    vault: DiskFolder.make(path.join(beside, 'satchel')),
    backup: DiskFolder.make(path.join(beside, 'backup')),
    now: () => Date.now(),
    openPack: async () => pack,
  };
  const layer = {
    kind: 'pack' as const,
    id: 'p',
    name: 'p',
    packId: 'p',
    files: placeFiles(pack.entries, {
      rules: [{ as: 'files', from: TEXTURES, to: 'game' as TargetPath }],
      leftOut: [],
      made: [],
      decisions: noDecisions,
    }),
  };
  const go = async () => {
    const plan = await planDeployment({
      workshop,
      resolution: resolveLayers([layer]),
      state: await readState(workshop.vault),
      dialectOf: () => undefined,
      nameOf: (id) => id,
    });
    return deploy(plan, workshop, { title: 'Deploy', layers: [] });
  };
  const first = await timed(async () => void (await go()));
  let steps = -1;
  const second = await timed(async () => void (steps = (await go()).landed));
  if (steps !== 0) throw new Error(`${steps} steps where nothing was to be done`);
  return { first, second };
}

/** @param games folders that the server was started with, one a round */
export async function bridgeLines(archive: string, games: readonly string[]): Promise<void> {
  const pack = await openArchive(archive, 'every-island.zip');
  const rounds: { ours: number; theirs: number; first: number; second: number }[] = [];
  for (const game of games) {
    fillGame(archive, game);
    const theirs = reference(archive, game);
    const ours = await deployOverBridge(archive, game);
    const other = path.join(keepUntilEnd('game'), 'game');
    fillGame(archive, other);
    rounds.push({ ours, theirs, ...(await twice(pack, other)) });
  }
  const middle = (pick: (one: (typeof rounds)[number]) => number) =>
    rounds.map(pick).sort((a, b) => a - b)[Math.floor(rounds.length / 2)] as number;
  report({
    name: 'deploy over the bridge, 6,307 originals kept twice (Chromium and server)',
    ours: middle((one) => one.ours),
    reference: 'cp -a + unzip + sha256sum',
    theirs: middle((one) => one.theirs),
    limit: 1.5,
  });
  report({
    name: 'deploying when nothing is to be done',
    ours: middle((one) => one.second),
    reference: 'the first deployment',
    theirs: middle((one) => one.first),
    limit: 0.1,
  });
}
