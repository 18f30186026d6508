import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Locator, Page } from '@playwright/test';
import { Started, ownGame, setUpGame, treeOf } from './started';
import { deploy, expect, openFile, putEverythingBack, step, test } from './support';

/*
 * A whole set-up, carried: six packs of different kinds made with zip, 7z and tar, two merges, a pick, an edit, a
 * statement and a note; all of it undone and done again, then taken to another machine by a kit, and found again from
 * what lies beside the originals alone.
 */

const FILES = {
  'quay.exe': 'the program',
  'quay.ini': '[Look]\nWide=1\nFog=2\n',
  'talk/harbour.txt': 'We go\nFrom here\nWe stop\nOver there\nThick fog\nAll day\nTea at four\n',
  'talk/island.txt': 'Squawk\nArf\nThe tide is low\nThe moon is full\n',
  'paint/heron.png': 'own heron',
  'paint/puffin.png': 'own puffin',
  'boats/heron/heron.hull': 'hull of heron',
  'boats/heron/deck.png': 'deck of heron',
  'boats/puffin/puffin.hull': 'hull of puffin',
  'boats/puffin/deck.png': 'deck of puffin',
};

/** The packs: how each is packed, and under which other name it is dropped on the other machine. */
const PACKS: { name: string; with: string[]; other: string; files: Record<string, string> }[] = [
  {
    name: 'kind-words.zip',
    with: ['zip', '-qr'],
    other: 'download.zip',
    files: {
      'talk/harbour.txt': 'We go gently\nFrom here\nWe stop\nOver there\nThick fog, dear\nAll day\nTea at four\n',
      'talk/island.txt': 'Hello\nArf\nThe tide is low\nThe moon is full\n',
    },
  },
  {
    name: 'gruff-words.7z',
    with: ['7z', 'a', '-bso0', '-bsp0'],
    other: 'download (1).7z',
    files: {
      'talk/harbour.txt': 'We go\nFrom here\nWe halt\nOver there\nSoup\nAll day\nTea at four\n',
      'talk/island.txt': 'Squawk\nArf\nThe tide is low\nThe moon is new\n',
    },
  },
  {
    name: 'bright-paint.tar.gz',
    with: ['tar', '-czf'],
    other: 'x.tar.gz',
    files: { 'paint/heron.png': 'bright heron', 'paint/puffin.png': 'bright puffin' },
  },
  { name: 'dark-paint.zip', with: ['zip', '-qr'], other: 'y.zip', files: { 'paint/heron.png': 'dark heron' } },
  {
    name: 'swan.zip',
    with: ['zip', '-qr'],
    other: 'no idea.zip',
    files: { 'swan/swan.hull': 'hull of swan', 'swan/deck.png': 'deck of swan' },
  },
  { name: 'tunes.zip', with: ['zip', '-qr'], other: 'z.zip', files: { 'lamp.tune': 'a tune' } },
];

/** Makes a pack with another program. */
function made(top: string, { name, with: [program = '', ...args], files }: (typeof PACKS)[number]): string {
  const from = mkdtempSync(path.join(top, 'pack-'));
  for (const [file, text] of Object.entries(files)) {
    mkdirSync(path.dirname(path.join(from, file)), { recursive: true });
    writeFileSync(path.join(from, file), text);
  }
  const archive = path.join(top, name);
  execFileSync(program, [...args, archive, ...(program === 'tar' ? ['-C', from, '.'] : ['.'])], { cwd: from });
  return archive;
}

const bringIn = async (page: Page, name: string, archive: string) => {
  await step(page, 'Bring in').click();
  await page.getByLabel('Choose downloads').setInputFiles(archive);
  const title = name.replace(/\..*/, '').replace('-', ' ');
  await expect(page.getByRole('heading', { name: new RegExp(`^${title}$`, 'i'), level: 1 })).toBeVisible();
};

/** Decides all that a player decides, and deploys it. */
async function decide(page: Page, app: Started): Promise<void> {
  await openFile(page, 'harbour.txt');
  await page.getByRole('button', { name: 'Merge what they change' }).click();
  await page.getByRole('radio', { name: /Kind Words/ }).click();
  await expect(page.getByLabel('Differences')).toContainText('Thick fog, dear');
  await openFile(page, 'island.txt');
  await page.getByRole('button', { name: 'Merge what they change' }).click();
  await expect(page.getByRole('list', { name: 'Stack, topmost first' })).toContainText('Merged: island.txt');
  await expect(page.getByLabel('Differences')).toContainText('The moon is new');
  await openFile(page, 'heron.png');
  await page.getByRole('radio', { name: 'Use Bright Paint' }).click();
  await step(page, 'Place').click();
  await page.getByRole('group', { name: 'Packs' }).getByRole('button', { name: /Tunes/ }).click();
  await page.getByLabel('and put them into this folder of the game').fill('Program folder/tunes');
  await page.getByRole('button', { name: 'Place it there' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Program folder/tunes');
  await step(page, 'Settings').click();
  await page.getByRole('button', { name: 'Change Look › Wide' }).click();
  await page.getByLabel('Value of Look › Wide').fill('7');
  await page.getByLabel('Value of Look › Wide').press('Enter');
  await expect(page.getByRole('button', { name: /^Undo: .*Wide/ })).toBeVisible();
  await page.goto(`${app.origin}/game/card`);
  const known = page.getByRole('region', { name: 'What the app knows of this game' });
  await known.getByLabel('Tell the app something more').selectOption({ label: 'Files of a kind go into a folder' });
  const sentence = known.getByRole('form', { name: 'Files of a kind go into a folder' });
  await sentence.getByLabel('names', { exact: true }).fill('*.bell');
  await sentence.getByLabel('a folder', { exact: true }).fill('Program folder/bells');
  await sentence.getByRole('button', { name: 'So it is' }).click();
  await expect(known.getByRole('list', { name: 'Where packs go' })).toContainText('*.bell');
}

/** Saves a kit. @returns where it is */
async function savedKit(page: Page, top: string, withPacks: boolean): Promise<string> {
  await page.getByRole('link', { name: 'Set-ups' }).click();
  await page.getByLabel('with the packs inside').setChecked(withPacks);
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save a kit' }).click();
  const kit = path.join(mkdtempSync(path.join(top, 'kit-')), 'kit.zip');
  await (await waiting).saveAs(kit);
  return kit;
}

/** Presses until there is nothing more: then the button says no more than what it is for. */
async function pressThrough(button: Locator): Promise<void> {
  for (let says = await button.getAttribute('aria-label'); says?.includes(':');) {
    await button.click();
    await expect(button).not.toHaveAttribute('aria-label', says);
    says = await button.getAttribute('aria-label');
  }
}

test('six packs, two merges, a pick, an edit and a statement: undone and done again, carried by a kit, and found again on the disk', async ({
  page,
  browser,
}) => {
  const top = mkdtempSync(path.join(tmpdir(), 'satchel-carry-'));
  const { game, backup } = ownGame(FILES);
  const own = treeOf(game);
  const archives = PACKS.map((pack) => made(top, pack));
  let app = await new Started(game, backup, 4701).start();
  try {
    await setUpGame(page, app);
    for (const [i, { name }] of PACKS.entries()) await bringIn(page, name, archives[i] ?? '');
    await decide(page, app);
    await deploy(page);
    const wanted = treeOf(game);
    expect(wanted).toMatchObject({
      'talk/harbour.txt': 'We go gently\nFrom here\nWe halt\nOver there\nThick fog, dear\nAll day\nTea at four\n',
      'talk/island.txt': 'Hello\nArf\nThe tide is low\nThe moon is new\n',
      'paint/heron.png': 'bright heron',
      'boats/swan/swan.hull': 'hull of swan',
      'tunes/lamp.tune': 'a tune',
      'quay.ini': '[Look]\nWide=7\nFog=2\n',
    });
    await test.step('all of it undone and done again: the picture of before, and no file touched', async () => {
      const strap = page.getByRole('contentinfo', { name: 'In the game folder now' });
      const undo = page.getByRole('button', { name: /^Undo/ });
      const redo = page.getByRole('button', { name: /^Do again/ });
      const slabs = page.getByRole('list', { name: 'Stack, topmost first' });
      const decided = async () =>
        JSON.parse(
          execFileSync('unzip', ['-p', await savedKit(page, top, false), '*/data/kit.json']).toString(),
        ) as Record<string, unknown>;
      const { at: _, ...before } = await decided();
      await step(page, 'Stack').click();
      const picture = await slabs.innerText();
      await pressThrough(undo);
      await expect(page.getByRole('main')).toContainText('Nothing lies over the game’s own files yet.');
      await page.reload();
      await pressThrough(redo);
      await expect(strap).toContainText('0changes waiting');
      expect(treeOf(game)).toEqual(wanted);
      await expect(slabs).toHaveText(/./);
      expect(await slabs.innerText()).toBe(picture);
      const { at: _later, ...after } = await decided();
      expect(after).toEqual(before);
    });

    const kits: Record<string, string> = {};
    for (const how of ['with', 'without']) {
      const kit = await savedKit(page, top, how === 'with');
      execFileSync('unzip', ['-tq', kit]);
      const unpacked = path.join(top, how);
      execFileSync('unzip', ['-q', kit, '-d', unpacked]);
      execFileSync('sh', ['-c', 'cd */ && sha256sum -c --strict --quiet manifest-sha256.txt tagmanifest-sha256.txt'], {
        cwd: unpacked,
      });
      kits[how] = kit;
    }

    // From the disk's copy alone: a browser that knows nothing, the same folders.
    await page.context().close();
    await test.step('found again on the disk by a browser that knows nothing', async () => {
      const fresh = await (await browser.newContext()).newPage();
      await fresh.goto(app.door);
      await fresh.getByLabel('What do you call this game?').fill('Found again');
      await fresh.getByRole('button', { name: `Use ${game}` }).click();
      await fresh.getByRole('button', { name: 'Looks right' }).click();
      await expect(fresh.getByText('goes on from what lay beside its originals')).toBeVisible();
      await putEverythingBack(fresh);
      expect(treeOf(game)).toEqual(own);
      await deploy(fresh);
      expect(treeOf(game)).toEqual(wanted);
      await fresh.context().close();
    });
    await app.kill();

    for (const how of ['with', 'without'])
      await test.step(`carried to a server elsewhere, ${how} the packs inside`, async () => {
        const elsewhere = ownGame(FILES);
        app = await new Started(elsewhere.game, elsewhere.backup, 4701).start();
        const friend = await (await browser.newContext()).newPage();
        await setUpGame(friend, app, 'Over there');
        await friend.getByRole('link', { name: 'Set-ups' }).click();
        await friend.getByLabel('Choose a kit').setInputFiles(kits[how] ?? '');
        await friend.getByLabel(/^Take what it tells of the game/).check();
        await friend.getByRole('button', { name: 'Take it and look at the plan' }).click();
        if (how === 'without')
          for (const [i, { other }] of [...PACKS.entries()].reverse()) {
            const renamed = path.join(top, other);
            execFileSync('cp', [archives[i] ?? '', renamed]);
            await step(friend, 'Bring in').click();
            await friend.getByLabel('Choose downloads').setInputFiles(renamed);
            const left = friend.getByRole('region', { name: 'Packs whose files are missing' });
            if (i > 0) await expect(left).toContainText(new RegExp(`^${i} packs? without files`));
            else await expect(left).toHaveCount(0);
          }
        expect(treeOf(elsewhere.game)).toEqual(own);
        await deploy(friend);
        expect(treeOf(elsewhere.game)).toEqual(wanted);
        await putEverythingBack(friend);
        expect(treeOf(elsewhere.game)).toEqual(own);
        await friend.context().close();
        await app.kill();
      });
  } finally {
    await app.kill();
    rmSync(top, { recursive: true, force: true });
  }
});
