import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { deploy, expect, expectSameBytes, folderBytes, openDemo, step, takeFromShelf, test } from './support';

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
