import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { Started, makeDialog, makeGame, treeOf } from './started';
import { putEverythingBack, step } from './support';

test('a game is added in the computer’s own folder dialog, and is there at the next start without a word', async ({
  page,
}) => {
  const { top, game, backup } = makeGame();
  const before = treeOf(game);
  const dialog = makeDialog(top);
  const app = await new Started(undefined, backup, 4692, { SATCHEL_DIALOG: dialog.program }).start();
  const add = page.getByRole('button', { name: 'Add a game…' });
  const settle = page.getByRole('heading', { name: 'Begin with one pack for my game' });
  try {
    // Closed without a choice: nothing happens.
    await page.goto(app.door);
    await add.click();
    await expect(add).toBeEnabled();
    await expect(page.getByRole('button', { name: /^Use / })).toHaveCount(0);
    // All of the disk is no game.
    dialog.answer('/');
    await add.click();
    await expect(page.getByText('is no game’s own folder')).toBeVisible();
    // Chosen: its name is proposed.
    dialog.answer(game);
    await add.click();
    await expect(page.getByLabel('What do you call this game?')).toHaveValue('my game');
    await page.getByRole('button', { name: `Use ${game}`, exact: true }).click();
    await page.getByRole('button', { name: 'Looks right' }).click();
    await expect(settle).toBeVisible();
    expect(treeOf(game)).toEqual(before);

    // A pack, deployed, and the app started anew without the folder's name.
    mkdirSync(path.join(top, 'pack', 'data', 'maps'), { recursive: true });
    writeFileSync(path.join(top, 'pack', 'data', 'maps', 'two.map'), 'new two');
    execFileSync('zip', ['-qr', path.join(top, 'two.zip'), '.'], { cwd: path.join(top, 'pack') });
    await page.locator('input[type=file]').first().setInputFiles(path.join(top, 'two.zip'));
    await expect(page.getByText('two').first()).toBeVisible();
    await step(page, 'Deploy').click();
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByText('1 of 1 landed')).toBeVisible();
    await app.kill();
    await app.start();
    await page.goto('about:blank');
    await page.goto(app.door);
    await step(page, 'Deploy').click();
    await putEverythingBack(page);
    expect(treeOf(game)).toEqual(before);

    // Not there: said, and open again when it is back. Then chosen anew.
    await app.kill();
    renameSync(game, `${game} away`);
    await app.start();
    await page.goto('about:blank');
    await page.goto(app.door);
    await expect(page.getByRole('heading', { name: 'The folder of my game is not open to the app' })).toBeVisible();
    renameSync(`${game} away`, game);
    await page.getByRole('button', { name: 'Look again' }).click();
    await expect(step(page, 'Deploy')).toBeVisible();
    await page.goto(`${app.origin}/?choose`);

    // A folder inside it is no second game; another one can be taken away again.
    dialog.answer(path.join(game, 'data'));
    await add.click();
    await expect(page.getByText('lies inside a folder that this game has already')).toBeVisible();
    const second = path.join(top, 'another one');
    mkdirSync(second);
    dialog.answer(second);
    await add.click();
    await page.getByRole('button', { name: `Take ${second} away again` }).click();
    await expect(page.getByRole('button', { name: `Use ${second}`, exact: true })).toHaveCount(0);
    expect(JSON.parse(readFileSync(path.join(backup, 'folders.json'), 'utf8'))).toEqual({ format: 1, folders: [game] });
    expect(treeOf(game)).toEqual(before);
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});
