import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { zipSync } from 'fflate';
import {
  deploy,
  expect,
  expectSameBytes,
  folderBytes,
  openDemo,
  pickByKind,
  putEverythingBack,
  step,
  takeFromShelf,
  test,
} from './support';

const text = (value: string): Uint8Array => new TextEncoder().encode(value);
const PLAIN = 'http://127.0.0.1:4651/';

const write = (page: Page, folder: string, files: Record<string, string>) =>
  page.evaluate(
    async ([top, contents]) => {
      const base = await (await navigator.storage.getDirectory()).getDirectoryHandle(top, { create: true });
      for (const [name, content] of Object.entries(contents)) {
        const names = name.split('/');
        let at = base;
        for (const one of names.slice(0, -1)) at = await at.getDirectoryHandle(one, { create: true });
        const stream = await (await at.getFileHandle(names.at(-1) as string, { create: true })).createWritable();
        await stream.write(content);
        await stream.close();
      }
    },
    [folder, files] as const,
  );
/** Every file and folder below one of the browser's own. */
const read = (page: Page, folder: string): Promise<Record<string, string>> =>
  page.evaluate(async (top) => {
    const found: Record<string, string> = {};
    const walk = async (at: FileSystemDirectoryHandle, under: string): Promise<void> => {
      for await (const [name, child] of at.entries()) {
        if (child.kind === 'directory') {
          found[`${under}${name}/`] = 'folder';
          await walk(child, `${under}${name}/`);
        } else found[under + name] = await (await child.getFile()).text();
      }
    };
    await walk(await (await navigator.storage.getDirectory()).getDirectoryHandle(top, { create: true }), '');
    return found;
  }, folder);

const GAME = { 'data/maps/one.map': 'own one', 'data/maps/two.map': 'own two', 'settings.ini': '[Look]\nWide=1\n' };
async function setUp(page: Page): Promise<void> {
  await page.goto(PLAIN);
  await write(page, 'game', GAME);
  await page.getByLabel('What do you call this game?').fill('My own game');
  await page.getByRole('button', { name: 'Choose its folder' }).click();
  await page.getByRole('button', { name: 'Looks right' }).click();
  await page.waitForURL('**/game/bring-in');
}

test('a real folder: plain copies of the originals, and files that others changed are kept, taken as new originals, or overwritten', async ({
  page,
}) => {
  await pickByKind(page);
  await setUp(page);
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
  await step(page, 'Deploy').click();
  await page.getByRole('button', { name: 'Choose a backup folder' }).click();
  await expect(page.getByRole('button', { name: 'Choose a backup folder' })).toHaveCount(0);
  await deploy(page, '3 of 3 landed');
  const backup = await read(page, 'backup');
  expect(backup).toMatchObject({ 'data/game/data/maps/one.map': 'own one', 'data/game/data/maps/two.map': 'own two' });
  // The list beside them is what sha256sum reads.
  const copies = mkdtempSync(path.join(tmpdir(), 'satchel-copies-'));
  for (const [name, content] of Object.entries(backup)) {
    if (name.endsWith('/')) mkdirSync(path.join(copies, name), { recursive: true });
    else writeFileSync(path.join(copies, name), content);
  }
  expect(
    spawnSync('sha256sum', ['-c', '--strict', 'manifest-sha256.txt'], { cwd: copies, encoding: 'utf8' })
      .stdout.split('\n')
      .filter((line) => line.endsWith(': OK')),
  ).toHaveLength(2);

  // Another program changes two files and deletes one.
  await write(page, 'game', { 'data/maps/one.map': 'edited by me', 'data/maps/two.map': 'updated two' });
  await page.evaluate(async () => {
    const maps = await (
      await (await (await navigator.storage.getDirectory()).getDirectoryHandle('game')).getDirectoryHandle('data')
    ).getDirectoryHandle('maps');
    await (await maps.getDirectoryHandle('far')).removeEntry('three.map');
  });
  await page.reload();
  await step(page, 'Deploy').click();
  const drift = page.getByRole('region', { name: 'Changed by others' });
  await expect(drift).toContainText('3 deployed files were changed or deleted by another program since');
  await expect(drift).toContainText('“Maps” lies over 3 of these files');
  await drift
    .getByRole('listitem')
    .filter({ hasText: 'one.map' })
    .getByRole('button', { name: 'Keep as mine' })
    .click();
  await expect(drift).toContainText('2 deployed files');
  await drift
    .getByRole('listitem')
    .filter({ hasText: 'two.map' })
    .getByRole('button', { name: 'New original' })
    .click();
  await expect(drift).toContainText('1 deployed file was');
  await deploy(page, '2 of 2 landed');
  expect(await read(page, 'game')).toMatchObject({
    'data/maps/one.map': 'edited by me',
    'data/maps/two.map': 'better two',
    'data/maps/far/three.map': 'new three',
  });
  await step(page, 'Ledger').click();
  await page.getByRole('button', { name: 'Check every deployed file' }).click();
  await expect(page.getByText('All 3 deployed files were read: each is as it was written.')).toBeVisible();
  await step(page, 'Stack').click();
  await page.getByText('Your own files').click();
  await expect(page.getByRole('list', { name: 'Stack, topmost first' })).toContainText('data/maps/one.map');

  await page.reload();
  await putEverythingBack(page);
  // The folder that the pack brought is gone too; what was taken as original is what came back.
  expect(await read(page, 'game')).toEqual({
    'data/': 'folder',
    'data/maps/': 'folder',
    ...GAME,
    'data/maps/two.map': 'updated two',
  });
});

test('put back one pack, one folder, one file; two states compared; a backup with a name', async ({ page }) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Weathered Quay 1.2');
  await deploy(page, '214 of 214 landed');
  const quay = await folderBytes(page);
  await takeFromShelf(page, 'Painted Boats');
  await deploy(page);
  const both = await folderBytes(page);

  await step(page, 'Ledger').click();
  await page
    .getByRole('region', { name: 'Backups with a name' })
    .getByRole('button', { name: 'Make a backup…' })
    .click();
  await page.getByLabel('Name of the backup').fill('before I tried the wide view');
  await page.getByRole('button', { name: /^Back up \d+ files/ }).click();
  await expect(page.getByText('before I tried the wide view')).toBeVisible();

  const part = page.getByRole('region', { name: 'Put back a part' });
  await part.getByLabel('Which pack').selectOption({ label: 'Painted Boats' });
  await part.getByRole('button', { name: 'Show what would happen' }).click();
  await expect(part.getByRole('table', { name: 'What putting it back does' })).toContainText('boats/awning.png');
  expectSameBytes(await folderBytes(page), both);
  await part.getByRole('button', { name: 'Show what would happen' }).click();
  await part.getByRole('button', { name: 'Put back 7 files' }).click();
  await expect(page.getByRole('list', { name: 'Deployments, latest first' })).toContainText(
    '3. Put back “Painted Boats”',
  );
  expectSameBytes(await folderBytes(page), quay);

  const states = page.getByRole('region', { name: 'Compare two states' });
  await states.getByLabel('From').selectOption('1');
  await expect(states.getByLabel('To')).toHaveValue('3');
  await states.getByRole('button', { name: 'Show what differs' }).click();
  await expect(page.getByRole('table', { name: 'What differs between the two states' })).toContainText(
    'No step fits this.',
  );
  await states.getByLabel('To').selectOption('2');
  await expect(page.getByRole('table', { name: 'What differs between the two states' }).getByRole('row')).toHaveCount(
    8,
  );

  await part.getByLabel('What', { exact: true }).selectOption('file');
  const [replaced] = Object.keys(quay).filter(
    (name) =>
      name in before &&
      name.startsWith('program/') &&
      Buffer.compare(quay[name] as Buffer, before[name] as Buffer) !== 0,
  );
  await part.getByLabel('Which file').fill(replaced as string);
  await part.getByRole('button', { name: 'Show what would happen' }).click();
  await part.getByRole('button', { name: 'Put back 1 file' }).click();
  await expect(page.getByRole('list', { name: 'Deployments, latest first' })).toContainText('4. Put back');
  expectSameBytes(await folderBytes(page), { ...quay, [replaced as string]: before[replaced as string] as Buffer });

  await part.getByLabel('What', { exact: true }).selectOption('folder');
  await part.getByLabel('Which folder').fill('program/assets');
  await part.getByRole('button', { name: 'Show what would happen' }).click();
  await part.getByRole('button', { name: 'Put back 213 files' }).click();
  await expect(page.getByRole('list', { name: 'Deployments, latest first' })).toContainText('5. Put back');
  expectSameBytes(await folderBytes(page), before);

  // The wide view is tried, and given up.
  await step(page, 'Settings').click();
  await page.getByLabel('Settings file').selectOption({ label: 'View of each skipper: ada' });
  await page.getByRole('button', { name: 'Change view › camera › @field' }).click();
  await page.getByLabel('Value of view › camera › @field').fill('96');
  await page.getByRole('button', { name: 'Set it' }).click();
  await deploy(page, '1 of 1 landed');
  await page.reload();
  await step(page, 'Ledger').click();
  await page.getByRole('button', { name: 'Compare and restore…' }).click();
  await expect(page.getByText('has changed since')).toHaveCount(1);
  await page.getByRole('button', { name: 'Restore 1 file' }).click();
  await expect(page.getByRole('list', { name: 'Deployments, latest first' })).toContainText(
    '7. Restore “before I tried the wide view”',
  );
  expectSameBytes(await folderBytes(page), before);
  await step(page, 'Deploy').click();
  await expect(page.getByRole('heading', { name: 'This is what will happen' })).toHaveCount(0);
});

/** Unpacks a ZIP with unzip over a folder, as a player does by hand, and deletes what its text says. */
function byHand(zip: string, over: string): void {
  const { status, stderr } = spawnSync('unzip', ['-qo', zip, '-d', over], { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  const said = readFileSync(path.join(over, 'READ ME FIRST.txt'), 'utf8');
  for (const line of said.split('\r\n')) if (line.startsWith('   ')) rmSync(path.join(over, line.trim()));
  rmSync(path.join(over, 'READ ME FIRST.txt'));
}
function filesOf(at: string, from = at): Record<string, Buffer> {
  const found: Record<string, Buffer> = {};
  for (const name of readdirSync(at)) {
    const full = path.join(at, name);
    if (statSync(full).isDirectory()) Object.assign(found, filesOf(full, from));
    else found[path.relative(from, full)] = readFileSync(full);
  }
  return found;
}

test('by hand: a ZIP unpacked over a copy of the game gives what a deployment gives, and the other takes it back', async ({
  page,
}) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Weathered Quay 1.2');
  await step(page, 'Deploy').click();
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-hand-'));
  const downloads: string[] = [];
  page.on(
    'download',
    (download) =>
      void download
        .saveAs(path.join(top, download.suggestedFilename()))
        .then(() => downloads.push(download.suggestedFilename())),
  );
  await page.getByRole('button', { name: 'Do it by hand…' }).click();
  await expect
    .poll(() => [...downloads].sort())
    .toEqual(['Gullwick Ferries put in.zip', 'Gullwick Ferries take back.zip']);
  const titles: Record<string, string> = { program: 'Program folder', user: 'User-data folder' };
  const named = (files: Record<string, Buffer>) =>
    Object.fromEntries(
      Object.entries(files).map(([name, bytes]) => [name.replace(/^[^/]+/, (root) => titles[root] ?? root), bytes]),
    );
  const copy = path.join(top, 'copy');
  for (const [name, bytes] of Object.entries(named(before))) {
    mkdirSync(path.dirname(path.join(copy, name)), { recursive: true });
    writeFileSync(path.join(copy, name), bytes);
  }
  const pristine = path.join(top, 'pristine');
  cpSync(copy, pristine, { recursive: true });
  byHand(path.join(top, 'Gullwick Ferries put in.zip'), copy);
  await deploy(page, '214 of 214 landed');
  expectSameBytes(filesOf(copy), named(await folderBytes(page)));
  byHand(path.join(top, 'Gullwick Ferries take back.zip'), copy);
  expectSameBytes(filesOf(copy), filesOf(pristine));
});

for (const kind of ['picked', 'browser'] as const)
  test(`the browser is ended in the middle of a deployment into a ${kind} folder: the next start puts everything back`, async () => {
    const profile = mkdtempSync(path.join(tmpdir(), 'satchel-profile-'));
    const launch = () =>
      chromium.launchPersistentContext(profile, {
        ...(process.env.CHROMIUM ? { executablePath: process.env.CHROMIUM } : {}),
        args: ['--no-sandbox'],
        viewport: { width: 1280, height: 800 },
      });
    const names = Array.from({ length: 1500 }, (_, i) => `data/maps/part ${i % 10}/piece ${i}.map`);
    const pack = zipSync(
      { ...Object.fromEntries(names.map((name, i) => [`Big/${name}`, text(`pack ${i} `.repeat(400))])) },
      { level: 1 },
    );
    const file = path.join(profile, 'big.zip');
    let context = await launch();
    try {
      let page = context.pages()[0] ?? (await context.newPage());
      await pickByKind(page);
      if (kind === 'picked') {
        await setUp(page);
        writeFileSync(file, pack);
        await page.getByLabel('Choose downloads').setInputFiles(file);
        await expect(page.getByRole('heading', { name: 'Big', level: 1 })).toBeVisible();
      } else {
        await page.goto('http://127.0.0.1:4650/');
        await expect(page.getByRole('heading', { name: 'On the download shelf' })).toBeVisible();
        await takeFromShelf(page, 'Every Island');
      }
      const contents = () => (kind === 'picked' ? read(page, 'game') : folderBytes(page));
      const before = await contents();
      await step(page, 'Deploy').click();
      await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
      await expect(page.getByRole('status', { name: 'Work under way' })).toContainText(
        /Writing and reading back: [1-9]/,
        { timeout: 240_000 },
      );
      const closed = new Promise((done) => context.once('close', done));
      // The whole browser at once, without a word.
      spawnSync('pkill', ['-9', '-f', `user-data-dir=${profile}`]);
      await closed;

      context = await launch();
      page = context.pages()[0] ?? (await context.newPage());
      await page.goto(kind === 'picked' ? PLAIN : 'http://127.0.0.1:4650/');
      await expect(page.getByText('“Deploy” was cut off half-way; everything was put back as it was.')).toBeVisible({
        timeout: 240_000,
      });
      const after = await contents();
      if (kind === 'picked') expect(after).toEqual(before);
      else expectSameBytes(after as Record<string, Buffer>, before as Record<string, Buffer>);
    } finally {
      await context.close();
      rmSync(profile, { recursive: true, force: true });
    }
  });
