import { deploy, expect, openDemo, openFile, step, takeFromShelf, test } from './support';

test('every sheet has an address: reload, Back, Forward and a link lead to it', async ({ page }) => {
  await openDemo(page);
  const main = page.getByRole('main');
  for (const title of ['Weathered Quay 1.2', 'Warm Words', 'Skippers Slang']) await takeFromShelf(page, title);

  await test.step('a file and a merge in the stack', async () => {
    await openFile(page, 'harbour.lang');
    const sheet = main.getByRole('heading', { level: 2, name: 'Program folder/assets/text/harbour.lang' });
    await expect(sheet).toBeVisible();
    await page.reload();
    await expect(sheet).toBeVisible();
    await page.goBack();
    await expect(main.getByRole('table', { name: 'Overlaps' })).toBeVisible();
    await page.goForward();
    await expect(sheet).toBeVisible();
    await main.getByRole('button', { name: 'Merge what they change' }).click();
    const conflict = main.getByRole('group').filter({ hasText: 'Write it by hand…' }).first();
    await expect(conflict).toBeVisible();
    await page.reload();
    await expect(conflict).toBeVisible();
  });

  await test.step('a settings file and key', async () => {
    await step(page, 'Settings').click();
    await main.getByRole('button', { name: 'Change Graphics › WaterDetail' }).click();
    const form = main.getByRole('form', { name: 'Change Graphics › WaterDetail' });
    await expect(form).toBeVisible();
    await page.reload();
    await expect(form).toBeVisible();
    // It is found by its name as it is shown.
    await page.goBack();
    await expect(form).toBeHidden();
    await main.getByRole('searchbox', { name: 'Find a key' }).fill('Graphics › WaterDetail');
    await expect(main.getByRole('table', { name: 'Keys' }).getByRole('row')).toHaveCount(2);
    await page.goto('/game/settings?key=Graphics › NoSuchKey');
    await expect(main.getByText('The key that the address names is not in this file.')).toBeVisible();
    await main.getByRole('button', { name: 'As text' }).click();
    await page.reload();
    await expect(main.getByRole('region', { name: 'As text' })).toBeVisible();
  });

  await deploy(page);

  await test.step('a deployment, a file of the game, a finding', async () => {
    await step(page, 'Ledger').click();
    await main.getByRole('button', { name: 'Show steps' }).first().click();
    await page.reload();
    await expect(main.getByRole('table', { name: 'Steps of deployment 1' })).toBeVisible();
    await page.goto('/game/files');
    await main.getByRole('searchbox', { name: 'Find a file' }).fill('Program folder/assets/text/harbour.lang');
    await main.getByRole('button', { name: /harbour\.lang$/ }).click();
    await page.reload();
    await expect(main.getByRole('heading', { level: 2, name: /harbour\.lang$/ })).toBeVisible();
    await page.keyboard.press('Tab');
    await page.keyboard.press('Escape');
    await expect(main.getByRole('heading', { level: 2, name: /harbour\.lang$/ })).toHaveCount(0);
    await step(page, 'Check').click();
    await main.getByRole('button', { name: /^Trial run/ }).click();
    const link = main.getByRole('link', { name: 'Link to this' }).first();
    const finding = await link.getAttribute('href');
    await page.goto(finding ?? '');
    await expect(link).toBeVisible();
    expect(await page.evaluate(() => document.activeElement?.classList.contains('notice'))).toBe(true);
    await page.goto('/game/check?finding=nothing');
    await expect(main.getByText('What this address leads to is not found any more.')).toBeVisible();
  });
});

test('who goes elsewhere while a key is being set is not called back', async ({ page }) => {
  await openDemo(page);
  await takeFromShelf(page, 'Weathered Quay 1.2');
  await step(page, 'Settings').click();
  const main = page.getByRole('main');
  await main.getByRole('button', { name: 'Change Graphics › WaterDetail' }).click();
  await main.getByLabel('Value of Graphics › WaterDetail').fill('1');
  // The page that is gone to takes its time, so that the key is set before it is there.
  await page.route(/\/game\/deploy\?.*_rsc/, async (route) => {
    await new Promise((done) => setTimeout(done, 2000));
    await route.continue();
  });
  // Both in one go, so that the first is never done before the second is begun.
  await page.evaluate(() => {
    [...document.querySelectorAll('button')].find(({ innerText }) => innerText === 'Set it')?.click();
    document.querySelector<HTMLElement>('.seam a[href="/game/deploy"]')?.click();
  });
  await expect(page.getByRole('button', { name: /^Undo: .*WaterDetail/ })).toBeVisible();
  await expect(main.getByRole('heading', { name: 'This is what will happen' })).toBeVisible({ timeout: 20_000 });
  await expect(page).toHaveURL(/\/game\/deploy$/);
});

test('what is opened while the page itself is on its way without it stays open', async ({ page }) => {
  await openDemo(page);
  await step(page, 'Settings').click();
  const main = page.getByRole('main');
  await main.getByRole('button', { name: 'Change Graphics › WaterDetail' }).click();
  await expect(page).toHaveURL(/key=/);
  // The step that is open already, and then the same key again: the last word counts.
  await page.evaluate(() => {
    document.querySelector<HTMLElement>('.seam a[href="/game/settings"]')?.click();
    document.querySelector<HTMLElement>('button[aria-label="Change Graphics › WaterDetail"]')?.click();
  });
  await page.waitForTimeout(1500);
  await expect(page).toHaveURL(/key=/, { timeout: 1000 });
  await expect(main.getByLabel('Value of Graphics › WaterDetail')).toBeVisible({ timeout: 1000 });
  // Alone it closes what was open.
  await step(page, 'Settings').click();
  await expect(page).toHaveURL(/\/game\/settings$/);
});

test('several packs are marked, moved in one go and put under a heading that folds', async ({ page }) => {
  await openDemo(page);
  const names = ['Painted Boats', 'Warm Words', 'Skippers Slang', 'North Isles'];
  for (const title of names) await takeFromShelf(page, title);
  await step(page, 'Stack').click();
  const stack = page.getByRole('list', { name: 'Stack, topmost first' });
  const order = async () =>
    (await stack.getByRole('checkbox', { name: /^Use / }).all()).length === 0
      ? []
      : stack
          .getByRole('checkbox', { name: /^Use / })
          .evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')?.replace('Use ', '')));
  await expect.poll(order).toEqual(['North Isles', 'Skippers Slang', 'Warm Words', 'Painted Boats']);
  await page.getByRole('button', { name: 'Mark several packs…' }).click();
  const marked = page.getByRole('region', { name: 'Marked packs' });
  await stack.getByRole('checkbox', { name: 'Mark Painted Boats' }).check();
  await stack.getByRole('checkbox', { name: 'Mark Skippers Slang' }).check();
  await expect(marked).toContainText('2 packs marked');
  await marked.getByRole('button', { name: 'To the top' }).click();
  await expect.poll(order).toEqual(['Skippers Slang', 'Painted Boats', 'North Isles', 'Warm Words']);
  await marked.getByRole('button', { name: 'Down' }).click();
  await expect.poll(order).toEqual(['North Isles', 'Skippers Slang', 'Painted Boats', 'Warm Words']);
  await marked.getByRole('textbox', { name: 'Heading for them' }).fill('For the evening');
  await marked.getByRole('button', { name: 'Put them under it' }).click();
  const heading = stack.getByRole('button', { name: /^For the evening 2 packs$/ });
  await heading.click();
  await expect.poll(order).toEqual(['North Isles', 'Warm Words']);
  await heading.click();
  await marked.getByRole('button', { name: 'Leave them out' }).click();
  await expect(stack.getByRole('checkbox', { name: 'Use Painted Boats' })).not.toBeChecked();
  await marked.getByRole('button', { name: 'Take them out' }).click();
  await expect.poll(order).toEqual(['North Isles', 'Warm Words']);
  await page.reload();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(heading).toBeVisible();
  await expect.poll(order).toHaveLength(4);
});
