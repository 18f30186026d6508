import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium } from '@playwright/test';
import { zipSync } from 'fflate';
import { expect, expectSameBytes, folderBytes, pickByKind, step, takeFromShelf, test, text } from './support';
import { PLAIN, read, setUp } from './plainFolder';

for (const kind of ['picked', 'browser'] as const)
  test(`the browser is ended in the middle of a deployment into a ${kind} folder: the next start puts everything back`, async () => {
    const profile = mkdtempSync(path.join(tmpdir(), 'satchel-profile-'));
    const launch = () =>
      chromium.launchPersistentContext(profile, {
        ...(process.env.CHROMIUM ? { executablePath: process.env.CHROMIUM } : {}),
        args: ['--no-sandbox'],
        viewport: { width: 1280, height: 800 },
      });
    const names = Array.from({ length: 1500 }, (_, i) => `data/maps/part ${i % 10}/piece ${i}.map`);
    const pack = zipSync(
      { ...Object.fromEntries(names.map((name, i) => [`Big/${name}`, text(`pack ${i} `.repeat(400))])) },
      { level: 1 },
    );
    const file = path.join(profile, 'big.zip');
    let context = await launch();
    try {
      let page = context.pages()[0] ?? (await context.newPage());
      await pickByKind(page);
      if (kind === 'picked') {
        await setUp(page);
        writeFileSync(file, pack);
        await page.getByLabel('Choose downloads').setInputFiles(file);
        await expect(page.getByRole('heading', { name: 'Big', level: 1 })).toBeVisible();
      } else {
        await page.goto('http://127.0.0.1:4650/');
        await expect(page.getByRole('heading', { name: 'On the download shelf' })).toBeVisible();
        await takeFromShelf(page, 'Every Island');
      }
      const contents = () => (kind === 'picked' ? read(page, 'game') : folderBytes(page));
      const before = await contents();
      await step(page, 'Deploy').click();
      await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
      await expect(page.getByRole('status', { name: 'Work under way' })).toContainText(
        /Writing and reading back: [1-9]/,
        { timeout: 240_000 },
      );
      const closed = new Promise((done) => context.once('close', done));
      // The whole browser at once, without a word.
      spawnSync('pkill', ['-9', '-f', `user-data-dir=${profile}`]);
      await closed;

      context = await launch();
      page = context.pages()[0] ?? (await context.newPage());
      await page.goto(kind === 'picked' ? PLAIN : 'http://127.0.0.1:4650/');
      await expect(page.getByText('“Deploy” was cut off half-way; everything was put back as it was.')).toBeVisible({
        timeout: 240_000,
      });
      const after = await contents();
      if (kind === 'picked') expect(after).toEqual(before);
      else expectSameBytes(after as Record<string, Buffer>, before as Record<string, Buffer>);
    } finally {
      await context.close();
      rmSync(profile, { recursive: true, force: true });
    }
  });
