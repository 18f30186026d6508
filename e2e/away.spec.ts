import { mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { zipSync } from 'fflate';
import { reach } from './reach';
import { Started, makeGame, setUpGame, treeOf } from './started';
import { deploy, expect, putEverythingBack, step, test, text } from './support';

/* What the page does while something is not there: a folder, the server, its key; and what was typed meanwhile. */

const pack = () =>
  Buffer.from(zipSync({ 'Maps/maps/one.map': text('better one'), 'Maps/maps/two.map': text('better two') }));
const bringIn = async (page: Parameters<typeof setUpGame>[0]) => {
  await page
    .getByLabel('Choose downloads')
    .setInputFiles({ name: 'maps.zip', mimeType: 'application/zip', buffer: pack() });
  await expect(page.getByRole('heading', { name: 'Maps', level: 1 })).toBeVisible();
};

test('a game whose folder is gone has a page of its own, goes on by itself when it is back, and no demo takes its place', async ({
  page,
}) => {
  const { top, game, backup } = makeGame();
  const before = treeOf(game);
  const app = await new Started(game, backup, 4671).start();
  try {
    await setUpGame(page, app);
    await bringIn(page);
    renameSync(game, `${game} away`);
    await page.reload();
    await expect(page.getByRole('heading', { name: 'My own game cannot be opened now' })).toBeVisible();
    await expect(page.getByText('is not there.')).toBeVisible();
    await reach(page, 'a game that cannot be opened');
    await page.goto(app.origin);
    await expect(page.getByRole('heading', { name: 'My own game cannot be opened now' })).toBeVisible();
    await expect(page.getByText('On the download shelf')).toHaveCount(0);
    renameSync(`${game} away`, game);
    await expect(page.getByRole('navigation', { name: 'Steps' })).toBeVisible();
    await deploy(page, '2 of 2 landed');
    await putEverythingBack(page);
    expect(treeOf(game)).toEqual(before);
    // Another game can be chosen instead.
    await page.goto(`${app.origin}/?choose`);
    await page.getByRole('button', { name: 'Open the demo' }).click();
    await expect(page.getByRole('heading', { name: 'On the download shelf' })).toBeVisible();
    await page.locator('#games').click();
    await page.getByRole('button', { name: 'My own game' }).click();
    await expect(page.locator('#games')).toHaveText('My own game');
    renameSync(game, `${game} away`);
    await page.reload();
    await page.getByRole('button', { name: 'Gullwick Ferries (demo)' }).click();
    await expect(page.locator('#games')).toHaveText('Gullwick Ferries');
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('a lock that another program’s number keeps is said, and opens by itself', async ({ page }) => {
  const { top, game, backup } = makeGame();
  const app = await new Started(game, backup, 4672).start();
  try {
    await setUpGame(page, app);
    const [folder] = Object.keys(treeOf(backup)).filter((name) => /^[^/]+\/satchel\/$/.test(name));
    const lock = path.join(backup, folder ?? '', 'running.lock');
    mkdirSync(lock);
    // The process that runs this test is alive, and knows nothing of the lock.
    writeFileSync(
      path.join(backup, folder ?? '', 'running.json'),
      JSON.stringify({ pid: process.pid, token: 'other' }),
    );
    await page.reload();
    await expect(page.getByText('Another copy of this app is at work with this game’s originals.')).toBeVisible();
    await expect(page.getByRole('navigation', { name: 'Steps' })).toBeVisible();
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('the server is stopped and started again while the page is open: it says so, keeps what was typed, and goes on', async ({
  page,
}) => {
  const { top, game, backup } = makeGame();
  let app = await new Started(game, backup, 4673).start();
  try {
    await setUpGame(page, app);
    await bringIn(page);
    await step(page, 'Settings').click();
    await page.getByRole('button', { name: 'Change Look › Wide' }).click();
    await page.getByLabel('Value of Look › Wide').fill('27');
    await app.kill();
    await page.getByRole('button', { name: 'Set it' }).click();
    await expect(page.getByText('The app’s own server does not answer.').first()).toBeVisible();
    await expect(page.getByLabel('Value of Look › Wide')).toHaveValue('27');
    // What was seen last stays: no game is shown as empty because it could not be looked at.
    await expect(page.getByRole('contentinfo', { name: 'In the game folder now' })).toContainText('2changes waiting');
    app = await new Started(game, backup, 4673).start();
    await expect(page.getByText('this page does not know its new key')).toBeVisible();
    // The new address, opened in another tab, is enough.
    const other = await page.context().newPage();
    await other.goto(app.door);
    await expect(page.getByText('this page does not know its new key')).toHaveCount(0);
    await other.close();
    await expect(page.getByLabel('Value of Look › Wide')).toHaveValue('27');
    await page.getByRole('button', { name: 'Set it' }).click();
    await deploy(page, '3 of 3 landed');
    expect(readFileSync(path.join(game, 'settings.ini'), 'utf8')).toBe('[Look]\nWide=27\n');
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('two apps on two ports in one browser: each keeps its own key', async ({ page }) => {
  const [one, two] = [makeGame(), makeGame()];
  const apps = [
    await new Started(one.game, one.backup, 4674).start(),
    await new Started(two.game, two.backup, 4675).start(),
  ] as const;
  try {
    const second = await page.context().newPage();
    await setUpGame(page, apps[0], 'First game');
    await setUpGame(second, apps[1], 'Second game');
    await bringIn(page);
    await bringIn(second);
    await deploy(page, '2 of 2 landed');
    await deploy(second, '2 of 2 landed');
    for (const { game } of [one, two])
      expect(readFileSync(path.join(game, 'data/maps/one.map'), 'utf8')).toBe('better one');
    // What one of them knows is of no use at the other.
    expect(await page.context().cookies()).toEqual([]);
    const key = await second.evaluate(() => localStorage.getItem('satchel-key') ?? '');
    const statusAt = async (origin: string) =>
      (await page.request.get(`${origin}/bridge/folders`, { headers: { 'x-satchel-key': key } })).status();
    expect([await statusAt(apps[1].origin), await statusAt(apps[0].origin)]).toEqual([200, 401]);
    await second.close();
  } finally {
    await apps[0].kill(page);
    await apps[1].kill();
    for (const { top } of [one, two]) rmSync(top, { recursive: true, force: true });
  }
});

test('a program that writes while a deployment waits: its file is left to it, and everything else lands', async ({
  page,
}) => {
  const { top, game, backup } = makeGame();
  const before = treeOf(game);
  const app = await new Started(game, backup, 4676).start();
  try {
    await setUpGame(page, app);
    await bringIn(page);
    await step(page, 'Deploy').click();
    await expect(page.getByRole('heading', { name: 'This is what will happen' })).toBeVisible();
    // The moment between the last look and the write is short; a program that writes all the time hits it.
    let turns = 0;
    const writer = setInterval(() => {
      writeFileSync(path.join(game, 'data/maps/.tmp'), `saved ${++turns}`);
      renameSync(path.join(game, 'data/maps/.tmp'), path.join(game, 'data/maps/two.map'));
    }, 1);
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    const said = page.getByRole('dialog').or(page.getByText('was changed by another program')).first();
    await expect(said).toBeVisible();
    clearInterval(writer);
    if (await page.getByRole('dialog').isVisible()) {
      await page.getByRole('button', { name: 'Take everything back' }).click();
      await expect(page.getByRole('dialog')).toHaveCount(0);
    }
    expect(treeOf(game)).toEqual({ ...before, 'data/maps/two.map': `saved ${turns}` });
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByText('2 of 2 landed')).toBeVisible();
    await putEverythingBack(page);
    expect(treeOf(game)).toEqual({ ...before, 'data/maps/two.map': `saved ${turns}` });
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('what was typed is offered again after a reload and after going elsewhere, and never taken by itself', async ({
  page,
}) => {
  const { top, game, backup } = makeGame();
  const app = await new Started(game, backup, 4677).start();
  const offer = () => page.getByText('was not taken yet');
  try {
    await setUpGame(page, app);
    await step(page, 'Settings').click();
    // As text.
    await page.getByRole('button', { name: 'As text' }).click();
    const editor = page.getByRole('textbox', { name: 'Text of settings.ini' });
    await editor.click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type('Deep=3');
    await page.reload();
    await page.getByRole('button', { name: 'As text' }).click();
    await expect(offer()).toBeVisible();
    await expect(editor).not.toContainText('Deep=3');
    await page.getByRole('button', { name: 'Go on with it' }).click();
    await expect(editor).toContainText('Deep=3');
    await expect(page.getByRole('contentinfo', { name: 'In the game folder now' })).toContainText('0changes waiting');
    await page.getByRole('button', { name: 'Start over' }).click();
    await page.waitForTimeout(500);
    await page.reload();
    await page.getByRole('button', { name: 'As text' }).click();
    await expect(editor).toBeVisible();
    await expect(offer()).toHaveCount(0);
    // A form.
    await page.getByRole('button', { name: 'Keys' }).click();
    await page.getByRole('button', { name: 'Change Look › Wide' }).click();
    await page.getByLabel('Value of Look › Wide').fill('31');
    await step(page, 'Deploy').click();
    // Gone elsewhere only when that is open: who turns round on the way has left nothing.
    await expect(step(page, 'Deploy')).toHaveAttribute('aria-current', 'page');
    await step(page, 'Settings').click();
    await page.getByRole('button', { name: 'Change Look › Wide' }).click();
    await page.getByRole('button', { name: 'Go on with it' }).click();
    await expect(page.getByLabel('Value of Look › Wide')).toHaveValue('31');
    await page.getByRole('button', { name: 'Set it' }).click();
    await expect(page.getByRole('contentinfo', { name: 'In the game folder now' })).toContainText('1change waiting');
    await page.getByRole('button', { name: 'Change Look › Wide' }).click();
    await expect(page.getByLabel('Value of Look › Wide')).toHaveValue('31');
    await expect(offer()).toHaveCount(0);
    // The game card.
    await page.goto(`${app.origin}/game/card`);
    const json = page.getByLabel('Game card as JSON');
    await page.getByText('As a file, to pass on or to take in').click();
    await expect(json).not.toHaveValue('');
    await json.fill('{ "half": ');
    await page.reload();
    await expect(offer()).toBeVisible();
    await page.getByRole('button', { name: 'Go on with it' }).click();
    await expect(json).toHaveValue('{ "half": ');
    await expect(page.getByRole('heading', { name: 'How My own game works' })).toBeVisible();
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});
