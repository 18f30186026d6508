import { everyView } from './reach';
import { Started, ownGame, setUpGame } from './started';
import { chooseGame, drop, expect, openDemo, packed, step, test } from './support';

test('an accessibility checker finds nothing: the other two games', async ({ page }) => {
  await openDemo(page);
  for (const [title, ids] of [
    ['Crumbleby Bakery in Tinplate', ['player', 'user']],
    ['Hedgerow Hall', ['hall']],
  ] as const) {
    await chooseGame(page, title);
    await everyView(page, `${title}, empty`, ids, 'ends');
    await step(page, 'Bring in').click();
    const shelf = page.getByRole('region', { name: 'Download shelf' });
    const offered = await shelf
      .getByRole('button', { name: /^Take / })
      .evaluateAll((all) => all.map((one) => one.getAttribute('aria-label') ?? ''));
    for (const name of offered.slice(0, 4)) {
      await page.getByRole('button', { name, exact: true }).click();
      await expect(shelf.getByRole('button', { name: name.replace(/^Take (.*)$/, '$1 is here') })).toBeVisible();
    }
    await everyView(page, title, ids);
  }
});

test('an accessibility checker finds nothing: a game that nobody described', async ({ page }) => {
  const { game, backup } = ownGame({
    'mill.exe': 'MZ',
    'look.ini': '[Look]\nWide=1\nStone=grey\n',
    'stones/first/stone.dat': 'a',
    'stones/second/stone.dat': 'b',
    'sounds/wheel.ogg': 'c',
  });
  const app = await new Started(game, backup, 4695).start();
  try {
    await setUpGame(page, app, 'Old Stone Mill');
    await everyView(page, 'own game, empty', ['game', 'main'], 'ends');
    await step(page, 'Bring in').click();
    await drop(page, 'Third stone.zip', packed({ 'third/stone.dat': 'x', 'readme.txt': 'Set Wide=2 in look.ini.' }));
    await expect(page.getByRole('heading', { name: 'Third Stone', level: 1 })).toBeVisible();
    await everyView(page, 'own game', ['game', 'main']);
  } finally {
    await app.kill(page);
  }
});
