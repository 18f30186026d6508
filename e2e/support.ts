import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { zipSync } from 'fflate';
import { test as base, expect, type Page } from '@playwright/test';

/** Origins of servers that tests ended and have not started again. */
export const ended = new Set<string>();

/**
 * Every test watches the page: no request may go anywhere but to this computer, and nothing may break the page's
 * content rules or fail unseen.
 */
export const test = base.extend<{ watched: void }>({
  watched: [
    async ({ context }, use) => {
      const foreign: string[] = [];
      const errors: string[] = [];
      context.on('request', (request) => {
        const url = new URL(request.url());
        if (!['blob:', 'data:'].includes(url.protocol) && url.hostname !== '127.0.0.1') foreign.push(request.url());
      });
      context.on('weberror', (error) => errors.push(error.error().message));
      context.on('console', (message) => {
        if (message.location().url.endsWith('/favicon.ico')) return;
        // The bridge says with a status that a file is missing or locked; the page shows it in words.
        if (message.location().url.includes('/bridge/') && message.text().includes('responded with a status of 4'))
          return;
        // A server that the test itself ended answers nothing, to whatever the page was just asking.
        if (
          message.text().includes('net::ERR_') &&
          [...ended].some((origin) => message.location().url.startsWith(`${origin}/`))
        )
          return;
        if (message.type() === 'error' || /Content.Security.Policy/i.test(message.text())) errors.push(message.text());
      });
      await use();
      expect(foreign, 'requests to other computers').toEqual([]);
      expect(errors, 'errors in the page').toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

export const text = (value: string): Uint8Array => new TextEncoder().encode(value);

/** Texts as a ZIP. */
export const packed = (files: Record<string, string>): Buffer =>
  Buffer.from(
    zipSync(Object.fromEntries(Object.entries(files).map(([name, text]) => [name, new TextEncoder().encode(text)]))),
  );

/** Drops a ZIP on Bring in, which has to be open. */
export const drop = (page: Page, name: string, buffer: Buffer): Promise<void> =>
  page.getByLabel('Choose downloads').setInputFiles({ name, mimeType: 'application/zip', buffer });

export const step = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name: new RegExp(`^${name}`) });

/** Opens the demo in this test's fresh browser. */
export async function openDemo(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'On the download shelf' })).toBeVisible();
}

export async function chooseGame(page: Page, title: string): Promise<void> {
  await page.locator('#games').click();
  await page.getByRole('button', { name: title }).click();
  await expect(page.locator('#games')).toHaveText(title);
}

export async function takeFromShelf(page: Page, title: string): Promise<void> {
  await step(page, 'Bring in').click();
  await page.getByRole('button', { name: `Take ${title}` }).click();
  await expect(page.getByRole('heading', { name: title, level: 1 })).toBeVisible();
}

/** Finds a file in the picture of what overlaps by its name and opens its sheet. */
export async function openFile(page: Page, name: string): Promise<void> {
  await step(page, 'Stack').click();
  await page
    .getByRole('button', { name: /^Overlaps/ })
    .first()
    .click();
  await page.getByRole('searchbox', { name: 'Find a file or folder in the picture' }).fill(name);
  await page
    .getByRole('table', { name: 'Overlaps' })
    .getByRole('button', { name: new RegExp(`${name}$`) })
    .first()
    .click();
  await expect(page.getByText(/The next deployment/)).toBeVisible();
}

/** Lets the browser's own file system stand for the disk: each kind of folder that is asked for is one of that name. */
export const pickByKind = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    Object.assign(window, {
      showDirectoryPicker: async ({ id }: { id: string }) =>
        (await navigator.storage.getDirectory()).getDirectoryHandle(id, { create: true }),
    });
  });

/** Deploys what the layers say now and waits until everything has landed. */
export async function deploy(page: Page, landed: RegExp | string = /(\d+) of \1 landed/): Promise<void> {
  await step(page, 'Deploy').click();
  await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(page.getByText(landed)).toBeVisible({ timeout: 240_000 });
}

export async function putEverythingBack(page: Page): Promise<void> {
  await step(page, 'Ledger').click();
  await page.getByRole('button', { name: 'Put everything back…' }).click();
  await page.getByRole('button', { name: 'Put everything back now' }).click();
  // Not the button: it is disabled while the work goes on, too.
  await expect(page.getByText('The game’s folders hold nothing that came from a pack.')).toBeVisible({
    timeout: 240_000,
  });
}

/** What the strap says is in the game folder. */
export async function expectStrap(
  page: Page,
  figures: { packs: number; originals: number; changes: number },
): Promise<void> {
  const strap = page.getByRole('contentinfo', { name: 'In the game folder now' });
  await expect(strap).toContainText(
    new RegExp(
      `^${figures.packs}packs? in the game${figures.originals}originals? kept${figures.changes.toLocaleString('en')}changes? waiting`,
    ),
  );
}

/** Saves a copy of the game's folders through the interface and unpacks it with unzip: every file with its bytes. */
export async function folderBytes(page: Page): Promise<Record<string, Buffer>> {
  await step(page, 'Ledger').click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save a copy of the folders' }).click();
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-e2e-'));
  const archive = path.join(folder, 'copy.zip');
  await (await waiting).saveAs(archive);
  const unpacked = path.join(folder, 'copy');
  const { status, stderr } = spawnSync('unzip', ['-q', archive, '-d', unpacked]);
  if (status !== 0) throw new Error(`unzip: ${stderr.toString()}`);
  const files: Record<string, Buffer> = {};
  const walk = (at: string) => {
    for (const name of readdirSync(at)) {
      const full = path.join(at, name);
      if (statSync(full).isDirectory()) walk(full);
      else files[path.relative(unpacked, full).split(path.sep).join('/')] = readFileSync(full);
    }
  };
  walk(unpacked);
  return files;
}

/** The same folders but for the log, which belongs to the game itself. */
export function expectSameBytes(now: Record<string, Buffer>, before: Record<string, Buffer>): void {
  const names = (files: Record<string, Buffer>) =>
    Object.keys(files)
      .filter((name) => name !== 'user/load.log')
      .sort();
  expect(names(now)).toEqual(names(before));
  for (const name of names(before)) expect(Buffer.compare(now[name] as Buffer, before[name] as Buffer), name).toBe(0);
}

/**
 * Watches the page's main thread. A task counts by the time that the processor gave to it (the thread's own clock in
 * Chromium's trace), not by how long the machine was busy with something else meanwhile.
 *
 * @returns to be called at the end: says how many tasks took over 50 ms, and how long the longest one took
 */
export async function watchTasks(page: Page): Promise<() => Promise<string>> {
  const browser = page.context().browser();
  if (!browser) throw new Error('no browser to trace');
  await browser.startTracing(page, { categories: ['toplevel', '__metadata'] });
  return async () => {
    const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as {
      traceEvents: { name: string; pid: number; tid: number; dur?: number; tdur?: number; args?: { name?: string } }[];
    };
    const main = new Set(
      traceEvents
        .filter(({ name, args }) => name === 'thread_name' && args?.name === 'CrRendererMain')
        .map(({ pid, tid }) => `${pid} ${tid}`),
    );
    const tasks = traceEvents.filter(
      ({ name, pid, tid }) => name === 'ThreadControllerImpl::RunTask' && main.has(`${pid} ${tid}`),
    );
    if (tasks.length === 0 || tasks.every(({ tdur }) => tdur === undefined))
      throw new Error('the trace tells nothing of tasks');
    const [own, waited] = [tasks.map(({ tdur = 0 }) => tdur / 1000), tasks.map(({ dur = 0 }) => dur / 1000)];
    const over = (times: readonly number[]) =>
      `${times.filter((time) => time > 50).length} over 50 ms, the longest ${Math.max(...times).toFixed(0)} ms`;
    return `of ${tasks.length.toLocaleString('en')} tasks on the page ${over(own)}; with waiting for a busy processor ${over(waited)}`;
  };
}
