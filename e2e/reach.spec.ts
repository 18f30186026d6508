import { type Page } from '@playwright/test';
import { reach } from './reach';
import { Started, ownGame, setUpGame } from './started';
import { chooseGame, deploy, drop, expect, openDemo, openFile, packed, step, takeFromShelf, test } from './support';

const main = (page: Page) => page.getByRole('main');
const press = (page: Page, name: string | RegExp) => main(page).getByRole('button', { name }).first().click();

const STEPS = ['Bring in', 'Place', 'Stack', 'Settings', 'Deploy', 'Check', 'Ledger'];
const OTHERS = ['card', 'set-ups', 'files', 'storage', 'help'];

/** Ids of the first demo game's folders. */
const IDS = ['program', 'user'];

/** Every step, and every page beside them. */
async function everyView(page: Page, where: string, ids: readonly string[]): Promise<void> {
  const look = async (name: string) => {
    // While a game is opened there is a title, too.
    await expect(page.locator('#games')).toBeVisible();
    await expect(main(page).getByRole('heading', { level: 1 })).toHaveCount(1);
    await reach(page, `${where}: ${name}`, ids);
  };
  for (const name of STEPS) {
    await step(page, name).click();
    await look(name);
  }
  for (const name of OTHERS) {
    await page.goto(new URL(`/game/${name}`, page.url()).href);
    await look(name);
  }
}

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

test('an accessibility checker finds nothing: the other two games', async ({ page }) => {
  await openDemo(page);
  for (const [title, ids] of [
    ['Crumbleby Bakery in Tinplate', ['player', 'user']],
    ['Hedgerow Hall', ['hall']],
  ] as const) {
    await chooseGame(page, title);
    await everyView(page, `${title}, empty`, ids);
    await step(page, 'Bring in').click();
    const shelf = page.getByRole('region', { name: 'Download shelf' });
    const offered = await shelf
      .getByRole('button', { name: /^Take / })
      .evaluateAll((all) => all.map((one) => one.getAttribute('aria-label') ?? ''));
    for (const name of offered.slice(0, 4)) {
      await page.getByRole('button', { name, exact: true }).click();
      await expect(shelf.getByRole('button', { name: name.replace(/^Take (.*)$/, '$1 is here') })).toBeVisible();
    }
    await everyView(page, title, ids);
  }
});

test('an accessibility checker finds nothing: a game that nobody described', async ({ page }) => {
  const { game, backup } = ownGame({
    'mill.exe': 'MZ',
    'look.ini': '[Look]\nWide=1\nStone=grey\n',
    'stones/first/stone.dat': 'a',
    'stones/second/stone.dat': 'b',
    'sounds/wheel.ogg': 'c',
  });
  const app = await new Started(game, backup, 4695).start();
  try {
    await setUpGame(page, app, 'Old Stone Mill');
    await everyView(page, 'own game, empty', ['game', 'main']);
    await step(page, 'Bring in').click();
    await drop(page, 'Third stone.zip', packed({ 'third/stone.dat': 'x', 'readme.txt': 'Set Wide=2 in look.ini.' }));
    await expect(page.getByRole('heading', { name: 'Third Stone', level: 1 })).toBeVisible();
    await everyView(page, 'own game', ['game', 'main']);
  } finally {
    await app.kill(page);
  }
});
