import { readFileSync } from 'node:fs';
import { drop, expect, openDemo, packed, step, test } from './support';

test('notes on a pack: kept over a reload, found by the search in Stack, undone, and in the report without what is private', async ({
  page,
}) => {
  await openDemo(page);
  await step(page, 'Bring in').click();
  for (const name of ['heron', 'puffin', 'tern', 'gull', 'plover', 'curlew']) {
    await drop(page, `${name}.zip`, packed({ [`boats/${name}.png`]: name }));
    await expect(page.getByRole('heading', { name: new RegExp(name, 'i'), level: 1 })).toBeVisible();
  }
  const notes = page.locator('summary').filter({ hasText: 'Notes' });
  await notes.click();
  await page.getByLabel('Version').fill('2.1');
  await page.getByLabel('Where it came from').fill('https://packs.example/curlew?id=7&token=s3cret');
  await page.getByLabel('What to remember').fill('Only with the blue sails. Asked ada@mail.example');
  await page.getByRole('button', { name: 'Keep these notes' }).click();
  await expect(page.getByRole('button', { name: 'Undo: Notes on “Curlew” written' })).toBeVisible();
  await page.reload();
  await expect(notes).toContainText('version 2.1 · Only with the blue sails.');

  await step(page, 'Stack').click();
  const slabs = page.getByRole('list', { name: 'Stack, topmost first' }).getByRole('listitem');
  await page.getByRole('searchbox', { name: 'Find a pack by name or notes' }).fill('BLUE sails');
  await expect(slabs).toHaveCount(2);
  await expect(slabs.first()).toContainText('Curlew');
  // What is moved while others are hidden goes by its true place.
  await slabs.first().getByRole('button', { name: 'Move Curlew down' }).click();
  await page.getByRole('searchbox', { name: 'Find a pack by name or notes' }).fill('');
  await expect(slabs.first()).toContainText('Plover');
  await expect(slabs.nth(1)).toContainText('Curlew');
  await page.getByRole('searchbox', { name: 'Find a pack by name or notes' }).fill('nothing like it');
  await expect(page.getByText('No pack has this in its name or notes.')).toBeVisible();

  await step(page, 'Check').click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save a report' }).click();
  const report = readFileSync(await (await waiting).path(), 'utf8');
  expect(report).toContain(
    'version 2.1; from https://packs.example/curlew?id=7; Only with the blue sails. Asked (an address)',
  );
  expect(report).not.toMatch(/s3cret|ada@/);

  await step(page, 'Bring in').click();
  await page.getByRole('button', { name: /^Undo: / }).click();
  await page.getByRole('button', { name: 'Undo: Notes on “Curlew” written' }).click();
  await expect(notes).not.toContainText('2.1');
  await expect(page.getByLabel('What to remember')).toHaveValue('');
});
