import { zipSync } from 'fflate';
import { deploy, expect, openDemo, step, test, text } from './support';

test('200 downloads dropped at once: what came in and what did not is said, and after a reload more come in', async ({
  page,
}) => {
  await openDemo(page);
  const pack = (i: number) => ({
    name: `boat ${i}.zip`,
    mimeType: 'application/zip',
    buffer: Buffer.from(
      zipSync({
        [`assets/textures/quay/board ${i}.png`]: text(`mesh ${i}`),
        [`assets/textures/quay/rope ${i}.png`]: text(`paint ${i}`),
      }),
    ),
  });
  const third = pack(3);
  const broken = { name: 'broken off.zip', mimeType: 'application/zip', buffer: pack(0).buffer.subarray(0, 60) };
  await page
    .getByLabel('Choose downloads')
    .setInputFiles([
      ...Array.from({ length: 100 }, (_, i) => (i === 3 ? third : pack(i))),
      broken,
      ...Array.from({ length: 99 }, (_, i) => pack(100 + i)),
    ]);
  await expect(page.getByText('199 packs came in, 1 download did not.')).toBeVisible({ timeout: 240_000 });
  await expect(page.getByRole('listitem').filter({ hasText: 'broken off.zip' })).toContainText('is damaged');
  await page.getByText('What came of each').click();
  await expect(page.getByRole('list', { name: 'What came of each' }).getByRole('listitem')).toHaveCount(199);
  await expect(page.getByRole('list', { name: 'What came of each' })).toContainText(
    'Boat 42: 2 files go into the game',
  );
  // So many packs are looked through by a search.
  const picker = page.getByRole('group', { name: 'Packs' });
  await expect(picker).toContainText('and 187 more');
  await picker.getByRole('searchbox', { name: 'Find a pack' }).fill('boat 142');
  await expect(picker.getByRole('button')).toHaveText([/Boat 142$/]);
  await page.reload();
  await step(page, 'Stack').click();
  await expect(page.getByRole('contentinfo', { name: 'In the game folder now' })).toContainText('398changes waiting', {
    timeout: 240_000,
  });
  await step(page, 'Bring in').click();
  await page.getByLabel('Choose downloads').setInputFiles([pack(500), third]);
  await expect(page.getByText('1 pack came in.')).toBeVisible();
  await expect(page.getByText('One was here already.')).toBeVisible();

  // Of so many packs the ledger names the first; the others are there when they are asked for.
  await deploy(page);
  await step(page, 'Ledger').click();
  const entry = page.getByRole('main').getByRole('listitem').filter({ hasText: '1. Deploy' });
  await expect(entry.getByText('and 188 more packs')).toBeVisible();
  await expect(entry.locator('.tag')).toHaveCount(12);
  await entry.getByText('and 188 more packs').click();
  await expect(entry.locator('.tag')).toHaveCount(200);
});
