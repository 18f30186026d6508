import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, renameSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { Started, makeDialog, ownGame, setUpGame, treeOf } from './started';
import { deploy, expect, putEverythingBack, step, test } from './support';

/** Every file of a folder, with the disk's number for it. */
const filesIn = (folder: string): { file: string; ino: number }[] =>
  readdirSync(folder, { recursive: true, withFileTypes: true }).flatMap((one) =>
    one.isFile()
      ? [{ file: path.join(one.parentPath, one.name), ino: statSync(path.join(one.parentPath, one.name)).ino }]
      : [],
  );

test('the downloads folder: what comes in stands there by itself, a ZIP is read where it lies and stored once, and is found again by its content', async ({
  page,
}) => {
  const { game, backup } = ownGame({
    'lamp.exe': 'program',
    'lamps/oil/oil.lmp': 'oil',
    'lamps/wick/wick.lmp': 'wick',
    'lamps/gas/gas.lmp': 'gas',
  });
  const before = treeOf(game);
  const top = path.dirname(game);
  const downloads = path.join(top, 'downloads');
  mkdirSync(downloads);
  const pack = (name: string, program: string, args: string[]) => {
    const from = path.join(top, `of ${name}`, name.replace(/\W.*/, ''));
    mkdirSync(from, { recursive: true });
    writeFileSync(path.join(from, `${path.basename(from)}.lmp`), `light of ${name}`);
    execFileSync(program, [...args, path.join(downloads, name), '.'], { cwd: path.dirname(from) });
    const old = new Date(Date.now() - 60_000);
    utimesSync(path.join(downloads, name), old, old);
  };
  pack('brass.zip', 'zip', ['-qr']);
  const dialog = makeDialog(top);
  const sent: string[] = [];
  page.on(
    'request',
    (request) =>
      void ((request.url().includes('/vault/pack') && request.method() === 'PUT') ||
      request.url().includes('/downloads/file')
        ? sent.push(request.url())
        : undefined),
  );
  const app = await new Started(game, backup, 4689, { SATCHEL_DIALOG: dialog.program }).start();
  try {
    await setUpGame(page, app, 'Lamplight');
    const shelf = page.getByRole('region', { name: 'Downloads folder' });
    // A folder of the game is none.
    dialog.answer(path.join(game, 'lamps'));
    await shelf.getByRole('button', { name: 'Choose the downloads folder…' }).click();
    await expect(page.getByText('lies inside a game’s folder')).toBeVisible();
    dialog.answer(downloads);
    await shelf.getByRole('button', { name: 'Choose the downloads folder…' }).click();
    await expect(shelf.getByRole('button', { name: 'Take brass.zip' })).toBeVisible();

    // What comes in meanwhile: one that is half-way, a set of which a part is missing, and one that is whole. Nobody
    // presses anything.
    writeFileSync(path.join(downloads, 'slow.zip.part'), 'half of it');
    writeFileSync(path.join(downloads, 'big.7z.002'), 'the second part');
    writeFileSync(path.join(downloads, 'holiday.jpg'), 'no pack');
    pack('copper.7z', '7z', ['a', '-bso0', '-bsp0']);
    await expect(shelf.getByRole('button', { name: 'Take copper.7z' })).toBeVisible();
    await expect(shelf.getByRole('listitem').filter({ hasText: 'slow.zip' })).toContainText('Still coming');
    await expect(shelf.getByRole('listitem').filter({ hasText: 'big.7z' })).toContainText('big.7z.001 is missing');
    await expect(shelf).not.toContainText('holiday');

    // The mark that a browser leaves on what it saves (extended attributes, freedesktop.org).
    const origin = 'https://packs.example/brass/12?token=mine';
    const mark = 'import os, sys; os.setxattr(sys.argv[1], "user.xdg.origin.url", sys.argv[2].encode())';
    const marked = spawnSync('python3', ['-c', mark, path.join(downloads, 'brass.zip'), origin]).status === 0;
    await shelf.getByRole('button', { name: 'Take brass.zip' }).click();
    await expect(page.getByRole('heading', { name: 'Brass', level: 1 })).toBeVisible();
    if (marked) await expect(page.locator('summary').filter({ hasText: 'Notes' })).toContainText(origin);
    await expect(shelf.getByRole('listitem').filter({ hasText: 'brass.zip' })).toContainText('Here');
    // The same bytes on the disk under two names, or shared by the file system: nothing was sent.
    const { ino } = statSync(path.join(downloads, 'brass.zip'));
    const kept = filesIn(path.join(backup)).filter(({ file }) => file.endsWith('.zip'));
    expect(kept).toHaveLength(1);
    expect(kept[0]?.ino === ino || statSync(path.join(downloads, 'brass.zip')).nlink === 1).toBe(true);
    expect(sent).toEqual([]);

    // Another kind of archive is unpacked by the server, and comes in just so: nothing of it goes through the page.
    await shelf.getByRole('button', { name: 'Take copper.7z' }).click();
    await expect(page.getByRole('heading', { name: 'Copper', level: 1 })).toBeVisible();
    await expect(shelf.getByRole('listitem').filter({ hasText: 'copper.7z' })).toContainText('Here');
    const unpacked = filesIn(path.join(backup)).filter(({ file }) => file.endsWith('.zip') && file !== kept[0]?.file);
    expect(unpacked).toHaveLength(1);
    expect(execFileSync('unzip', ['-p', unpacked[0]?.file ?? '']).toString()).toBe('light of copper.7z');
    expect(sent).toEqual([]);

    // The downloads are gone under their names, and so is what was kept of them: they are found again by their content.
    renameSync(path.join(downloads, 'brass.zip'), path.join(downloads, 'something else.zip'));
    renameSync(path.join(downloads, 'copper.7z'), path.join(downloads, 'another.7z'));
    for (const { file } of [...kept, ...unpacked]) rmSync(file);
    await page.reload();
    await deploy(page, /2 of 2 landed/);
    expect(treeOf(game)).toMatchObject({
      'lamps/brass/brass.lmp': 'light of brass.zip',
      'lamps/copper/copper.lmp': 'light of copper.7z',
    });

    // The folder is there at the next start, and is said to be away where it is.
    await app.kill();
    renameSync(downloads, `${downloads} away`);
    await app.start();
    await page.goto('about:blank');
    await page.goto(app.door);
    await step(page, 'Bring in').click();
    await expect(shelf).toContainText('The folder is not there now.');
    renameSync(`${downloads} away`, downloads);
    await expect(shelf.getByRole('listitem').filter({ hasText: 'another.7z' })).toBeVisible();
    await putEverythingBack(page);
    expect(treeOf(game)).toEqual(before);
    await step(page, 'Bring in').click();
    await shelf.getByRole('button', { name: 'Look there no more' }).click();
    await expect(shelf.getByRole('button', { name: 'Choose the downloads folder…' })).toBeVisible();
    expect(readdirSync(downloads).sort()).toEqual([
      'another.7z',
      'big.7z.002',
      'holiday.jpg',
      'slow.zip.part',
      'something else.zip',
    ]);
  } finally {
    await app.kill(page);
  }
});
