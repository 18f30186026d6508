import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { zipSync } from 'fflate';
import type { Page } from '@playwright/test';
import {
  chooseGame,
  deploy,
  drop,
  expect,
  expectSameBytes,
  folderBytes,
  openDemo,
  packed,
  putEverythingBack,
  step,
  takeFromShelf,
  test,
  text,
} from './support';

const map = (page: Page) => page.getByRole('group', { name: 'What goes where' });

const dropAll = (page: Page, files: { name: string; buffer: Uint8Array }[]): Promise<void> =>
  page
    .getByLabel('Choose downloads')
    .setInputFiles(
      files.map(({ name, buffer }) => ({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(buffer) })),
    );

test('the wrong region: asked about, answered with one click, and in the right folder', async ({ page }) => {
  await openDemo(page);
  await chooseGame(page, 'Crumbleby Bakery in Tinplate');
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Sugar Buns');
  await step(page, 'Place').click();
  await expect(page.getByText('“CB-7041” is Crumbleby Bakery for South; you do not have that one')).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Take the suggestion' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into User-data folder/paintbox/CB-2041/swap');
  await expect(page.getByText('The textures go under “CB-2041” instead of “CB-7041”.')).toBeVisible();
  // The other answer is there too, with its warning, and can be taken back.
  await page.getByRole('radio', { name: /Leave it as CB-7041/ }).click();
  await expect(page.getByRole('main').getByRole('alert')).toContainText('these textures will not load');
  await page.getByRole('radio', { name: /Use CB-2041/ }).click();
  await expect(page.getByRole('main').getByRole('alert')).toHaveCount(0);
  await deploy(page, /^6 of 6 landed/);
  const after = await folderBytes(page);
  expect(
    Object.keys(after)
      .filter((name) => !(name in before))
      .every((name) => name.startsWith('user/paintbox/CB-2041/swap/')),
  ).toBe(true);
  await putEverythingBack(page);
  expectSameBytes(await folderBytes(page), before);
});

test('a pack whose place is not clear: Deploy says that nothing waits, and leads to the question', async ({ page }) => {
  await openDemo(page);
  await step(page, 'Bring in').click();
  await drop(page, 'horns.zip', packed({ 'horns/low.horn': 'low', 'horns/high.horn': 'high' }));
  await expect(page.getByRole('heading', { name: 'Horns', level: 1 })).toBeVisible();
  await step(page, 'Deploy').click();
  const main = page.getByRole('main');
  await expect(main).toContainText('Nothing is waiting to be deployed. Say where one pack belongs');
  await main.getByRole('link', { name: 'Place it' }).click();
  await expect(page.getByText('Not sure', { exact: true })).toBeVisible();
});

test('three alternatives and an optional part: one is chosen, the other laid over it', async ({ page }) => {
  await openDemo(page);
  await takeFromShelf(page, 'Lantern Lights');
  await step(page, 'Place').click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('One question first');
  await page.getByRole('radio', { name: /medium 128/ }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder');
  await page.getByRole('checkbox', { name: /optional warm glow/ }).click();
  await expect(map(page)).toContainText('optional warm glow');
  await deploy(page, /^3 of 3 landed/);
  const files = await folderBytes(page);
  const unpacked = (name: string) => spawnSync('unzip', ['-p', '.satchel/demo/lantern-lights.zip', name]).stdout;
  expect(
    Buffer.compare(
      files['program/assets/textures/quay/lamp.png'] as Buffer,
      unpacked('Lantern Lights/medium 128/assets/textures/quay/lamp.png'),
    ),
  ).toBe(0);
  expect(
    Buffer.compare(
      files['program/assets/textures/quay/lamp_wall.png'] as Buffer,
      unpacked('Lantern Lights/optional warm glow/assets/textures/quay/lamp_wall.png'),
    ),
  ).toBe(0);
});

test('an add-on that lies straight in the add-on folder gets its own, and a folder is put elsewhere by drag and by keyboard', async ({
  page,
}) => {
  await openDemo(page);
  await takeFromShelf(page, 'Brass Fittings');
  await step(page, 'Place').click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder/addons/brass-fittings');
  await expect(map(page)).toContainText('new folder');
  const source = map(page).locator('[data-from="addons/scripts"]');
  await source.hover();
  await page.mouse.down();
  const goal = await map(page).locator('[data-to="program/addons/parts-locker"]').boundingBox();
  await page.mouse.move((goal?.x ?? 0) + 60, (goal?.y ?? 0) + 12, { steps: 12 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Put addons/scripts back where the app placed it' })).toBeVisible();
  await page.getByRole('button', { name: 'Put addons/textures elsewhere' }).press('Enter');
  await page.getByLabel('Put addons/textures into').fill('program/../outside');
  await page.getByRole('button', { name: 'Put it there' }).press('Enter');
  await expect(page.getByRole('main').getByRole('alert')).toContainText('cannot be a place in this game');
  await page.getByRole('button', { name: 'Put addons/textures elsewhere' }).press('Enter');
  await page.getByLabel('Put addons/textures into').fill('program/assets/textures/brass');
  await page.getByRole('button', { name: 'Put it there' }).press('Enter');
  await expect(map(page).locator('[data-to="program/assets/textures/brass"]')).toBeVisible();
  await deploy(page, /^5 of 5 landed/);
  const files = Object.keys(await folderBytes(page));
  expect(files).toEqual(
    expect.arrayContaining([
      'program/addons/brass-fittings/addon.txt',
      'program/addons/parts-locker/fit.txt',
      'program/assets/textures/brass/cleat.png',
    ]),
  );
  await step(page, 'Place').click();
  await page.getByRole('button', { name: 'Let the app place it again' }).click();
  await expect(map(page).locator('[data-to="program/addons/brass-fittings/scripts"]')).toBeVisible();
});

test('packs that stay zipped, that are zipped twice, that go into an archive, and that are converted', async ({
  page,
}) => {
  await openDemo(page);
  await chooseGame(page, 'Hedgerow Hall');
  const before = await folderBytes(page);
  for (const title of ['Rose Porch', 'Tea Garden Download', 'Old Kitchen', 'Attic Stairs', 'Tall Hedges'])
    await takeFromShelf(page, title);
  await step(page, 'Place').click();
  await expect(page.getByRole('main').getByRole('alert')).toContainText(
    'One of its textures is larger than the Garden edition can read: up to 4096 pixels, where 2048 are the limit.',
  );
  await deploy(page, /^5 of 5 landed/);
  const files = await folderBytes(page);
  expect(
    Buffer.compare(files['hall/packs/rose-porch.zip'] as Buffer, readFileSync('.satchel/demo/rose-porch.zip')),
  ).toBe(0);
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-inside-'));
  const list = (name: string, archive: Buffer): string[] => {
    writeFileSync(path.join(folder, name), archive);
    expect(spawnSync('unzip', ['-tq', name], { cwd: folder }).status).toBe(0);
    return spawnSync('unzip', ['-Z1', name], { cwd: folder }).stdout.toString().trim().split('\n').sort();
  };
  expect(list('core.zip', files['hall/core.hha'] as Buffer)).toEqual([
    'pictures/hedge.png',
    'rooms/kitchen.room',
    'rooms/porch.room',
    'text/en.lang',
  ]);
  expect(list('attic.zip', files['hall/packs/attic-stairs.zip'] as Buffer)).toEqual([
    'face.png',
    'pack.leaf',
    'pictures/stairs.png',
    'rooms/attic.room',
  ]);
  expect(list('tea.zip', files['hall/packs/tea-garden.zip'] as Buffer)).toEqual(['pack.leaf', 'rooms/garden.room']);
  await page.reload();
  await putEverythingBack(page);
  expectSameBytes(await folderBytes(page), before);
});

test('a loose sound under its fixed name, a tar.gz, and a 7z in parts with a password', async ({ page }) => {
  await openDemo(page);
  await takeFromShelf(page, 'Evening Bell');
  await page.getByRole('button', { name: 'Play evening-bell.wav' }).click();
  await expect(page.getByRole('button', { name: 'Stop evening-bell.wav' })).toBeVisible();
  await step(page, 'Place').click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Goes into Program folder/assets/sounds/harbour/bell/ring.wav',
  );
  await takeFromShelf(page, 'North Isles');
  await step(page, 'Place').click();
  await expect(map(page)).toContainText('Program folder/assets/charts');

  // Another maker's program packs the rest.
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-7z-'));
  mkdirSync(path.join(folder, 'Locked boats/boats'), { recursive: true });
  for (const name of ['heron', 'puffin'])
    writeFileSync(
      path.join(folder, `Locked boats/boats/${name}.png`),
      Buffer.from(Array.from({ length: 30_000 }, (_, i) => (i * i * 31) % 251)),
    );
  spawnSync('7z', ['a', '-bd', '-psesame', '-mhe=on', '-v10k', '-mx=0', 'boats.7z', 'Locked boats'], { cwd: folder });
  const parts = readdirSync(folder)
    .filter((name) => name.startsWith('boats.7z'))
    .map((name) => ({ name, buffer: readFileSync(path.join(folder, name)) }));
  expect(parts.length).toBeGreaterThan(3);
  await step(page, 'Bring in').click();
  await dropAll(page, parts.slice(0, 1).concat(parts.slice(2)));
  await expect(page.getByRole('main').getByRole('alert')).toContainText('“boats.7z.002” is not here');
  await dropAll(page, parts);
  const password = page.getByRole('form', { name: 'Password of the pack' });
  await password.getByLabel('Password').fill('wrong');
  await password.getByRole('button', { name: 'Open it' }).click();
  await expect(password).toContainText('The password does not open');
  await password.getByLabel('Password').fill('sesame');
  await password.getByRole('button', { name: 'Open it' }).click();
  await expect(page.getByText('files inside').locator('..')).toContainText('2');
  await step(page, 'Place').click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder/assets/textures');
  await deploy(page, /^6 of 6 landed/);
  const files = await folderBytes(page);
  expect(Object.keys(files)).toEqual(
    expect.arrayContaining(['program/assets/sounds/harbour/bell/ring.wav', 'program/assets/charts/holm.isle']),
  );
  expect(
    Buffer.compare(
      files['program/assets/textures/boats/heron.png'] as Buffer,
      readFileSync(path.join(folder, 'Locked boats/boats/heron.png')),
    ),
  ).toBe(0);
});

test('a newer version takes the place of the older one, with what was decided about it', async ({ page }) => {
  await openDemo(page);
  const release = (version: string, more: Record<string, Uint8Array> = {}) =>
    zipSync({
      [`Wet ${version}/assets/textures/quay/planks.png`]: text(`planks ${version}`),
      [`Wet ${version}/assets/textures/quay/rope.png`]: text('rope'),
      ...more,
    });
  await dropAll(page, [{ name: 'wet-quay-1.9.zip', buffer: release('1.9') }]);
  await expect(page.getByRole('heading', { name: 'Wet Quay 1.9', level: 1 })).toBeVisible();
  await step(page, 'Place').click();
  await page.getByRole('button', { name: 'File by file' }).click();
  await page.getByRole('searchbox', { name: 'Search in this pack' }).fill('rope');
  await page.getByRole('checkbox', { name: /rope\.png/ }).click();
  await expect(page.getByText('go into the game').locator('..')).toContainText('1');
  await step(page, 'Bring in').click();
  await dropAll(page, [
    { name: 'wet-quay-1.10.zip', buffer: release('1.10', { 'Wet 1.10/assets/textures/quay/wall.png': text('wall') }) },
  ]);
  await expect(page.getByText('This looks like a newer version of “Wet Quay 1.9” (1.9 → 1.10).')).toBeVisible();
  await page.getByRole('button', { name: 'Put it in its place' }).click();
  await expect(page.getByRole('group', { name: 'Packs' }).getByRole('button')).toHaveCount(1);
  await step(page, 'Place').click();
  await expect(page.getByText('go into the game').locator('..')).toContainText('2');
  await expect(page.getByText('left out').first()).toBeVisible();
});
