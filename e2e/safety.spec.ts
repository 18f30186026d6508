import { spawnSync } from 'node:child_process';
import { mkdtempSync, mkdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
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
  text,
} from './support';
import { write, read, GAME, setUp } from './plainFolder';

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
