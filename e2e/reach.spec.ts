import { type Page } from '@playwright/test';
import { everyView, reach } from './reach';
import { deploy, drop, expect, openDemo, openFile, packed, step, takeFromShelf, test } from './support';

const main = (page: Page) => page.getByRole('main');
const press = (page: Page, name: string | RegExp) => main(page).getByRole('button', { name }).first().click();

/** Ids of the first demo game's folders. */
const IDS = ['program', 'user'];

test('an accessibility checker finds nothing: the first game, empty', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: /^Take the tour/ }).click();
  await reach(page, 'the tour');
  await page.keyboard.press('Escape');
  await everyView(page, 'empty', IDS);
  await page.goto('/?choose');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await reach(page, 'set up a game');
  await page.goto('/game/nowhere');
  await expect(page.getByRole('heading', { name: 'There is nothing at this address' })).toBeVisible();
  await reach(page, 'an unknown address');
});

test('an accessibility checker finds nothing: every sheet, menu and dialog of a full game', async ({ page }) => {
  const look = (where: string) => reach(page, where, IDS);
  await openDemo(page);
  for (const title of ['Weathered Quay 1.2', 'Storm Paint', 'Warm Words', 'Skippers Slang'])
    await takeFromShelf(page, title);
  await drop(page, 'broken off.zip', packed({ 'a.png': 'x' }).subarray(0, 40));
  await expect(page.getByRole('alert').first()).toBeVisible();
  await look('a broken download');
  await page.getByRole('button', { name: 'Close this message' }).first().click();
  await everyView(page, 'full', IDS);

  await page.locator('#games').click();
  await look('the games');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Changes' }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  await look('what was decided');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);

  await step(page, 'Place').click();
  await press(page, 'File by file');
  await press(page, 'Change the place');
  await look('Place, file by file');
  await step(page, 'Stack').click();
  for (const show of ['Rules', 'Merge packs…']) {
    await press(page, show);
    await look(`Stack, ${show}`);
  }
  await press(page, /^Weathered Quay/);
  await look('Stack, one pack');
  await openFile(page, 'harbour.lang');
  await look('Stack, a file');
  await press(page, /^Merge/);
  await look('Stack, a merge');

  await step(page, 'Settings').click();
  const parts = main(page)
    .getByRole('list', { name: 'Settings' })
    .or(main(page).getByLabel('Settings', { exact: true }));
  for (const part of await parts.first().getByRole('button').allInnerTexts()) {
    await press(page, part);
    await look(`Settings, ${part}`);
  }
  await press(page, 'Keys');
  await press(page, /^Change /);
  await look('Settings, one key');

  await deploy(page);
  await look('landed');
  await step(page, 'Check').click();
  await press(page, /^Trial run/);
  await expect(main(page).getByRole('heading', { level: 1, name: /loaded/ })).toBeVisible();
  await look('Check, after a trial run');
  await step(page, 'Ledger').click();
  await press(page, 'Put everything back…');
  await press(page, 'Show steps');
  await look('Ledger, open');
  await page.goto('/game/files');
  await page.getByRole('searchbox', { name: 'Find a file' }).fill('plank');
  await press(page, /plank.*\.png$/);
  await look('one file of the game');
  await page.goto('/game/storage');
  await expect(main(page).getByRole('heading', { level: 1 })).toBeVisible();
  await look('storage, full');
});
