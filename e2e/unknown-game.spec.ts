import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { zipSync } from 'fflate';
import { Started, setUpGame, treeOf } from './started';
import { deploy, expect, putEverythingBack, step, test, text } from './support';

/** A game that nobody described, on the disk. */
function makeCanal(): { game: string; backup: string } {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-canal-'));
  const game = path.join(top, 'canal');
  for (const barge of ['heron', 'gull', 'tern']) {
    mkdirSync(path.join(game, 'Barges', barge), { recursive: true });
    writeFileSync(path.join(game, 'Barges', barge, `${barge}.hull`), `hull of ${barge}`);
    writeFileSync(path.join(game, 'Barges', barge, 'deck.png'), `deck of ${barge}`);
  }
  mkdirSync(path.join(game, 'Locks'));
  for (const lock of ['north', 'south']) writeFileSync(path.join(game, 'Locks', `${lock}.lock`), lock);
  writeFileSync(path.join(game, 'canal.exe'), 'program');
  writeFileSync(path.join(game, 'canal.cfg'), 'canal 3\nextra_barges 0\nwater "calm"\n');
  return { game, backup: path.join(top, 'backup') };
}

test('a game that nobody described: studied, the read-me heard, a place asked and learnt, put back', async ({
  page,
}) => {
  const { game, backup } = makeCanal();
  const before = treeOf(game);
  const app = await new Started(game, backup, 4691).start();
  try {
    await setUpGame(page, app, 'Lock and Canal');
    const give = (name: string, files: Record<string, Uint8Array>) =>
      page
        .getByLabel('Choose downloads')
        .setInputFiles({ name, mimeType: 'application/zip', buffer: Buffer.from(zipSync(files)) });
    await give('swan.zip', {
      'Swan v2/swan/swan.hull': text('hull of swan'),
      'Swan v2/swan/deck.png': text('deck of swan'),
      'Swan v2/readme.txt': text(
        'Thanks!\n\nDrag the swan folder into Barges.\nThen open canal.cfg: extra_barges has to be 1.\nStart the game with -freight.\n',
      ),
    });
    const steps = page.getByRole('region', { name: 'Step by step' });
    await expect(steps).toContainText('The placement does this.');
    await expect(steps).toContainText('extra_barges = 1: waits in Settings.');
    await expect(steps).toContainText('Start with -freight: waits in Settings');
    await step(page, 'Place').click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder/Barges/swan');
    await page.getByText('What speaks for this place').click();
    await expect(page.getByText('Line 3 of the read-me.')).toBeVisible();

    // What Bring in promised is there.
    await step(page, 'Settings').click();
    await page.getByRole('button', { name: 'Set extra_barges to 1' }).click();
    await page.getByRole('button', { name: 'Put in -freight' }).click();
    await expect(page.getByRole('region', { name: 'What your packs ask for' })).toHaveCount(0);

    // A kind of file that the game does not have: asked, typed as it is shown, and learnt.
    await step(page, 'Bring in').click();
    await give('horn.zip', { 'horn.tune': text('a tune') });
    await expect(page.getByRole('heading', { name: 'Horn', level: 1 })).toBeVisible();
    await step(page, 'Place').click();
    await expect(page.getByText('Not sure', { exact: true })).toBeVisible();
    await page.getByLabel('and put them into this folder of the game').fill('Program folder/Locks');
    await page.getByRole('button', { name: 'Place it there' }).click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder/Locks');
    await step(page, 'Bring in').click();
    await give('bell.zip', { 'bell.tune': text('another tune') });
    await expect(page.getByRole('heading', { name: 'Bell', level: 1 })).toBeVisible();
    await step(page, 'Place').click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder/Locks');

    await deploy(page, /\d+ of \d+ landed/);
    expect(treeOf(game)).toMatchObject({
      'Barges/swan/swan.hull': 'hull of swan',
      'Locks/horn.tune': 'a tune',
      'canal.cfg': 'canal 3\nextra_barges 1\nwater "calm"\n',
      'Barges/heron/heron.hull': 'hull of heron',
    });

    // The game runs: it writes a log, throws a setting out, and nobody presses anything.
    writeFileSync(
      path.join(game, 'canal.log'),
      '[10:00:01] info loaded Barges/swan/swan.hull\n[10:00:02] warn could not find file "Locks/west.lock"\n[10:00:03] info ready\n',
    );
    writeFileSync(path.join(game, 'canal.cfg'), 'canal 3\nextra_barges 0\nwater "calm"\n');
    await expect(page.getByRole('main').getByText('Lock and Canal was started').first()).toBeVisible();
    await expect(
      page.getByRole('main').getByText('Of 1 edited setting none stayed: 1 was changed.').first(),
    ).toBeVisible();
    // From the next start on the log is known, too.
    writeFileSync(
      path.join(game, 'canal.log'),
      '[11:00:01] info loaded Barges/swan/swan.hull\n[11:00:02] warn could not find file "Locks/west.lock"\n[11:00:03] info ready\n[11:00:04] info bye\n',
    );
    await expect(page.getByRole('main').getByText('Its log names 1 problem.').first()).toBeVisible();
    await page.getByRole('link', { name: 'See what the log says' }).click();
    await expect(page.getByText('west.lock').first()).toBeVisible();

    // What was learnt is visible, and taken back with one click; it holds over a reload.
    await page.goto(`${app.origin}/game/card`);
    const known = page.getByRole('region', { name: 'What the app knows of this game' });
    await expect(known).toContainText('Packs with .tune files go into “Locks”.');
    await known.getByRole('button', { name: /That is not so: Packs with \.tune/ }).click();
    await expect(known.getByRole('button', { name: /It is so after all: Packs with \.tune/ })).toBeVisible();

    await putEverythingBack(page);
    // The log is the game’s own.
    const { 'canal.log': log, ...rest } = treeOf(game);
    expect(log).toContain('bye');
    expect(rest).toEqual(before);
  } finally {
    await app.kill(page);
  }
});
