import { expect, expectSameBytes, folderBytes, openDemo, step, takeFromShelf, test } from './support';

test('settings by key: what a read-me asks for, a value out of range, an XML attribute; and every byte back', async ({ page }) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'North Isles');
  await step(page, 'Settings').click();
  await expect(page.getByRole('region', { name: 'What your packs ask for' })).toContainText('Graphics › WaterDetail = 1');
  await page.getByRole('button', { name: 'Set Graphics › WaterDetail to 1' }).click();
  await expect(page.getByRole('region', { name: 'What your packs ask for' })).toHaveCount(0);
  const keys = page.getByRole('table', { name: 'Keys' });
  await page.getByRole('searchbox', { name: 'Find a key' }).fill('waves');
  await expect(keys.getByRole('row').filter({ hasText: 'WaterDetail' })).toContainText('1 for you');
  await page.getByRole('searchbox', { name: 'Find a key' }).fill('');

  await page.getByLabel('Settings file').selectOption({ label: 'View of each skipper: ada' });
  await page.getByRole('button', { name: 'Change view › camera › @field' }).click();
  const value = page.getByLabel('Value of view › camera › @field');
  await value.fill('140');
  await expect(page.getByText('“140” does not fit: it must not be above 100.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Set it' })).toBeDisabled();
  await value.fill('84');
  await page.getByRole('button', { name: 'Set it' }).click();
  await expect(keys.getByRole('row').filter({ hasText: '@field' })).toContainText('84 for you');
  // A key that the file does not have yet, and commands.
  await page.getByLabel('Settings file').selectOption({ label: 'Commands at the start' });
  await page.getByText('Add a key that is not there…').click();
  await page.getByLabel('New key').fill('set > fog.near');
  await page.getByLabel('Its value').fill('12');
  await page.getByRole('button', { name: 'Add it' }).click();
  await expect(keys.getByRole('row').filter({ hasText: 'fog.near' })).toContainText('12 for you');

  await page.reload();
  await step(page, 'Deploy').click();
  await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(page.getByText(/\d+ of \d+ landed/)).toBeVisible();
  const after = await folderBytes(page);
  const text = (files: Record<string, Buffer>, name: string) => files[name]?.toString() ?? '';
  // Only the values changed; everything around them is as it was.
  expect(text(after, 'user/skippers/ada/view.xml')).toBe(text(before, 'user/skippers/ada/view.xml').replace('field="70"', 'field="84"'));
  expect(text(after, 'user/skippers/bo/view.xml')).toBe(text(before, 'user/skippers/bo/view.xml'));
  expect(text(after, 'user/autorun.cfg')).toBe(`${text(before, 'user/autorun.cfg')}set fog.near 12\r\n`);
  expect(text(after, 'user/ferries.ini')).toBe(text(before, 'user/ferries.ini').replace('WaterDetail=2', 'WaterDetail=1'));
  await step(page, 'Ledger').click();
  await page.getByRole('button', { name: 'Put everything back…' }).click();
  await page.getByRole('button', { name: 'Put everything back now' }).click();
  await expect(async () => expectSameBytes(await folderBytes(page), before)).toPass();
});

test('lines pasted from a page: the app finds the file, says what is new, and takes them as edits', async ({ page }) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await step(page, 'Settings').click();
  await page.getByText('Paste lines from a pack’s page').click();
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
  await step(page, 'Deploy').click();
  await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(page.getByText('1 of 1 landed')).toBeVisible();
  const [was, is] = [before, await folderBytes(page)].map((files) => (files['user/ferries.ini'] ?? '').toString());
  expect(is).toContain('AddonTextures=1');
  // Only those two lines differ.
  const lost = (was ?? '').split('\r\n').filter((line) => !(is ?? '').split('\r\n').includes(line));
  const gained = (is ?? '').split('\r\n').filter((line) => !(was ?? '').split('\r\n').includes(line));
  expect([lost, gained]).toEqual([['AddonTextures=0'], ['AddonTextures=1', 'Foam=3']]);
});
