import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { Started, makeDialog, ownGame, treeOf } from './started';
import { deploy, expect, putEverythingBack, step, test } from './support';
import { GAMES, finish } from './madeGames';

for (const [i, made] of GAMES.entries())
  test(`${made.title}, from “Add a game…” to put back: every step through the interface, no card, at most one question`, async ({
    page,
  }) => {
    const { game, backup } = ownGame(made.files);
    const top = path.dirname(game);
    finish(game, made.title);
    const before = treeOf(game);
    const packed = path.join(top, made.pack.name);
    for (const [file, text] of Object.entries(made.pack.files)) {
      mkdirSync(path.dirname(path.join(top, 'pack', file)), { recursive: true });
      writeFileSync(path.join(top, 'pack', file), text);
    }
    execFileSync(made.pack.tool, [...made.pack.args, packed, '.'], { cwd: path.join(top, 'pack') });
    const dialog = makeDialog(top);
    dialog.answer(game);
    const app = await new Started(undefined, backup, 4684 + i, { SATCHEL_DIALOG: dialog.program }).start();
    try {
      await page.goto(app.door);
      await page.getByRole('button', { name: 'Add a game…' }).click();
      await page.getByLabel('What do you call this game?').fill(made.title);
      await page.getByRole('button', { name: /^Use / }).click();
      await page.getByRole('button', { name: 'Looks right' }).click();
      await page.getByLabel('Choose downloads').setInputFiles(packed);
      await expect(page.getByRole('region', { name: 'Step by step' })).toContainText('waits in Settings');
      await step(page, 'Place').click();
      await expect(page.getByText('Not sure', { exact: true })).toHaveCount(0);
      await step(page, 'Settings').click();
      await made.settings(page);
      await deploy(page, /\d+ of \d+ landed/);
      await expect(page.getByRole('status', { name: 'What to do next' })).toContainText('Start it now and come back');

      // The first start makes the log; from then on it is known.
      const main = page.getByRole('main');
      made.start(game, 0);
      await page.waitForTimeout(1100);
      appendFileSync(path.join(game, made.log), '');
      await step(page, 'Check').click();
      await page.getByRole('button', { name: 'Read the log again' }).click();
      await expect(main.getByText(made.well).first()).toBeVisible();
      await expect(main.getByRole('alert').filter({ hasText: /missing|not found|cannot open/ })).toHaveCount(0);

      // Broken, started, said, cured, started.
      made.break(game);
      await page.waitForTimeout(1100);
      made.start(game, 1);
      await expect(main.getByText(`${made.title} was started`).first()).toBeVisible();
      await expect(main.getByText(made.broken).first()).toBeVisible();
      await made.cure(page);
      await page.waitForTimeout(1100);
      made.start(game, 2);
      await step(page, 'Check').click();
      await page.getByRole('button', { name: 'Read the log again' }).click();
      await expect(main.getByText(made.well).first()).toBeVisible();

      // How it works, told and taken back; then everything as it was.
      await page.goto(`${app.origin}/game/card`);
      const known = page.getByRole('region', { name: 'What the app knows of this game' });
      await known.getByLabel('Tell the app something more').selectOption({ label: 'Files of a kind go into a folder' });
      const sentence = known.getByRole('form', { name: 'Files of a kind go into a folder' });
      await sentence.getByLabel('names', { exact: true }).fill('*.tune');
      await sentence
        .getByLabel('a folder', { exact: true })
        .fill(
          `${Object.keys(made.files).some((file) => file.endsWith('.exe')) ? 'Program folder' : 'Game folder'}/tunes`,
        );
      await expect(sentence).toContainText('For the packs that are here nothing changes.');
      await sentence.getByRole('button', { name: 'So it is' }).click();
      await expect(known.getByRole('list', { name: 'Where packs go' })).toContainText(
        'Files called *.tune go into “Program folder/tunes”',
      );
      await page.getByRole('button', { name: /^Undo: / }).click();
      await expect(known).not.toContainText('*.tune');
      await putEverythingBack(page);
      const { [made.log]: log, ...rest } = treeOf(game);
      expect(log).toBeDefined();
      expect(rest).toEqual(before);
    } finally {
      await app.kill(page);
    }
  });
