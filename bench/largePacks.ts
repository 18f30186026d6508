import { randomBytes } from 'node:crypto';
import { closeSync, mkdirSync, mkdtempSync, openSync, rmSync, writeFileSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { givenFolder, setUpGame } from './bridge';
import { report, timedTool } from './measure';

const MB = 1024 ** 2;
const HASH = 'find . -type f -print0 | xargs -0 sha256sum';
const TILES = 300;

/** A file of which the most does not pack. */
function writeNoise(at: string, size: number): void {
  const file = openSync(at, 'w');
  const noise = randomBytes(MB);
  const text = Buffer.alloc(MB / 8, 'row of bricks ');
  for (let n = 0, left = size; left > 0; n++) {
    noise.writeUInt32LE(n, 0);
    const piece = (n % 2 === 0 ? noise : text).subarray(0, left);
    writeSync(file, piece);
    left -= piece.length;
  }
  closeSync(file);
}

/** Textures of 5 MB, and one file of the size given. */
function writeTextures(top: string, name: string, large: number): string {
  const folder = path.join(top, name, 'textures');
  mkdirSync(folder, { recursive: true });
  for (let n = 0; n < TILES; n++) writeNoise(path.join(folder, `tile${n}.dds`), 5 * MB);
  writeNoise(path.join(folder, 'giant.pak'), large);
  return path.join(top, name);
}

/** Seconds until a text stands in an element; looks twice a second, so that looking costs nothing. */
async function until(page: Page, where: string, text: string): Promise<number> {
  const began = performance.now();
  await page.waitForFunction(
    ([selector, wanted]) => document.querySelector<HTMLElement>(selector)?.innerText.includes(wanted),
    [where, text] as const,
    { polling: 500, timeout: 600_000 },
  );
  return (performance.now() - began) / 1000;
}

/**
 * Packs of gigabytes, taken from the downloads folder where they lie, and one of them deployed.
 *
 * @param game an empty folder that the server was started with
 */
export async function largePackLines(game: string): Promise<void> {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-bench-packs-'));
  const downloads = path.join(top, 'downloads');
  mkdirSync(downloads);
  mkdirSync(process.env.SATCHEL_BACKUP as string, { recursive: true });
  writeFileSync(
    path.join(process.env.SATCHEL_BACKUP as string, 'downloads.json'),
    JSON.stringify({ format: 1, folder: downloads }),
  );
  for (const name of ['first', 'second']) {
    mkdirSync(path.join(game, 'mods', name, 'textures'), { recursive: true });
    writeFileSync(path.join(game, 'mods', name, 'textures', 'a.dds'), name);
  }
  const make = (from: string, tool: string, values: string[]) => {
    timedTool(tool, values, from);
    rmSync(from, { recursive: true });
  };
  const at = (name: string) => path.join(downloads, name);
  make(writeTextures(top, 'granite', 4608 * MB), 'zip', ['-1', '-q', '-r', at('granite.zip'), '.']);
  make(writeTextures(top, 'slate', 512 * MB), '7z', ['a', '-bso0', '-bsp0', '-mx1', at('slate.7z'), '.']);
  make(writeTextures(top, 'flint', 512 * MB), 'bsdtar', ['-c', '--zstd', '-f', at('flint.tar.zst'), '.']);
  timedTool('find', [downloads, '-type', 'f', '-exec', 'touch', '-d', '1 hour ago', '{}', '+'], top);

  const browser = await chromium.launchPersistentContext(path.join(top, 'profile'), {
    executablePath: process.env.CHROMIUM as string,
    args: ['--no-sandbox', '--disable-background-networking'],
  });
  const page = browser.pages()[0] ?? (await browser.newPage());
  await setUpGame(page, givenFolder(game));
  const take = async (name: string, title: string): Promise<number> => {
    await page.getByRole('button', { name: `Take ${name}` }).click();
    return until(page, 'h1', title);
  };
  const theirs = (unpack: string): number => {
    const seconds = timedTool('sh', ['-c', `mkdir un && cd un && ${unpack} && ${HASH}`], top);
    rmSync(path.join(top, 'un'), { recursive: true });
    return seconds;
  };
  const line = (name: string, ours: number, reference: string, seconds: number, limit: number) =>
    report({ name, ours, reference, theirs: seconds, limit });
  const granite = await take('granite.zip', 'Granite');
  await page.getByRole('link', { name: /^Deploy/ }).click();
  await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  const deployed = await until(page, 'main', `${TILES + 1} of ${TILES + 1} landed`);
  line(
    'take in and deploy a ZIP of 6 GB with a file of 4.5 GB in it',
    granite + deployed,
    'unzip + sha256sum',
    theirs(`unzip -q ${at('granite.zip')}`),
    1.3,
  );
  await page.getByRole('link', { name: /^Bring in/ }).click();
  const slate = await take('slate.7z', 'Slate');
  line('take in a 7z of 2 GB', slate, '7z x + sha256sum', theirs(`7z x -bso0 -bsp0 ${at('slate.7z')}`), 1.5);
  const flint = await take('flint.tar.zst', 'Flint');
  line('take in a tar.zst of 2 GB', flint, 'bsdtar -x + sha256sum', theirs(`bsdtar -xf ${at('flint.tar.zst')}`), 1.5);
  await browser.close();
  rmSync(top, { recursive: true, force: true });
}
