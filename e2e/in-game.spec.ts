import { rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { zipSync } from 'fflate';
import { Started, ownGame, setUpGame, treeOf } from './started';
import { deploy, expect, step, test, text } from './support';

test('what is in the game now: who put each file there, what was there before, what others did since, and the way back of one file', async ({
  page,
}) => {
  const { game, backup } = ownGame({
    'lamp.exe': 'program',
    'lamps/oil/oil.lmp': 'oil',
    'lamps/wick/wick.lmp': 'wick',
    'lamps/gas/gas.lmp': 'gas',
    'lamp.ini': '[Light]\nBright=1\n',
  });
  const before = treeOf(game);
  const app = await new Started(game, backup, 4690).start();
  try {
    await setUpGame(page, app, 'Lamplight');
    await page.getByLabel('Choose downloads').setInputFiles({
      name: 'brass.zip',
      mimeType: 'application/zip',
      buffer: Buffer.from(
        zipSync({
          'lamps/oil/oil.lmp': text('brass oil'),
          'lamps/wick/wick.lmp': text('brass wick'),
          'lamps/brass/brass.lmp': text('brass'),
          'readme.txt': text('In lamp.ini set Bright to 3.\n'),
        }),
      ),
    });
    await expect(page.getByRole('heading', { name: 'Brass', level: 1 })).toBeVisible();
    await step(page, 'Settings').click();
    await page.getByRole('button', { name: 'Set Light › Bright to 3' }).click();
    await deploy(page, /\d+ of \d+ landed/);
    await step(page, 'Ledger').click();
    await page.getByRole('link', { name: 'What is in the game now' }).click();

    const main = page.getByRole('main');
    const which = main.getByRole('group', { name: 'Which files' });
    // As many as differ from the folder as it was, read by other means.
    const now = treeOf(game);
    const files = Object.keys(now).filter((file) => !file.endsWith('/'));
    const changed = files.filter((file) => now[file] !== before[file]);
    await expect(which.getByRole('button', { name: `Not the game’s own (${changed.length})` })).toBeVisible();
    for (const says of [
      'New from packs (1)',
      'In place of the game’s (2)',
      'Edited settings (1)',
      `Every file (${files.length})`,
    ])
      await expect(which.getByRole('button', { name: says })).toBeVisible();

    const file = page.getByRole('region', { name: 'This file' });
    await main.getByLabel('Find a file').fill('oil.lmp');
    await main.getByRole('button', { name: /oil\.lmp/ }).click();
    await expect(file).toContainText('“Brass” lies in place of the game’s own file, which is kept safe.');
    await expect(
      file.getByRole('list', { name: 'What was done to it, latest first' }).getByRole('listitem'),
    ).toHaveCount(1);

    // Another program writes over one, and deletes another.
    writeFileSync(path.join(game, 'lamps/wick/wick.lmp'), 'somebody else');
    rmSync(path.join(game, 'lamps/brass/brass.lmp'));
    await page.reload();
    await expect(which.getByRole('button', { name: 'Changed by others (1)' })).toBeVisible();
    await which.getByRole('button', { name: 'Gone (1)' }).click();
    await main.getByLabel('Find a file').fill('brass');
    await main.getByRole('button', { name: /brass\.lmp/ }).click();
    await expect(file).toContainText('it is not there any more: somebody has deleted it');

    // One file goes back, and no other.
    await which.getByRole('button', { name: 'In place of the game’s (1)' }).click();
    await main.getByLabel('Find a file').fill('oil.lmp');
    await main.getByRole('button', { name: /oil\.lmp/ }).click();
    await file.getByRole('button', { name: 'Put this file back…' }).click();
    await file.getByRole('button', { name: 'Put back 1 file' }).click();
    await expect(file).toContainText('It is the game’s own file, or yours.');
    await expect(
      file.getByRole('list', { name: 'What was done to it, latest first' }).getByRole('listitem'),
    ).toHaveCount(2);
    expect(treeOf(game)).toMatchObject({ 'lamps/oil/oil.lmp': 'oil', 'lamps/wick/wick.lmp': 'somebody else' });
  } finally {
    await app.kill(page);
  }
});
