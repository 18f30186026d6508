import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import {
  deploy,
  expect,
  expectSameBytes,
  folderBytes,
  openDemo,
  putEverythingBack,
  step,
  takeFromShelf,
  test,
} from './support';

test('settings by key: what a read-me asks for, a value out of range, an XML attribute; and every byte back', async ({
  page,
}) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'North Isles');
  await step(page, 'Settings').click();
  await expect(page.getByRole('region', { name: 'What your packs ask for' })).toContainText(
    'Graphics › WaterDetail = 1',
  );
  await page.getByRole('button', { name: 'Set Graphics › WaterDetail to 1' }).click();
  await expect(page.getByRole('region', { name: 'What your packs ask for' })).toHaveCount(0);
  const keys = page.getByRole('table', { name: 'Keys' });
  await page.getByRole('searchbox', { name: 'Find a key' }).fill('waves');
  await expect(keys.getByRole('row').filter({ hasText: 'WaterDetail' })).toContainText('1 for you');
  await page.getByRole('searchbox', { name: 'Find a key' }).fill('');

  await page.getByLabel('Settings file', { exact: true }).selectOption({ label: 'View of each skipper: ada' });
  await page.getByRole('button', { name: 'Change view › camera › @field' }).click();
  const value = page.getByLabel('Value of view › camera › @field');
  await value.fill('140');
  await expect(page.getByText('“140” does not fit: it must not be above 100.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Set it' })).toBeDisabled();
  await value.fill('84');
  await page.getByRole('button', { name: 'Set it' }).click();
  await expect(keys.getByRole('row').filter({ hasText: '@field' })).toContainText('84 for you');
  // A key that the file does not have yet, and commands.
  await page.getByLabel('Settings file', { exact: true }).selectOption({ label: 'Commands at the start' });
  await page.getByText('Add a key that is not there…').click();
  await page.getByLabel('New key').fill('set > fog.near');
  await page.getByLabel('Its value').fill('12');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(keys.getByRole('row').filter({ hasText: 'fog.near' })).toContainText('12 for you');

  await page.reload();
  await deploy(page);
  const after = await folderBytes(page);
  const text = (files: Record<string, Buffer>, name: string) => files[name]?.toString() ?? '';
  // Only the values changed; everything around them is as it was.
  expect(text(after, 'user/skippers/ada/view.xml')).toBe(
    text(before, 'user/skippers/ada/view.xml').replace('field="70"', 'field="84"'),
  );
  expect(text(after, 'user/skippers/bo/view.xml')).toBe(text(before, 'user/skippers/bo/view.xml'));
  expect(text(after, 'user/autorun.cfg')).toBe(`${text(before, 'user/autorun.cfg')}set fog.near 12\r\n`);
  expect(text(after, 'user/ferries.ini')).toBe(
    text(before, 'user/ferries.ini').replace('WaterDetail=2', 'WaterDetail=1'),
  );
  await putEverythingBack(page);
  await expect(async () => expectSameBytes(await folderBytes(page), before)).toPass();
});

test('lines pasted from a page: the app finds the file, says what is new, and takes them as edits', async ({
  page,
}) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await step(page, 'Settings').click();
  await page.getByRole('button', { name: 'Paste lines', exact: true }).click();
  await page.getByLabel('Lines to paste').fill('hello there');
  await expect(page.getByText('No settings file of the game has these keys or sections.')).toBeVisible();
  await page.getByLabel('Lines to paste').fill('[Graphics]\nAddonTextures=1\nWaterDetail=2\nFoam=3');
  const lines = page.getByRole('list', { name: 'What the lines would change' });
  await expect(lines).toContainText('Graphics › AddonTextures = 1changed, it is 0 now');
  await expect(lines).toContainText('Graphics › WaterDetail = 2as it is');
  await expect(lines).toContainText('Graphics › Foam = 3new');
  await page.getByRole('button', { name: 'Take 2 values' }).click();
  await expect(page.getByLabel('Lines to paste')).toHaveValue('');
  await page.reload();
  await deploy(page, '1 of 1 landed');
  const [was, is] = [before, await folderBytes(page)].map((files) => (files['user/ferries.ini'] ?? '').toString());
  expect(is).toContain('AddonTextures=1');
  // Only those two lines differ.
  const lost = (was ?? '').split('\r\n').filter((line) => !(is ?? '').split('\r\n').includes(line));
  const gained = (is ?? '').split('\r\n').filter((line) => !(was ?? '').split('\r\n').includes(line));
  expect([lost, gained]).toEqual([['AddonTextures=0'], ['AddonTextures=1', 'Foam=3']]);
});

const part = (page: Page, name: string) => page.getByRole('button', { name, exact: true });

test('what packs need: a list that must name a folder, the next numbered section, an option of the launch line; and every byte back', async ({
  page,
}) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Brass Fittings');
  await takeFromShelf(page, 'Storm Paint');
  await takeFromShelf(page, 'Clear Waters');
  await step(page, 'Settings').click();
  await page
    .getByRole('alert')
    .filter({ hasText: '“brass-fittings” is not in the list' })
    .getByRole('button', { name: 'Add it to the list' })
    .click();
  await expect(page.getByText('“brass-fittings” is not in the list')).toHaveCount(0);
  const asks = page.getByRole('region', { name: 'What your packs ask for' });
  await asks.getByRole('button', { name: /Put in \[hull N\]/ }).click();
  await asks.getByRole('button', { name: 'Put in -nosplash' }).click();
  await expect(asks.getByText('hull N')).toHaveCount(0);
  await part(page, 'Numbered sections').click();
  await expect(page.getByRole('row', { name: /hull 2/ })).toContainText('name=Storm grey folder=storm-grey');
  await expect(page.getByRole('row', { name: /hull 2/ })).toContainText('there, spelled the same');
  await part(page, 'Launch line').click();
  await expect(page.getByLabel('The launch line')).toHaveText('-windowed -nosplash');
  // An option that runs a script: the script must be there.
  await page.getByLabel('Option', { exact: true }).fill('-exec');
  await page.getByLabel('What it is given').fill('mine.cfg');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText('There is no file “mine.cfg” in user.')).toBeVisible();
  await part(page, 'Sets and own files').click();
  await page.getByLabel('Name of the file').fill('mine');
  await page.getByRole('button', { name: 'Make it' }).click();
  await part(page, 'Keys').click();
  await page.getByLabel('Settings file', { exact: true }).selectOption({ label: 'Of your own: mine.cfg' });
  await page.getByText('Add a key that is not there…').click();
  await page.getByLabel('New key').fill('set > camera.wide');
  await page.getByLabel('Its value').fill('84');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(
    page.getByRole('table', { name: 'Keys' }).getByRole('row').filter({ hasText: 'camera.wide' }),
  ).toContainText('84 for you');
  await part(page, 'Launch line').click();
  await expect(page.getByText('There is no file “mine.cfg”')).toHaveCount(0);
  await page.reload();
  await deploy(page);
  const after = await folderBytes(page);
  const text = (name: string) => (after[name] ?? '').toString();
  expect(text('user/start.ini')).toBe('[Start]\r\nLine=-windowed -nosplash -exec mine.cfg\r\n');
  expect(text('user/mine.cfg')).toBe('set camera.wide 84\n');
  expect(text('program/vessels/heron/fleet.ini')).toBe(
    `${(before['program/vessels/heron/fleet.ini'] ?? '').toString()}[hull 2]\r\nname=Storm grey\r\nfolder=storm-grey\r\n`,
  );
  expect(text('user/ferries.ini')).toContain('AddonFolders=parts-locker,brass-fittings\r\n');
  await putEverythingBack(page);
  expectSameBytes(await folderBytes(page), before);
});

test('the game throws a new key out at the first start, and the app puts it in again', async ({ page }) => {
  await openDemo(page);
  await step(page, 'Settings').click();
  await page.getByLabel('Settings file', { exact: true }).selectOption({ label: 'Commands at the start' });
  await page.getByText('Add a key that is not there…').click();
  await page.getByLabel('New key').fill('set > fog.near');
  await page.getByLabel('Its value').fill('12');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(
    page.getByRole('table', { name: 'Keys' }).getByRole('row').filter({ hasText: 'fog.near' }),
  ).toContainText('12 for you');
  await deploy(page);
  await step(page, 'Check').click();
  await page.getByRole('main').getByRole('button', { name: 'Trial run' }).click();
  await expect(page.getByRole('heading', { name: 'What the game wrote' })).toBeVisible();
  await expect(page.getByRole('main').getByRole('button', { name: 'Trial run' })).toBeEnabled();
  await step(page, 'Settings').click();
  const lost = page.getByRole('alert').filter({ hasText: 'The game has dropped 1 edit' });
  await expect(lost).toContainText('set › fog.near = 12');
  await lost.getByRole('button', { name: 'Put it in again' }).click();
  await expect(lost).toHaveCount(0);
  await step(page, 'Check').click();
  await page.getByRole('main').getByRole('button', { name: 'Trial run' }).click();
  await expect(page.getByRole('heading', { name: 'What the game wrote' })).toBeVisible();
  await expect(page.getByRole('main').getByRole('button', { name: 'Trial run' })).toBeEnabled();
  await step(page, 'Settings').click();
  await expect(page.getByRole('button', { name: 'Keys', exact: true })).toBeVisible();
  await expect(page.getByText('has dropped')).toHaveCount(0);
  // The game has sorted its file; the edit stands.
  expect(((await folderBytes(page))['user/autorun.cfg'] ?? '').toString()).toBe(
    'bind f horn\r\nset camera.wide 70\r\nset fog.near 12\r\n',
  );
});

test('as text: marks, a comparison first, and only values change; values tried with notes; sets of edits', async ({
  page,
}) => {
  await openDemo(page);
  await step(page, 'Settings').click();
  await part(page, 'As text').click();
  const editor = page.getByRole('textbox', { name: 'Text of Game settings' });
  await expect(editor).toContainText('WaterDetail=2');
  await page.getByLabel('Go to a key').fill('WaterDetail');
  await editor.press('End');
  await page.keyboard.press('Backspace');
  await page.keyboard.type('9');
  await expect(page.locator('.cm-lint-marker-error')).toBeVisible();
  await page.keyboard.press('Backspace');
  await page.keyboard.type('3');
  await page.getByRole('button', { name: 'Look at the changes' }).click();
  await expect(page.getByText('1 value would change.')).toBeVisible();
  await expect(page.getByLabel('Differences')).toContainText('+ WaterDetail=3');
  await page.getByRole('button', { name: 'Take 1 value' }).click();
  await expect(page.getByText('1 value would change.')).toHaveCount(0);

  await part(page, 'Sets and own files').click();
  await page.getByLabel('Name of the set').fill('Fine water');
  await page.getByRole('button', { name: 'Keep my edits under this name' }).click();
  await expect(page.getByText('as it is now')).toBeVisible();
  await part(page, 'Keys').click();
  // Common practice: tuning is trial and error, a value after the other, each looked at in the game.
  for (const value of ['1', '4']) {
    await page.getByRole('button', { name: 'Change Graphics › WaterDetail' }).click();
    await page.getByLabel('Value of Graphics › WaterDetail').fill(value);
    await page.getByRole('button', { name: 'Set it' }).click();
    await expect(
      page.getByRole('table', { name: 'Keys' }).getByRole('row').filter({ hasText: 'WaterDetail' }),
    ).toContainText(`${value} for you`);
  }
  await page.getByRole('button', { name: 'Change Graphics › WaterDetail' }).click();
  // What was typed and set at once was taken: once the drafts are read, none is offered.
  await page.waitForTimeout(500);
  await expect(page.getByText(/was not taken yet/)).toHaveCount(0);
  await page.getByLabel('Note on 1').fill('too flat');
  await page.getByLabel('Note on 1').blur();
  await expect(page.getByRole('button', { name: 'Leave it' })).toBeEnabled();
  await page.reload();
  await page.getByRole('button', { name: 'Change Graphics › WaterDetail' }).click();
  await expect(page.getByLabel('Note on 1')).toHaveValue('too flat');
  await page.getByRole('button', { name: 'Take 1 again' }).click();
  await expect(page.getByLabel('Value of Graphics › WaterDetail')).toHaveValue('1');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await part(page, 'Sets and own files').click();
  await page.getByText('1 difference to what you have now').click();
  await expect(
    page.getByText('User-data folder/ferries.ini: Graphics › WaterDetail: 4 now, 3 in the set'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Take Fine water' }).click();
  await expect(page.getByText('as it is now')).toBeVisible();
});

test('a switch that needs another one: both are turned on; one title is changed and the others are not', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Gullwick Ferries' }).click();
  await page.getByRole('button', { name: /Crumbleby Bakery in Tinplate/ }).click();
  await takeFromShelf(page, 'Quick Oven Codes');
  await step(page, 'Settings').click();
  const list = page.getByRole('alert').filter({ hasText: '“Patches of Crumbleby Bakery” is off' });
  await expect(list).toContainText('It does nothing until “Code patches” is on, too.');
  await list.getByRole('button', { name: 'Turn both on' }).click();
  await expect(page.getByText('“Code patches” will be on after the next deployment')).toBeVisible();
  await expect(page.getByText('“Patches of Crumbleby Bakery” will be on after the next deployment')).toBeVisible();
  // Common practice: settings that belong to one title go into that title's file.
  await page.getByRole('button', { name: 'Change Picture › Scale' }).click();
  await expect(page.getByLabel('Where it is set')).toHaveValue('user/titles/CB-2041.ini');
  await page.getByLabel('Value of Picture › Scale').fill('4');
  await page.getByRole('button', { name: 'Set it' }).click();
  await deploy(page);
  const after = await folderBytes(page);
  expect((after['user/titles/CB-2041.ini'] ?? '').toString()).toContain('[Picture]\r\nScale=4');
  expect((after['user/titles/CB-2041.ini'] ?? '').toString()).toContain('UseList=1');
  expect((after['user/tinplate.ini'] ?? '').toString()).toContain('Scale=2');
  expect((after['user/titles/CB-2041.codes'] ?? '').toString()).toContain('+ Oven is hot at once\n1A20C4D0 00000001');
  await step(page, 'Settings').click();
  await expect(
    page.getByRole('table', { name: 'Keys' }).getByRole('row').filter({ hasText: 'Picture › Scale' }),
  ).toContainText('4 counts, from “Settings for one title: Crumbleby Bakery”');
});

test('two packs that want one key: both are named, the upper one counts, and taking it out lets the other through', async ({
  page,
}) => {
  await openDemo(page);
  await takeFromShelf(page, 'Clear Waters');
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-e2e-'));
  mkdirSync(path.join(folder, 'Still Waters'));
  writeFileSync(path.join(folder, 'Still Waters', 'ferries.ini'), '[Graphics]\r\nWaterDetail=0\r\n');
  execFileSync('zip', ['-qr', 'still.zip', 'Still Waters'], { cwd: folder });
  await step(page, 'Bring in').click();
  await page.getByLabel('Choose downloads').setInputFiles(path.join(folder, 'still.zip'));
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/still/i);
  await step(page, 'Settings').click();
  const row = page.getByRole('table', { name: 'Keys' }).getByRole('row').filter({ hasText: 'WaterDetail' });
  await expect(row).toContainText('0 for');
  await expect(row).toContainText('Clear Waters v1.4 wants 4');
  await step(page, 'Stack').click();
  await page.getByLabel('Use Still').click();
  await expect(page.getByLabel('Use Still')).not.toBeChecked();
  await step(page, 'Settings').click();
  await expect(row).toContainText('4 for “Clear Waters v1.4”');
});
