import { drop, expect, openDemo, packed, step, test } from './support';

test('what takes how much room: a pack that only Undo needs is let go, and Undo says no more of it', async ({
  page,
}) => {
  await openDemo(page);
  await step(page, 'Bring in').click();
  await drop(page, 'heron.zip', packed({ 'boats/heron.png': 'x'.repeat(3000) }));
  await expect(page.getByRole('heading', { name: 'Heron', level: 1 })).toBeVisible();
  await step(page, 'Stack').click();
  await page.getByRole('button', { name: 'Take out Heron' }).click();
  await page.getByRole('button', { name: 'Take out', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Undo: .*Heron.*out/ })).toBeVisible();
  await page.locator('#games').click();
  await page.getByRole('link', { name: 'What takes how much room…' }).click();
  const kept = page.getByRole('table', { name: 'Packs that are kept' });
  await expect(kept.getByRole('row', { name: /heron\.zip/ })).toContainText('a way back would bring it in again');
  await expect(page.getByRole('table', { name: 'What lies where' })).toContainText('The demo’s game folders');
  await page.getByRole('button', { name: /^Let 1 pack go/ }).click();
  await expect(kept).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  await page.reload();
  await expect(page.getByRole('table', { name: 'What lies where' })).toBeVisible();
  await expect(kept).toHaveCount(0);
});

test('the app can have a window of its own, and tells when it was renewed; what was typed is there afterwards', async ({
  page,
  request,
  context,
}) => {
  await openDemo(page);
  // Chromium itself says whether the manifest is one, and whether it would install the app.
  const devTools = await context.newCDPSession(page);
  const { errors, data } = await devTools.send('Page.getAppManifest');
  expect(errors).toEqual([]);
  const { installabilityErrors } = await devTools.send('Page.getInstallabilityErrors');
  // A window without a profile installs nothing.
  expect(installabilityErrors.filter(({ errorId }) => errorId !== 'in-incognito')).toEqual([]);
  for (const { src, sizes, type } of (JSON.parse(data ?? '{}') as { icons: Record<string, string>[] }).icons) {
    const answer = await request.get(src ?? '');
    expect(answer.headers()['content-type']).toContain(type);
    if (sizes === 'any') continue;
    // The size stands in bytes 16 to 23 of a PNG (W3C, PNG, 11.2.1).
    const png = await answer.body();
    expect(`${png.readUInt32BE(16)}x${png.readUInt32BE(20)}`).toBe(sizes);
  }

  const renewed = page.getByText('The app was renewed while this page was open.');
  await expect(renewed).toHaveCount(0);
  await step(page, 'Settings').click();
  await page.getByRole('button', { name: 'As text' }).click();
  const editor = page.locator('.cm-content');
  await editor.click();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('\n; typed before the reload');
  // For the server the page is of another version from now on; the page notices when it comes into sight again.
  await page.route('**/version?*', (route) => route.continue({ url: new URL('/version?of=another', page.url()).href }));
  await page.evaluate(() => document.dispatchEvent(new Event('visibilitychange')));
  await expect(renewed).toBeVisible();
  await page.unroute('**/version?*');
  await page.getByRole('button', { name: 'Load the new page' }).click();
  await expect(renewed).toHaveCount(0);
  await page.getByRole('button', { name: 'As text' }).click();
  await page.getByRole('button', { name: 'Go on with it' }).click();
  await expect(editor).toContainText('typed before the reload');
});
