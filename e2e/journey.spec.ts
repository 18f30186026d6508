import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { crc32 } from 'node:zlib';
import { PNG } from 'pngjs';
import {
  deploy,
  expect,
  expectSameBytes,
  expectStrap,
  folderBytes,
  openDemo,
  step,
  takeFromShelf,
  test,
} from './support';

const INI = 'user/ferries.ini';

test('from a download to a working game and back, with reloads on the way', async ({ page }) => {
  await openDemo(page);
  await expect(page.getByRole('status', { name: 'What to do next' })).toHaveText(
    'Bring in a pack: take one from the shelf, or drop a ZIP you downloaded.',
  );
  const before = await folderBytes(page);
  expect(before[INI]?.toString()).toContain('AddonTextures=0');

  await test.step('bring in', async () => {
    await takeFromShelf(page, 'Weathered Quay 1.2');
    await expect(page.getByText('files inside').locator('..')).toContainText('217');
    await expect(page.getByRole('region', { name: 'Read-me' })).toContainText(
      'Salt, moss and proper timber for every quay.',
    );
    await expect(page.getByRole('region', { name: 'Pictures' }).locator('img').first()).toBeVisible();
    await page.getByRole('searchbox', { name: 'Search in this pack' }).fill('lamp tall');
    await expect(
      page.getByRole('table', { name: 'Files in the pack' }).getByRole('row').filter({ hasText: 'lamp_tall.png' }),
    ).toHaveCount(1);
  });

  await test.step('place', async () => {
    await step(page, 'Place').click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder');
    await expect(page.locator('ul.reasons > li').first()).toContainText('The folder is called like “Program folder”', {
      useInnerText: true,
    });
    await expect(page.getByText('go into the game').locator('..')).toContainText('214');
    await expect(page.getByRole('group', { name: 'What goes where' })).toContainText('16 in place of its own');
    await page.getByRole('button', { name: 'File by file' }).click();
    const table = page.getByRole('table', { name: 'Where each file goes' });
    await expect(table.getByRole('row').filter({ hasText: 'Read me.txt' })).toContainText('Meant to be read by you');
    await expect(table.getByRole('row').filter({ hasText: 'screenshots' })).toContainText(
      'Nothing in it goes into the game',
    );
    // Leave one file out, and take it in again.
    await page.getByRole('searchbox', { name: 'Search in this pack' }).fill('quay/bollard');
    await page.getByRole('checkbox', { name: /bollard\.png/ }).click();
    await expect(page.getByText('go into the game').locator('..')).toContainText('213');
    await page.getByRole('checkbox', { name: /bollard\.png/ }).click();
    await expect(page.getByText('go into the game').locator('..')).toContainText('214');
  });

  await page.reload();
  await expect(page.getByText('go into the game').locator('..')).toContainText('214');
  await expectStrap(page, { packs: 0, originals: 0, changes: 214 });

  await test.step('settings', async () => {
    await page.getByRole('button', { name: 'Look at the switch' }).click();
    await expect(page.getByRole('main').getByRole('alert')).toContainText('“Add-on textures” is off');
    await page.getByRole('button', { name: 'Turn it on' }).click();
    await expect(page.getByText('“Add-on textures” will be on after the next deployment')).toBeVisible();
  });

  await test.step('deploy', async () => {
    await step(page, 'Deploy').click();
    await expect(page.getByText('new files added').locator('..')).toContainText('198');
    await expect(page.getByText('files replaced').locator('..')).toContainText('16');
    await page.getByRole('searchbox', { name: 'Search in the plan' }).fill('ferries.ini');
    await expect(page.getByRole('table', { name: 'Steps of the plan' })).toContainText(
      'Graphics › AddonTextures: 0 becomes 1. The rest of the file stays as it is.',
    );
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByText('215 of 215 landed')).toBeVisible();
    await expectStrap(page, { packs: 1, originals: 17, changes: 0 });
  });

  const deployed = await folderBytes(page);
  await test.step('the folder holds what the plan said, and nothing else', async () => {
    expect(deployed[INI]?.toString()).toBe(before[INI]?.toString().replace('AddonTextures=0', 'AddonTextures=1'));
    expect(Object.keys(deployed).filter((name) => !(name in before))).toHaveLength(198);
    const changed = Object.keys(before).filter(
      (name) => name !== INI && Buffer.compare(before[name] as Buffer, deployed[name] as Buffer) !== 0,
    );
    expect(changed).toHaveLength(16);
    // Against the archive itself, unpacked by another program.
    const reference = spawnSync('unzip', [
      '-p',
      '.satchel/demo/weathered-quay-1.2.zip',
      '*/assets/textures/quay/planks.png',
    ]).stdout;
    expect(crc32(deployed['program/assets/textures/quay/planks.png'] as Buffer)).toBe(crc32(reference));
  });

  await page.reload();
  await test.step('check', async () => {
    await step(page, 'Check').click();
    await page.getByRole('main').getByRole('button', { name: 'Trial run' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('214 of 214 loaded');
    await expect(page.getByText('All 214 files of your packs were loaded')).toBeVisible();
    await page.getByRole('button', { name: 'As it stands' }).click();
    await expect(page.getByRole('region', { name: 'Log', exact: true })).toContainText('add-on textures 214 loaded');
  });

  await page.reload();
  await test.step('ledger: put everything back', async () => {
    await step(page, 'Ledger').click();
    await page.getByRole('button', { name: 'Put everything back…' }).click();
    await expect(page.getByText('added files removed').locator('..')).toContainText('198');
    await expect(page.getByText('originals brought back').locator('..')).toContainText('16');
    await page.getByRole('button', { name: 'Put everything back now' }).click();
    await expect(page.getByRole('list', { name: 'Deployments, latest first' }).getByRole('listitem')).toHaveCount(2);
    await expectStrap(page, { packs: 0, originals: 0, changes: 215 });
    expectSameBytes(await folderBytes(page), before);
  });

  await test.step('the same layers again', async () => {
    await deploy(page, '215 of 215 landed');
    expectSameBytes(await folderBytes(page), deployed);
  });
});

test('a pack made by another program, dropped as a file: switch forgotten, found, mended', async ({ page }) => {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-pack-'));
  const png = new PNG({ width: 8, height: 8, colorType: 2 });
  png.data.fill(200);
  mkdirSync(path.join(folder, 'My boats/textures/boats'), { recursive: true });
  for (const name of ['heron', 'puffin', 'brandnew'])
    writeFileSync(path.join(folder, `My boats/textures/boats/${name}.png`), PNG.sync.write(png));
  writeFileSync(path.join(folder, 'My boats/notes.txt'), '<script>alert(1)</script> plain text');
  spawnSync('zip', ['-q', '-r', 'my_boats.zip', 'My boats'], { cwd: folder });

  await openDemo(page);
  const before = await folderBytes(page);
  await step(page, 'Bring in').click();
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose files' }).click();
  await (await chooser).setFiles(path.join(folder, 'my_boats.zip'));
  await expect(page.getByRole('heading', { name: 'My Boats', level: 1 })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Read-me' })).toContainText('<script>alert(1)</script> plain text');

  await step(page, 'Deploy').click();
  await expect(page.getByText('“Add-on textures” is still off')).toBeVisible();
  await page.getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(page.getByText('3 of 3 landed')).toBeVisible();

  await step(page, 'Check').click();
  await page.getByRole('main').getByRole('button', { name: 'Trial run' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^\d things? to put right · 0 of 3 loaded$/);
  await expect(page.getByText('None of your packs’ 3 files was loaded')).toBeVisible();
  await page.getByRole('button', { name: 'Turn “Add-on textures” on' }).click();
  await page.getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(page.getByText('1 of 1 landed')).toBeVisible();
  await step(page, 'Check').click();
  await page.getByRole('main').getByRole('button', { name: 'Trial run' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('3 of 3 loaded');

  // Another place, chosen by the player; then back home.
  await step(page, 'Place').click();
  await page.getByRole('button', { name: 'Change the place' }).click();
  await page.getByLabel('and put them into this folder of the game').fill('program/addons/my boats');
  await page.getByRole('button', { name: 'Place it there' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder/addons/my boats');
  await step(page, 'Deploy').click();
  await expect(page.getByText('originals brought back').locator('..')).toContainText('2');
  await page.getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(page.getByText(/^6 of 6 landed/)).toBeVisible();
  expect(
    Object.keys(await folderBytes(page))
      .filter((name) => !(name in before))
      .sort(),
  ).toEqual([
    'program/addons/my boats/textures/boats/brandnew.png',
    'program/addons/my boats/textures/boats/heron.png',
    'program/addons/my boats/textures/boats/puffin.png',
    'user/load.log',
  ]);

  // The pack leaves the stack while it is deployed: the plan takes its files out.
  await step(page, 'Stack').click();
  await page.getByRole('button', { name: 'Take out My Boats' }).click();
  await page.getByRole('button', { name: 'Take out', exact: true }).click();
  await step(page, 'Ledger').click();
  await page.getByRole('button', { name: 'Put everything back…' }).click();
  await page.getByRole('button', { name: 'Put everything back now' }).click();
  await expectStrap(page, { packs: 0, originals: 0, changes: 1 });
  expectSameBytes(await folderBytes(page), before);
});

test('two packs that overlap: the higher one wins, and what lies below comes through', async ({ page }) => {
  await openDemo(page);
  await takeFromShelf(page, 'Weathered Quay 1.2');
  await takeFromShelf(page, 'Evening Harbour 2');
  await step(page, 'Stack').click();
  const list = page.getByRole('list', { name: 'Stack, topmost first' });
  await expect(list.getByRole('listitem').first()).toContainText('Evening Harbour 2');
  await expect(list.getByRole('listitem').first()).toContainText('covers 3 files of packs below');
  await deploy(page, /222 of 222 landed/);
  const evening = await folderBytes(page);

  await step(page, 'Stack').click();
  await page.getByRole('button', { name: 'Move Weathered Quay 1.2 up' }).click();
  await expect(list.getByRole('listitem').first()).toContainText('Weathered Quay 1.2');
  await expectStrap(page, { packs: 2, originals: 24, changes: 3 });
  await deploy(page, '3 of 3 landed');

  await step(page, 'Stack').click();
  await page.getByRole('checkbox', { name: 'Use Weathered Quay 1.2' }).click();
  await deploy(page, /of \d+ landed/);
  const after = await folderBytes(page);
  const lamp = 'program/assets/textures/quay/lamp.png';
  expect(Buffer.compare(after[lamp] as Buffer, evening[lamp] as Buffer)).toBe(0);
});
