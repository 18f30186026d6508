import { spawnSync } from 'node:child_process';
import { chmodSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { buildSync } from 'esbuild';
import { zipSync } from 'fflate';
import { reach } from './reach';
import { Started, makeGame, treeOf } from './started';
import { deploy, expect, step, test, text, watchTasks } from './support';

const script = buildSync({
  stdin: {
    contents: `import { FOLDER_CONTRACT } from './tests/support/folderContract';
      import { setBridgeKey } from './src/folders/bridge';
      import { BridgeFolder } from './src/folders/bridgeFolder';
      import { SubFolder } from './src/folders/sub';
      setBridgeKey(localStorage.getItem('satchel-key'));
      globalThis.folderTests = { FOLDER_CONTRACT, BridgeFolder, SubFolder };`,
    resolveDir: path.resolve('.'),
    loader: 'ts',
  },
  alias: { '@': path.resolve('src'), module: path.resolve('src/noModule.ts') },
  bundle: true,
  write: false,
  format: 'iife',
}).outputFiles[0]?.text as string;

interface Tests {
  FOLDER_CONTRACT: { name: string; run(folder: unknown): Promise<void> }[];
  BridgeFolder: new (id: string, part: string) => unknown;
  SubFolder: new (outer: unknown, path: string) => unknown;
}

test('the bridge folder keeps the contract: a real folder, through the app’s own server', async ({ page }) => {
  const { top, game, backup } = makeGame();
  const app = await new Started(game, backup, 4661).start();
  try {
    await page.goto(app.door);
    await expect(page.getByLabel('What do you call this game?')).toBeVisible();
    // The key is out of the address at once, and in no cookie: those go to every port of this computer.
    expect(page.url()).not.toContain('key');
    expect(await page.context().cookies()).toEqual([]);
    await page.goto(`${app.origin}/game-card.schema.json`);
    await page.evaluate(script);
    const results = await page.evaluate(async () => {
      const { FOLDER_CONTRACT, BridgeFolder, SubFolder } = (globalThis as unknown as { folderTests: Tests })
        .folderTests;
      const [{ id }] = (await (
        await fetch('/bridge/folders', { headers: { 'x-satchel-key': localStorage.getItem('satchel-key') ?? '' } })
      ).json()) as [{ id: string }];
      const found: [string, string][] = [];
      for (const part of ['game', 'vault'])
        for (const [i, { name, run }] of FOLDER_CONTRACT.entries())
          found.push([
            `${part}: ${name}`,
            await run(new SubFolder(new BridgeFolder(id, part), `case ${i}`)).then(
              () => 'kept',
              (error: unknown) => String(error),
            ),
          ]);
      return found;
    });
    expect(results.length).toBeGreaterThan(20);
    for (const [name, outcome] of results) expect(outcome, name).toBe('kept');
    expect(readFileSync(path.join(game, 'case 0', 'deep', 'er', 'bytes.bin')).length).toBe(70_000);
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('a game in a folder that only the server can open: deployed, a read-only file left out, and put back from a fresh browser', async ({
  page,
  browser,
}) => {
  const { top, game, backup } = makeGame();
  const before = treeOf(game);
  const app = await new Started(game, backup, 4662).start();
  try {
    await page.goto(app.door);
    await page.getByLabel('What do you call this game?').fill('My own game');
    await page.getByRole('button', { name: `Use ${game}` }).click();
    await page.getByRole('button', { name: 'Looks right' }).click();
    const pack = Buffer.from(
      zipSync({
        'Maps/maps/one.map': text('better one'),
        'Maps/maps/two.map': text('better two'),
        'Maps/maps/far/three.map': text('new three'),
      }),
    );
    await page
      .getByLabel('Choose downloads')
      .setInputFiles({ name: 'maps.zip', mimeType: 'application/zip', buffer: pack });
    await expect(page.getByRole('heading', { name: 'Maps', level: 1 })).toBeVisible();
    chmodSync(path.join(game, 'data', 'maps', 'two.map'), 0o444);
    await step(page, 'Deploy').click();
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByRole('dialog')).toContainText('it is read-only');
    await reach(page, 'a file that cannot be written');
    await page.getByRole('button', { name: 'Leave this file as it was' }).click();
    await expect(page.getByText('2 of 3 landed')).toBeVisible();
    await expect(
      page.getByText('1 file was left as it was, since it could not be written: Game folder/data/maps/two.map'),
    ).toBeVisible();
    expect(treeOf(game)).toEqual({
      ...before,
      'data/maps/one.map': 'better one',
      'data/maps/far/': 'folder',
      'data/maps/far/three.map': 'new three',
    });
    chmodSync(path.join(game, 'data', 'maps', 'two.map'), 0o644);
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByText('1 of 1 landed')).toBeVisible();
    expect(readFileSync(path.join(game, 'data', 'maps', 'two.map'), 'utf8')).toBe('better two');

    // The plain copies come when nobody waits for them; then a program that knows nothing of this app checks them.
    await step(page, 'Ledger').click();
    await expect(page.getByText('Every original has its plain copy, up to deployment 2.')).toBeVisible();
    const copies = path.join(backup, readdirSync(backup)[0] as string);
    const check = spawnSync('sha256sum', ['-c', '--strict', 'manifest-sha256.txt'], { cwd: copies, encoding: 'utf8' });
    expect(check.stdout.trim().split('\n').sort()).toEqual([
      'data/game/data/maps/one.map: OK',
      'data/game/data/maps/two.map: OK',
    ]);

    // Another browser, which knows nothing of the game: what was deployed lies beside the originals on the disk.
    const fresh = await (await browser.newContext()).newPage();
    await fresh.goto(app.door);
    await fresh.getByLabel('What do you call this game?').fill('The same game');
    await fresh.getByRole('button', { name: `Use ${game}` }).click();
    await fresh.getByRole('button', { name: 'Looks right' }).click();
    await fresh.waitForURL('**/game/bring-in');
    await step(fresh, 'Ledger').click();
    await expect(fresh.getByText('The originals are kept on your disk')).toBeVisible();
    await fresh.getByRole('button', { name: 'Put everything back…' }).click();
    await fresh.getByRole('button', { name: 'Put everything back now' }).click();
    await expect(fresh.getByRole('list', { name: 'Deployments, latest first' }).getByRole('listitem')).toHaveCount(3);
    expect(treeOf(game)).toEqual(before);
    await fresh.context().close();

    // Started with another backup folder, the app would not know what it had done: it asks for the right one.
    await app.kill();
    const other = await new Started(game, path.join(top, 'elsewhere'), 4662).start();
    await page.goto(other.door);
    await expect(page.getByRole('heading', { name: 'The folder of My own game is not open to the app' })).toBeVisible();
    await expect(page.getByText(`npm start -- --folder "${game}" --backup "${backup}"`)).toBeVisible();
    await other.kill();
    const { status, stderr } = spawnSync(
      process.execPath,
      ['scripts/start.mjs', '--folder', game, '--backup', path.join(game, 'originals')],
      { encoding: 'utf8' },
    );
    expect([status, stderr]).toEqual([1, expect.stringContaining('inside the game')]);
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('a settings file that another program has made read-only: said before, asked about while deploying, and the edit stays waiting', async ({
  page,
}) => {
  const { top, game, backup } = makeGame();
  const started = await new Started(game, backup, 4665).start();
  try {
    chmodSync(path.join(game, 'settings.ini'), 0o444);
    await page.goto(started.door);
    await page.getByLabel('What do you call this game?').fill('Locked');
    await page.getByRole('button', { name: `Use ${game}` }).click();
    await page.getByRole('button', { name: 'Looks right' }).click();
    await page.waitForURL('**/game/bring-in');
    await step(page, 'Settings').click();
    await expect(page.getByText('A settings file is read-only')).toBeVisible();
    await page.getByRole('button', { name: 'Change Look › Wide' }).click();
    await page.getByLabel('Value of Look › Wide').fill('2');
    await page.getByRole('button', { name: 'Set it' }).click();
    await step(page, 'Deploy').click();
    await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByRole('dialog')).toContainText('it is read-only');
    chmodSync(path.join(game, 'settings.ini'), 0o644);
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByText('1 of 1 landed')).toBeVisible();
    expect(readFileSync(path.join(game, 'settings.ini'), 'utf8')).toBe('[Look]\nWide=2\n');
    await step(page, 'Settings').click();
    await expect(page.getByText('A settings file is read-only')).toHaveCount(0);
  } finally {
    await started.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('a settings file of 500,000 lines is opened, searched and edited by key', async ({ page }) => {
  const { top, game, backup } = makeGame();
  let whole = '';
  for (let i = 0; i < 500_000; i++)
    whole += i % 50 === 0 ? `[section ${i / 50}]\r\n` : `some_long_key_${i}=the value of ${i}\r\n`;
  writeFileSync(path.join(game, 'settings.ini'), whole);
  const started = await new Started(game, backup, 4666).start();
  try {
    await page.goto(started.door);
    await page.getByLabel('What do you call this game?').fill('Long');
    await page.getByRole('button', { name: `Use ${game}` }).click();
    await page.getByRole('button', { name: 'Looks right' }).click({ timeout: 240_000 });
    await page.waitForURL('**/game/bring-in');
    const tasks = await watchTasks(page);
    await step(page, 'Settings').click();
    await expect(page.getByText('490,000 keys')).toBeVisible();
    await page.getByRole('searchbox', { name: 'Find a key' }).fill('key_499999');
    const row = page.getByRole('table', { name: 'Keys' }).getByRole('row').filter({ hasText: 'some_long_key_499999' });
    await expect(row).toBeVisible();
    await page.getByRole('button', { name: 'Change section 9999 › some_long_key_499999' }).click();
    await page.getByLabel('Value of section 9999 › some_long_key_499999').fill('mine');
    await page.getByRole('button', { name: 'Set it' }).click();
    await expect(row).toContainText('mine for you');
    console.log(`500,000 lines opened, searched and edited: ${await tasks()}`);
    await page.getByRole('button', { name: 'As text', exact: true }).click();
    await expect(page.getByText('too long to be edited as text')).toBeVisible();
    await deploy(page, '1 of 1 landed');
    expect(readFileSync(path.join(game, 'settings.ini'), 'utf8')).toBe(
      whole.replace('some_long_key_499999=the value of 499999', 'some_long_key_499999=mine'),
    );
  } finally {
    await started.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});
