import { zipSync } from 'fflate';
import { Started, ownGame, setUpGame } from './started';
import { deploy, expect, step, test, text } from './support';

test('the page that a pack came from is read like its read-me; steps are ticked when they are so, or by the player; open ones are counted', async ({
  page,
}) => {
  const { game, backup } = ownGame({
    'mill.exe': 'program',
    'wheels/oak/oak.whl': 'oak',
    'wheels/elm/elm.whl': 'elm',
    'wheels/ash/ash.whl': 'ash',
    'extras/bells/bell.snd': 'bell',
    'mill.ini': '[Mill]\nLooseWheels=0\n; In turns a minute\nSpeed=20\n',
  });
  const app = await new Started(game, backup, 4688).start();
  try {
    await setUpGame(page, app, 'Old Mill');
    await page.getByLabel('Choose downloads').setInputFiles({
      name: 'chime.zip',
      mimeType: 'application/zip',
      buffer: Buffer.from(zipSync({ 'chime.tone': text('a chime') })),
    });
    await expect(page.getByRole('heading', { name: 'Chime', level: 1 })).toBeVisible();
    await step(page, 'Place').click();
    await expect(page.getByText('Not sure', { exact: true })).toBeVisible();
    await step(page, 'Bring in').click();

    const steps = page.getByRole('region', { name: 'Step by step' });
    await steps.getByText('Paste what its page says…').click();
    const typed =
      'Put chime.tone into extras/bells.\nIn mill.ini set LooseWheels to 1.\nTurn the big wheel by hand once.\nClose the game first.\n';
    await steps.getByLabel('What the page of this pack says').fill(typed);
    // Typed text outlives a reload.
    await page.reload();
    await steps.getByText('Paste what its page says…').click();
    await page.getByRole('button', { name: 'Go on with it' }).click();
    await expect(steps.getByLabel('What the page of this pack says')).toHaveValue(typed);
    await steps.getByRole('button', { name: 'Read it' }).click();
    await expect(steps.getByRole('listitem').filter({ hasText: 'chime.tone' })).toContainText(
      'The placement does this.',
    );
    await expect(steps.getByRole('listitem').filter({ hasText: 'LooseWheels' })).toContainText('waits in Settings');
    await expect(steps.getByRole('listitem').filter({ hasText: 'big wheel' })).toContainText(
      'The app does not understand this one.',
    );
    const strap = page.getByRole('contentinfo', { name: 'In the game folder now' });
    await expect(strap).toContainText('3steps open');
    await step(page, 'Place').click();
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder/extras/bells');

    // The loudest thing on the page, until it is on.
    await step(page, 'Settings').click();
    await page
      .getByRole('alert')
      .filter({ hasText: '“LooseWheels” is 0' })
      .getByRole('button', { name: /^Set Mill › LooseWheels to 1/ })
      .click();
    await expect(page.getByRole('alert').filter({ hasText: '“LooseWheels” is 0' })).toHaveCount(0);
    // What the file itself says of a key that no card knows; and one search over all that is there.
    await page.getByLabel('Find a key').fill('20');
    await page.getByRole('button', { name: 'Change Mill › Speed' }).click();
    await expect(page.getByRole('list', { name: 'What is said of it' })).toContainText('In turns a minute');

    await deploy(page, /\d+ of \d+ landed/);
    await expect(page.getByRole('status', { name: 'What to do next' })).toContainText('Start it now and come back');
    await step(page, 'Bring in').click();
    await expect(steps.getByRole('listitem').filter({ hasText: 'chime.tone' }).getByLabel('done')).toBeVisible();
    await expect(steps.getByRole('listitem').filter({ hasText: 'LooseWheels' })).toContainText('it is so');
    for (const one of ['Close the game first.', 'Turn the big wheel by hand once.']) {
      await steps.getByLabel(`Done: ${one}`).click();
      await expect(steps.getByLabel(`Done: ${one}`)).toBeChecked();
    }
    await expect(strap).not.toContainText('open');
    await page.reload();
    await expect(steps.getByLabel('Done: Close the game first.')).toBeChecked();
  } finally {
    await app.kill(page);
  }
});
