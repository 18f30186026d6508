import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import {
  chooseGame,
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

const main = (page: Page) => page.getByRole('main');
/** A trial run, waited for to its end. */
async function trial(page: Page): Promise<void> {
  await step(page, 'Check').click();
  const button = main(page).getByRole('button', { name: 'Trial run', exact: true });
  await button.click();
  await expect(page.getByText(/What the game wrote into its log|It ended before it could write/)).toBeVisible();
  await expect(button).toBeEnabled();
}
const alert = (page: Page, text: string) => page.getByRole('alert').filter({ hasText: text });

test('a flood of missing texts is one finding, cured by one rename, and the next start proves it', async ({ page }) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Dockside Talk');
  await deploy(page);
  await trial(page);
  // Common practice: a file of the same name as one of the game's replaces it whole; renaming it cures all of them at
  // once.
  const flood = alert(page, '4 texts are missing, all for one reason');
  await expect(flood).toContainText('“Dockside Talk” replaces that file');
  await expect(page.getByRole('list', { name: 'Messages' })).toContainText('The game has no words for “fog”.');
  await page.reload();
  await flood.getByRole('button', { name: 'Rename the pack’s file to dockside-talk-harbour.lang' }).click();
  await page.waitForURL('**/deploy');
  await deploy(page);
  await trial(page);
  await expect(page.getByRole('region', { name: 'Since the start before' })).toContainText('4 messages gone, 0 new');
  await expect(flood).toHaveCount(0);
  const after = await folderBytes(page);
  expect(
    Buffer.compare(
      after['program/assets/text/harbour.lang'] as Buffer,
      before['program/assets/text/harbour.lang'] as Buffer,
    ),
  ).toBe(0);
  expect((after['program/assets/text/dockside-talk-harbour.lang'] ?? '').toString()).toContain('tea hut');
});

test('a missing icon is cured by a copy of another, other capitals by a rename; a report names neither player nor home', async ({
  page,
}) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Rope Works');
  await step(page, 'Check').click();
  // Before anything is written: the list, and the script's picture in other capitals.
  await expect(alert(page, 'hawser.png is asked for and not there')).toContainText('other capitals');
  await alert(page, '“rope-works” is not in the list').getByRole('button', { name: 'Add it to the list' }).click();
  await page.waitForURL('**/deploy');
  await deploy(page);
  await trial(page);
  const icon = alert(page, 'The game misses addons/rope-works/icon.png.');
  await icon.getByRole('button', { name: 'Put a copy of “parts-locker/icon.png” there' }).click();
  await page.waitForURL('**/deploy');
  await step(page, 'Check').click();
  await alert(page, 'hawser.png').getByRole('button', { name: 'Rename it to hawser.png' }).click();
  await page.waitForURL('**/deploy');
  await deploy(page);
  await trial(page);
  await expect(page.getByRole('region', { name: 'Since the start before' })).toContainText('2 messages gone, 0 new');
  await expect(main(page).getByRole('alert')).toHaveCount(0);
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save a report' }).click();
  const report = readFileSync(await (await waiting).path(), 'utf8');
  expect(report).toContain('# Gullwick Ferries');
  expect(report).toContain('| Rope Works | rope-works.zip |');
  const after = await folderBytes(page);
  expect(
    Buffer.compare(
      after['program/addons/rope-works/icon.png'] as Buffer,
      after['program/addons/parts-locker/icon.png'] as Buffer,
    ),
  ).toBe(0);
  expect(Object.keys(after)).toContain('program/addons/rope-works/textures/hawser.png');
  await putEverythingBack(page);
  expectSameBytes(await folderBytes(page), before);
});

test('a pack for another region, put in all the same: found before the start, cured by the right id, and painted over', async ({
  page,
}) => {
  await openDemo(page);
  await chooseGame(page, 'Crumbleby Bakery in Tinplate');
  await takeFromShelf(page, 'Sugar Buns');
  await step(page, 'Place').click();
  // The player insists on the id that the pack has.
  await page.getByRole('radio', { name: /Leave it as CB-7041/ }).click();
  await expect(main(page).getByRole('alert')).toContainText('these textures will not load');
  await step(page, 'Settings').click();
  await main(page).getByRole('button', { name: 'Turn it on' }).first().click();
  await expect(page.getByText('“Load the paintbox” will be on after the next deployment')).toBeVisible();
  await deploy(page);
  await trial(page);
  await expect(page.getByRole('heading', { level: 1, name: '0 of 6 loaded' })).toBeVisible();
  await alert(page, '“Sugar Buns” is for the South edition')
    .getByRole('button', { name: 'Rename the folder to CB-2041' })
    .click();
  await page.waitForURL('**/deploy');
  await deploy(page);
  await trial(page);
  await expect(page.getByRole('heading', { level: 1, name: '6 of 6 loaded' })).toBeVisible();
  await expect(main(page).getByRole('alert')).toHaveCount(0);
});

test('a crash without a line: the culprit is found by halves, and everything else is as it was', async ({ page }) => {
  await openDemo(page);
  for (const pack of ['Painted Boats', 'Deep Horns', 'Wild Gale', 'Evening Harbour 2']) await takeFromShelf(page, pack);
  await step(page, 'Settings').click();
  await page.getByRole('main').getByRole('button', { name: 'Turn it on' }).click();
  await deploy(page);
  await trial(page);
  await expect(page.getByRole('heading', { name: 'The game wrote nothing' })).toBeVisible();
  await page.getByText('No line says what is wrong?').click();
  await page.getByRole('button', { name: 'Find it by halves' }).click();
  const search = page.getByRole('region', { name: 'Finding the culprit' });
  let starts = 0;
  for (; starts < 8; starts++) {
    await expect(
      search.getByRole('button', { name: /Put them in|Put all packs back as they were/ }).first(),
    ).toBeEnabled();
    if (await search.getByText('It is “Wild Gale”').isVisible()) break;
    await search.getByRole('button', { name: 'Put them in and do a trial run' }).click();
    await expect(search.getByText('Does it still fail?')).toBeVisible();
    await expect(search.getByRole('button', { name: 'It works' })).toBeEnabled();
    // The page can be left in the middle of it.
    if (starts === 0) await page.reload();
    const silent = await search.getByText('The trial run ended without a line.').isVisible();
    await search.getByRole('button', { name: silent ? 'It still fails' : 'It works' }).click();
    await expect(search.getByText('Does it still fail?')).toHaveCount(0);
  }
  expect(starts).toBeLessThanOrEqual(2 * Math.log2(4) + 2);
  await search.getByRole('button', { name: 'Take “Wild Gale” out, and put the others back' }).click();
  await expect(search).toHaveCount(0);
  await deploy(page);
  await trial(page);
  await expect(page.getByRole('heading', { level: 1, name: /(\d+) of \1 loaded/ })).toBeVisible();
  await expect(main(page).getByRole('alert')).toHaveCount(0);
});

test('a log of another program, pasted and dropped: colours, a trace, folded lines; a rule made of a line; a message set aside', async ({
  page,
}) => {
  await openDemo(page);
  await takeFromShelf(page, 'Rope Works');
  await step(page, 'Settings').click();
  await page.getByRole('button', { name: 'Add it to the list' }).first().click();
  await deploy(page);
  await trial(page);
  await page.getByText('Read another log…').click();
  await page
    .getByLabel('Lines of a log')
    .fill(
      '\u001b[31mERROR could not find file textures/rope.png\u001b[0m\n   at load (core)\nERROR could not find file textures/rope.png\nall fine\n',
    );
  await page.getByRole('button', { name: 'Read these lines' }).click();
  const log = page.getByRole('region', { name: 'Log Pasted lines' });
  await expect(log).toContainText('could not find file textures/rope.png 2 times, first in line 1');
  await expect(log.getByText('All of its lines')).toBeVisible();
  await expect(page.getByText('read by the form that its lines have')).toBeVisible();

  const own = page.getByRole('region', { name: 'Log', exact: true });
  await own.getByRole('button', { name: 'Not understood' }).click();
  await own.getByRole('button', { name: /Make a rule of line 1$/ }).click();
  const rule = page.getByRole('form', { name: 'A rule for this line' });
  await rule.getByLabel('The line').evaluate((input: HTMLInputElement) => input.setSelectionRange(3, 19));
  await rule.getByRole('button', { name: 'This part changes' }).click();
  await rule.getByLabel('What it means').fill('The game {part1} begins');
  await expect(rule.getByText('It knows 1 line of this log.')).toBeVisible();
  await rule.getByRole('button', { name: 'Take the rule' }).click();
  await own.getByRole('button', { name: 'Folded' }).click();
  await expect(own).toContainText('The game Gullwick Ferries begins');

  const icon = alert(page, 'The game misses addons/rope-works/icon.png.');
  await icon.getByRole('button', { name: 'It is harmless…' }).click();
  await icon.getByLabel('Why it is harmless').fill('only a picture in a list');
  await icon.getByRole('button', { name: 'Set it aside' }).click();
  await expect(icon).toHaveCount(0);
  await page.reload();
  await page.getByText('One finding is set aside as harmless').click();
  await page.getByRole('button', { name: /Take up The game misses/ }).click();
  await expect(icon).toBeVisible();
});

test('a title sealed in one file: said before the start, unpacked by its cure, and the pictures before and after lie side by side', async ({
  page,
}) => {
  await openDemo(page);
  await chooseGame(page, 'Crumbleby Bakery in Tinplate');
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Sugar Buns');
  await step(page, 'Place').click();
  await page.getByRole('button', { name: 'Take the suggestion' }).click();
  await takeFromShelf(page, 'Pebble Moss');
  await step(page, 'Settings').click();
  await main(page)
    .getByRole('button', { name: /^Turn .*on/ })
    .first()
    .click();
  await deploy(page);
  await step(page, 'Check').click();
  // Nothing has been started yet, and the app knows.
  await expect(alert(page, 'Pebble Wharf is kept in one file')).toContainText('User-data folder/shelf/PW-5120.tub');
  await trial(page);
  await expect(page.getByRole('heading', { name: '6 of 12 loaded' })).toBeVisible();
  await page.reload();
  await step(page, 'Check').click();
  await alert(page, 'Pebble Wharf is kept in one file').getByRole('button', { name: 'Unpack PW-5120.tub' }).click();
  await expect(page.getByRole('main').getByText('PW-5120.title')).toBeVisible();
  await deploy(page);
  await trial(page);
  await expect(page.getByRole('heading', { name: '12 of 12 loaded' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Since the start before' })).toContainText('1 message gone');
  await page.getByText('Before and after: a picture').click();
  await expect(page.getByRole('img', { name: 'the original' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'what “Sugar Buns” put there' })).toBeVisible();
  await putEverythingBack(page);
  const after = await folderBytes(page);
  delete after['user/tinplate.log'];
  expectSameBytes(after, before);
});
