import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { reach } from './reach';
import {
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
} from './support';
import { Started, makeGame, setUpGame, treeOf } from './started';

test('two ways to play: kept under names, compared, taken with the plan first', async ({ page }) => {
  await openDemo(page);
  await takeFromShelf(page, 'Warm Words');
  await takeFromShelf(page, 'Skippers Slang');
  await page.getByRole('link', { name: 'Set-ups' }).click();
  await page.getByLabel('Name of the set-up').fill('The way I play alone');
  await page.getByRole('button', { name: 'Keep it under this name' }).click();
  const kept = page.getByRole('group', { name: 'Set-up The way I play alone' });
  await expect(kept).toContainText('2 packs in use');
  await expect(kept).toContainText('as it is now');
  await page.getByRole('button', { name: /^Undo: Set-up/ }).waitFor();

  await takeFromShelf(page, 'Painted Boats');
  await deploy(page);
  await page.reload();
  await page.getByRole('link', { name: 'Set-ups' }).click();
  const differs = page.getByRole('region', { name: 'Compare two set-ups' });
  await expect(differs).toContainText('“Painted Boats”');
  await expect(differs.getByRole('region', { name: /^Files, 7/ })).toContainText('boats/awning.png');
  await kept.getByRole('button', { name: 'Show what it would do' }).click();
  await expect(kept).toContainText('7originals brought back');
  await kept.getByRole('button', { name: 'Take “The way I play alone” and look at the plan' }).click();
  await expect(page).toHaveURL(/\/game\/deploy/);
  await deploy(page, '7 of 7 landed');
  await expect(page.getByRole('button', { name: 'Undo: “Painted Boats” left out' })).toBeVisible();
});

test('what was decided lies beside the originals: another browser goes on from it, and where two differ the player chooses', async ({
  page,
  browser,
}) => {
  const { top, game, backup } = makeGame();
  const started = await new Started(game, backup, 4693).start();
  try {
    await setUpGame(page, started);
    for (const [name, files] of [
      ['maps.zip', { 'data/maps/one.map': 'better one', 'data/maps/two.map': 'better two' }],
      ['more.zip', { 'data/maps/one.map': 'best one' }],
    ] as const) {
      await step(page, 'Bring in').click();
      await drop(page, name, packed(files));
      await expect(page.getByRole('heading', { name: name === 'maps.zip' ? 'Maps' : 'More', level: 1 })).toBeVisible();
    }
    await deploy(page, '2 of 2 landed');
    await step(page, 'Ledger').click();
    await expect(page.getByText('is written beside the originals, too')).toBeVisible();
    const after = treeOf(game);
    const written = () => {
      const folder = path.join(backup, readdirSync(backup).find((name) => name.startsWith('my game')) ?? '', 'set-up');
      return readdirSync(folder)
        .filter((name) => name.endsWith('.json'))
        .sort()
        .map((name) => path.join(folder, name));
    };
    expect(written().length).toBeGreaterThan(1);

    // A browser that knows nothing of the game.
    const fresh = await (await browser.newContext()).newPage();
    await fresh.goto(started.door);
    await fresh.getByLabel('What do you call this game?').fill('The same');
    await fresh.getByRole('button', { name: `Use ${game}` }).click();
    await fresh.getByRole('button', { name: 'Looks right' }).click();
    await expect(fresh.getByText('goes on from what lay beside its originals')).toBeVisible();
    await step(fresh, 'Stack').click();
    await expect(fresh.getByRole('main')).toContainText('More');
    await expect(fresh.getByRole('contentinfo', { name: 'In the game folder now' })).toContainText(
      /2packs in the game.*0changes waiting/,
    );
    expect(treeOf(game)).toEqual(after);
    // It decides otherwise; the first one is asked when it comes back.
    await fresh.getByRole('link', { name: 'Set-ups' }).click();
    await fresh.getByLabel('Name of the set-up').fill('From elsewhere');
    await fresh.getByRole('button', { name: 'Keep it under this name' }).click();
    await expect(fresh.getByRole('group', { name: 'Set-up From elsewhere' })).toBeVisible();
    await fresh.close();
    await page.reload();
    await expect(page.getByText('Two set-ups of this game are known')).toBeVisible();
    const before = written();
    await page.getByText('What would change here').click();
    await expect(page.getByText('Set-up “From elsewhere” kept')).toBeVisible();
    await page.getByRole('button', { name: 'Go on from the one beside the originals' }).click();
    await expect(page.getByText('Two set-ups of this game are known')).toHaveCount(0);
    await page.getByRole('link', { name: 'Set-ups' }).click();
    await expect(page.getByRole('group', { name: 'Set-up From elsewhere' })).toBeVisible();
    expect(before.every((file) => written().includes(file))).toBe(true);

    // The latest is damaged: it is named, and nothing here is lost.
    writeFileSync(written().at(-1) ?? '', readFileSync(written().at(-1) ?? '').subarray(0, 100));
    await page.reload();
    await expect(page.getByRole('main')).toContainText(/set-up\/\d{8}\.\w{8}\.json/);
    await expect(page.getByRole('group', { name: 'Set-up From elsewhere' })).toBeVisible();
    expect(treeOf(game)).toEqual(after);
  } finally {
    await started.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('a kit without packs goes to a browser that knows nothing; packs dropped under other names go where they were', async ({
  page,
  browser,
}) => {
  await openDemo(page);
  const boat = packed({ 'boats/heron.png': 'a boat of my own' });
  await takeFromShelf(page, 'Warm Words');
  await step(page, 'Bring in').click();
  await drop(page, 'boat.zip', boat);
  await expect(page.getByRole('heading', { name: 'Boat', level: 1 })).toBeVisible();
  await deploy(page);
  const deployed = await folderBytes(page);
  await page.getByRole('link', { name: 'Set-ups' }).click();
  await page.getByLabel('with the packs inside').uncheck();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save a kit' }).click();
  const kit = path.join(mkdtempSync(path.join(tmpdir(), 'satchel-kit-')), 'for a friend.zip');
  await (await waiting).saveAs(kit);
  const listed = spawnSync('unzip', ['-tq', kit], { encoding: 'utf8' });
  expect([listed.status, listed.stderr]).toEqual([0, '']);

  const friend = await (await browser.newContext()).newPage();
  await openDemo(friend);
  const before = await folderBytes(friend);
  await friend.getByRole('link', { name: 'Set-ups' }).click();
  await friend.getByLabel('Choose a kit').setInputFiles(kit);
  const found = friend.getByRole('group', { name: 'Kit of Gullwick Ferries' });
  await expect(found).toContainText('Boat is to be dropped on Bring in');
  await reach(friend, 'a kit', ['program', 'user']);
  expectSameBytes(await folderBytes(friend), before);
  await friend.getByRole('link', { name: 'Set-ups' }).click();
  await friend.getByLabel('Choose a kit').setInputFiles(kit);
  await found.getByRole('button', { name: 'Take it and look at the plan' }).click();
  const missing = friend.getByRole('region', { name: 'Packs whose files are missing' });
  await expect(missing).toContainText('2 packs without files');
  await drop(friend, 'download (3).zip', boat);
  await expect(missing).toContainText('1 pack without files');
  await friend.reload();
  await expect(missing).toContainText('warm-words.zip');
  await takeFromShelf(friend, 'Warm Words');
  await expect(missing).toHaveCount(0);
  await deploy(friend);
  expectSameBytes(await folderBytes(friend), deployed);
  await putEverythingBack(friend);
  expectSameBytes(await folderBytes(friend), before);

  // A kit that was changed on its way is refused, and nothing is changed.
  const bad = `${kit}.bad.zip`;
  const bytes = readFileSync(kit);
  bytes[Math.floor(bytes.length / 2)] = (bytes[Math.floor(bytes.length / 2)] ?? 0) ^ 0xff;
  writeFileSync(bad, bytes);
  await friend.getByRole('link', { name: 'Set-ups' }).click();
  await friend.getByLabel('Choose a kit').setInputFiles(bad);
  await expect(friend.getByRole('alert').filter({ hasText: '.bad.zip” is' })).toBeVisible();
  await friend.close();
});
