import { type Page } from '@playwright/test';
import { zipSync } from 'fflate';
import { expect, openDemo, test } from './support';

test.use({ hasTouch: true, viewport: { width: 400, height: 800 } });

const main = (page: Page) => page.getByRole('main');
const stepTo = (page: Page, name: string) =>
  page
    .getByRole('navigation', { name: 'Steps' })
    .getByRole('link', { name: new RegExp(`^${name}`) })
    .tap();

test('the whole job by touch on a small screen: what is dragged has arrows, what is cut is read with a tap', async ({
  page,
}) => {
  await openDemo(page);
  for (const title of ['Evening Harbour 2', 'Weathered Quay 1.2']) {
    await stepTo(page, 'Bring in');
    await page.getByRole('button', { name: `Take ${title}` }).tap();
    await expect(page.getByRole('heading', { name: title, level: 1 })).toBeVisible();
  }
  const long = `assets/textures/quay/${'a rather long name of a folder '.repeat(3)}`.trim();
  const files = { [`${long}/and of a file in it.png`]: new TextEncoder().encode('x') };
  await stepTo(page, 'Bring in');
  await page
    .getByLabel('Choose downloads')
    .setInputFiles({ name: 'Long Paths.zip', mimeType: 'application/zip', buffer: Buffer.from(zipSync(files)) });
  await expect(page.getByRole('heading', { name: 'Long Paths', level: 1 })).toBeVisible();

  await stepTo(page, 'Stack');
  const order = () =>
    main(page)
      .getByRole('list', { name: 'Stack, topmost first' })
      .getByRole('checkbox', { name: /^Use / })
      .evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')));
  await expect.poll(async () => (await order()).length).toBe(3);
  const before = await order();
  await main(page).getByRole('button', { name: 'Move Long Paths down' }).tap();
  await expect.poll(order).not.toEqual(before);

  await stepTo(page, 'Settings');
  await main(page)
    .getByRole('button', { name: /^Turn .*on/ })
    .first()
    .tap();
  await expect(page.getByText('will be on after the next deployment')).toBeVisible();

  await stepTo(page, 'Deploy');
  await main(page).getByRole('button', { name: 'File by file' }).tap();
  await page.getByRole('searchbox', { name: 'Search in the plan' }).fill('rather long');
  const row = page.getByRole('table').locator('.line').first();
  await expect(row).toContainText('rather long');
  const height = async () => (await row.boundingBox())?.height ?? 0;
  const flat = await height();
  await row.tap();
  await expect.poll(height).toBeGreaterThan(flat * 1.5);

  await page.locator('.buckle').tap();
  await expect(page.getByText(/(\d+) of \1 landed/)).toBeVisible({ timeout: 120_000 });
  await stepTo(page, 'Check');
  await main(page).getByRole('button', { name: 'Trial run', exact: true }).tap();
  await expect(main(page).getByRole('heading', { level: 1, name: /loaded/ })).toBeVisible();
  await stepTo(page, 'Ledger');
  await main(page).getByRole('button', { name: 'Put everything back…' }).tap();
  await main(page).getByRole('button', { name: 'Put everything back now' }).tap();
  await expect(page.getByText('The game’s folders hold nothing that came from a pack.')).toBeVisible();
});
