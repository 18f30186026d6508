import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from '@playwright/test';
import {
  deploy,
  drop,
  expect,
  openFile,
  expectSameBytes,
  folderBytes,
  openDemo,
  packed,
  step,
  takeFromShelf,
  test,
} from './support';

const LANG = 'program/assets/text/harbour.lang';
const slabs = (page: Page) => page.getByRole('list', { name: 'Stack, topmost first' }).getByRole('listitem');

async function bringIn(page: Page, name: string, files: Record<string, string>): Promise<void> {
  await step(page, 'Bring in').click();
  await drop(page, name, packed(files));
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
}

test('two packs that change one language file: merged, decided, deployed, and put back', async ({ page }) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Warm Words');
  await takeFromShelf(page, 'Skippers Slang');
  await openFile(page, 'harbour.lang');
  await expect(page.getByLabel('Differences')).toContainText('Let her go!');
  await page.getByRole('button', { name: 'Merge what they change' }).click();
  await expect(page.getByText('1 place wants a decision')).toBeVisible();
  // Nothing is decided behind the player's back, and a reload forgets nothing.
  await page.reload();
  await step(page, 'Stack').click();
  await expect(slabs(page).first()).toContainText('1 place to decide');
  await slabs(page).first().getByRole('button').click();
  await page.getByRole('radio', { name: /Warm Words/ }).click();
  await expect(page.getByLabel('Differences')).toContainText('Go gently, dear skipper.');
  await deploy(page);
  // What the merged file must be, written by hand: both packs' lines, and the one that was decided.
  const wanted =
    '# Gullwick Ferries, harbour talk\r\ndepart: "Let her go!"\r\narrive: "Make fast!"\r\nfog: "Go gently, dear skipper."\r\nfare.child: "Half fare, and a biscuit"\r\nfare.adult: "Full fare"\r\ntea: "The tea hut is open"\r\n';
  expect((await folderBytes(page))[LANG]?.toString()).toBe(wanted);

  // One of its packs goes: the merge stands aside, and the other pack's file is used whole.
  await step(page, 'Stack').click();
  await page.getByRole('checkbox', { name: 'Use Warm Words' }).click();
  await expect(slabs(page).first()).toContainText('stands aside now');
  await deploy(page);
  expect((await folderBytes(page))[LANG]?.toString()).toBe(
    wanted
      .replace('Go gently, dear skipper.', 'Thick as soup. Shoal ahead!')
      .replace('Half fare, and a biscuit', 'Half fare')
      .replace('tea: "The tea hut is open"\r\n', ''),
  );
  await step(page, 'Ledger').click();
  await page.getByRole('button', { name: 'Put everything back' }).click();
  await page
    .getByRole('button', { name: /^Put \d+ .*back|^Put it all back|^Put everything back/ })
    .last()
    .click();
  await expect(page.getByText(/packs? in the game/).first()).toBeVisible();
  await expect(async () => expectSameBytes(await folderBytes(page), before)).toPass();
});

test('one texture is decided the other way, another left out, and the picture shows it', async ({ page }) => {
  await openDemo(page);
  const own = await folderBytes(page);
  await takeFromShelf(page, 'Weathered Quay 1.2');
  await takeFromShelf(page, 'Evening Harbour 2');
  await deploy(page);
  const before = await folderBytes(page);
  await openFile(page, 'lamp.png');
  await expect(page.getByRole('img', { name: 'Weathered Quay 1.2' })).toBeVisible();
  await page.getByRole('slider', { name: /How much of Weathered Quay/ }).press('ArrowLeft');
  await page.getByRole('radio', { name: 'Use Weathered Quay 1.2' }).click();
  await expect(page.getByText('The next deployment uses “Weathered Quay 1.2”.')).toBeVisible();
  await expect(page.getByText('The last change decided 1 file anew.')).toBeVisible();
  await openFile(page, 'lamp_tall.png');
  await page.getByRole('radio', { name: /Use Gullwick Ferries, as it was/ }).click();
  await expect(page.getByText('The next deployment leaves it to the game.')).toBeVisible();
  await openFile(page, 'lamp_wall.png');
  await page.getByRole('button', { name: 'Leave “Evening Harbour 2”’s file out' }).click();
  await expect(page.getByText('The next deployment uses “Weathered Quay 1.2”.')).toBeVisible();
  await deploy(page);
  await expect(page.getByText('3 of 3 landed')).toBeVisible();
  const after = await folderBytes(page);
  const at = (name: string) => `program/assets/textures/quay/${name}`;
  // The three lamps came out of different places; all else is as it was before.
  expect(
    Object.keys(after)
      .filter((name) => Buffer.compare(after[name] as Buffer, before[name] as Buffer) !== 0)
      .sort(),
  ).toEqual(['lamp.png', 'lamp_tall.png', 'lamp_wall.png'].map(at));
  expect(after[at('lamp_tall.png')]).toEqual(own[at('lamp_tall.png')]);
  // The rule is listed, and taken away again.
  await step(page, 'Stack').click();
  await page.getByRole('button', { name: /^Rules \(2\)/ }).click();
  await page.getByRole('button', { name: /^Let the order decide about .*lamp.png/ }).click();
  await expect(page.getByRole('button', { name: /^Rules \(1\)/ })).toBeVisible();
});

test('a pack out of the middle: what lay below comes through, byte by byte; packs are ordered by keyboard and by rule', async ({
  page,
}) => {
  await openDemo(page);
  const boat = 'assets/textures/boats/heron.png';
  await bringIn(page, 'low.zip', { [boat]: 'low', 'assets/textures/boats/only-low.png': 'low too' });
  await bringIn(page, 'middle.zip', { [boat]: 'middle', 'assets/textures/boats/shared.png': 'middle' });
  await bringIn(page, 'top.zip', { 'assets/textures/boats/shared.png': 'top' });
  await deploy(page);
  expect((await folderBytes(page))[`program/${boat}`]?.toString()).toBe('middle');
  await step(page, 'Stack').click();
  // What would come back is said before anything is done.
  await slabs(page)
    .filter({ hasText: 'Middle' })
    .getByRole('button', { name: /Middle/ })
    .nth(1)
    .click();
  await page.getByRole('button', { name: 'If it went' }).click();
  await expect(page.getByRole('table', { name: 'If it went' })).toContainText('“Low” would be used');
  await page.getByRole('button', { name: 'Take out Middle' }).click();
  await page.getByRole('button', { name: 'Take out', exact: true }).click();
  await expect(slabs(page)).toHaveCount(3);
  await deploy(page);
  const after = await folderBytes(page);
  expect([after[`program/${boat}`]?.toString(), after['program/assets/textures/boats/shared.png']?.toString()]).toEqual(
    ['low', 'top'],
  );

  // By keyboard: the lower pack is picked up and put above the other one.
  await step(page, 'Stack').click();
  await page.getByRole('button', { name: 'Drag Low' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByText(/Picked up Low/)).toBeAttached();
  // The places are measured after it was picked up; the list has only one place above.
  await expect(async () => {
    await page.keyboard.press('ArrowUp');
    await expect(page.getByText(/at the place of Top/)).toBeAttached({ timeout: 1000 });
  }).toPass();
  await page.keyboard.press('Space');
  await expect(slabs(page).first()).toContainText('Low');
  // A rule holds against the arrows, and a rule against it is refused with both names.
  await slabs(page).first().getByRole('button', { name: /^Low/ }).click();
  await page.getByLabel('Always keep').selectOption({ label: 'Top' });
  await page.getByRole('button', { name: 'above this one' }).click();
  await expect(slabs(page).first()).toContainText('Top');
  await page.getByRole('button', { name: 'Move Low up' }).click();
  await expect(slabs(page).first()).toContainText('Top');
  await page.getByRole('button', { name: 'below this one' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'cannot lie' })).toContainText(
    /cannot lie in this order: .*“(Low|Top)”, “(Low|Top)”/,
  );
});

test('a base and its patch become one pack, saved as a ZIP that unzip takes, and are taken apart again', async ({
  page,
}) => {
  await openDemo(page);
  const base = { 'assets/textures/boats/heron.png': 'base heron', 'assets/textures/boats/gull.png': 'base gull' };
  const patch = { 'assets/textures/boats/heron.png': 'patched heron', 'assets/textures/boats/tern.png': 'patch tern' };
  await bringIn(page, 'Sailcloth.zip', base);
  await bringIn(page, 'Sailcloth Patch.zip', patch);
  await step(page, 'Stack').click();
  await page.getByRole('button', { name: 'Merge packs…' }).click();
  const form = page.getByRole('region', { name: 'Merge packs' });
  await form.getByRole('checkbox', { name: 'Sailcloth', exact: true }).check();
  await form.getByRole('checkbox', { name: 'Sailcloth Patch', exact: true }).check();
  await expect(page.getByRole('list', { name: 'Duplicates' })).toContainText('taken from “Sailcloth Patch”');
  await page.getByRole('button', { name: 'Merge them' }).click();
  await expect(slabs(page).first()).toContainText('Sailcloth + Sailcloth Patch (merged)');
  await deploy(page);
  const landed = await folderBytes(page);
  for (const [file, text] of Object.entries({ ...base, ...patch }))
    expect(landed[`program/${file}`]?.toString()).toBe(text);

  await step(page, 'Stack').click();
  await slabs(page)
    .first()
    .getByRole('button', { name: /merged/ })
    .nth(1)
    .click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save it as a ZIP' }).click();
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-merged-'));
  await (await waiting).saveAs(path.join(folder, 'ours.zip'));
  // What `unzip` makes of base and patch, one after the other, in one folder.
  writeFileSync(path.join(folder, 'base.zip'), packed(base));
  writeFileSync(path.join(folder, 'patch.zip'), packed(patch));
  for (const [zip, into] of [
    ['base.zip', 'theirs'],
    ['patch.zip', 'theirs'],
    ['ours.zip', 'ours'],
  ] as const)
    expect(spawnSync('unzip', ['-qo', zip, '-d', into], { cwd: folder }).status).toBe(0);
  expect(spawnSync('unzip', ['-t', 'ours.zip'], { cwd: folder }).status).toBe(0);
  const files = (into: string) =>
    Object.fromEntries(
      readdirSync(path.join(folder, into), { recursive: true, withFileTypes: true })
        .filter((one) => one.isFile())
        .map((one) => [
          path.relative(path.join(folder, into), path.join(one.parentPath, one.name)),
          readFileSync(path.join(one.parentPath, one.name), 'utf8'),
        ]),
    );
  expect(files('ours')).toEqual(files('theirs'));

  await page.getByRole('button', { name: /^Take apart Sailcloth/ }).click();
  await page.getByRole('button', { name: 'Take apart', exact: true }).click();
  await expect(slabs(page)).toHaveCount(3);
  await expect(page.getByRole('checkbox', { name: 'Use Sailcloth', exact: true })).toBeChecked();
  await step(page, 'Deploy').click();
  await expect(page.getByText(/nothing to do|is as it should be|No step/i).first()).toBeVisible();
});
