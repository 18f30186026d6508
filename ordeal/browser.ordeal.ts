import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { expect, it } from 'vitest';
import { dice, report, same } from './trial';

const KILLS = Number(process.env.ORDEAL_BROWSER_KILLS ?? '16');
const PORT = 4699;
const ORIGIN = `http://127.0.0.1:${PORT}`;

/** The app with its demo, on a port of its own. */
async function startApp(): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['scripts/start.mjs', '--demo'], {
    env: { ...process.env, PORT: String(PORT) },
    stdio: 'ignore',
    detached: true,
  });
  for (let i = 0; i < 600; i++) {
    if (
      await fetch(ORIGIN).then(
        (response) => response.ok,
        () => false,
      )
    )
      return child;
    await new Promise((done) => setTimeout(done, 200));
  }
  throw new Error('the app did not start');
}

const open = async (profile: string): Promise<{ context: BrowserContext; page: Page }> => {
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: process.env.CHROMIUM,
    args: ['--no-sandbox', '--disable-background-networking', '--no-first-run'],
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
  });
  const page = context.pages()[0] ?? (await context.newPage());
  page.setDefaultTimeout(60_000);
  return { context, page };
};

/** All of its processes at once, as when the power goes. */
const kill = (profile: string): void => {
  try {
    execFileSync('pkill', ['-KILL', '-f', profile]);
  } catch {
    // There was none any more.
  }
};

const step = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name: new RegExp(`^${name}`) });

/** The game's folders as unzip finds them in the copy that the page saves. */
async function folders(page: Page): Promise<Record<string, string>> {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-copy-'));
  try {
    await step(page, 'Ledger').click();
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save a copy of the folders' }).click();
    await (await waiting).saveAs(path.join(folder, 'copy.zip'));
    const sums = execFileSync(
      'bash',
      ['-c', 'unzip -q copy.zip -d out && cd out && find . -type f ! -name load.log -exec sha256sum {} +'],
      { cwd: folder },
    ).toString();
    return Object.fromEntries(
      sums
        .trim()
        .split('\n')
        .map((line) => [line.slice(66), line.slice(0, 64)]),
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

it('the browser is killed at random moments of deployments and of putting back: as before or as after, and nothing is lost', async () => {
  const roll = dice('browser');
  const profile = mkdtempSync(path.join(tmpdir(), 'satchel-profile-'));
  const app = await startApp();
  const total = { killed: 0, between: 0, losses: 0 };
  try {
    let { context, page } = await open(profile);
    await page.goto(ORIGIN);
    await page.getByRole('button', { name: 'Take Weathered Quay 1.2' }).click();
    await page.getByRole('heading', { name: 'Weathered Quay 1.2', level: 1 }).waitFor();
    const own = await folders(page);
    const deploy = async () => {
      await step(page, 'Deploy').click();
      await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
    };
    const putBack = async () => {
      await step(page, 'Ledger').click();
      await page.getByRole('button', { name: 'Put everything back…' }).click();
      await page.getByRole('button', { name: 'Put everything back now' }).click();
    };
    const back = () => page.getByText('The game’s folders hold nothing that came from a pack.').waitFor();
    await deploy();
    await page.getByText('214 of 214 landed').waitFor();
    const packed = await folders(page);
    let isPacked = true;
    for (let i = 0; i < KILLS; i++) {
      await (isPacked ? putBack() : deploy());
      await page.waitForTimeout(roll(900));
      kill(profile);
      await context.close().catch(() => undefined);
      ({ context, page } = await open(profile));
      await page.goto(ORIGIN);
      await step(page, 'Ledger').click();
      const now = await folders(page);
      if (same(now, own)) isPacked = false;
      else if (same(now, packed)) isPacked = true;
      else {
        total.between++;
        console.log(
          'neither before nor after',
          Object.keys(now)
            .filter((name) => now[name] !== own[name] && now[name] !== packed[name])
            .slice(0, 9),
        );
      }
      if (await page.getByText(/was cut off/).isVisible()) total.killed++;
    }
    if (isPacked) {
      await putBack();
      await back();
    }
    if (!same(await folders(page), own)) total.losses++;
    await context.close();
  } finally {
    kill(profile);
    process.kill(-(app.pid ?? 0), 'SIGTERM');
    rmSync(profile, { recursive: true, force: true });
  }
  report({
    name: 'kills of the browser, deploying and putting back',
    tries: KILLS,
    losses: total.losses,
    between: total.between,
    note: `${total.killed} were cut off in the middle`,
  });
  expect([total.losses, total.between]).toEqual([0, 0]);
});
