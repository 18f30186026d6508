import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { zipSync } from 'fflate';
import {
  drop,
  expect,
  expectSameBytes,
  expectStrap,
  folderBytes,
  openDemo,
  putEverythingBack,
  step,
  takeFromShelf,
  test,
  text,
} from './support';

const good = zipSync({ 'boats/heron.png': text('x'.repeat(500)) });

/** A ZIP whose one name was patched after it was written. */
function zipNamed(name: string): Buffer {
  const standIn = 'n'.repeat(name.length);
  const zip = Buffer.from(zipSync({ [standIn]: text('content') }, { level: 0 }));
  for (let at = zip.indexOf(standIn); at >= 0; at = zip.indexOf(standIn, at + 1)) zip.set(text(name), at);
  return zip;
}

/** A ZIP that another program locked. */
const encrypted = (() => {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-locked-'));
  writeFileSync(path.join(folder, 'a.txt'), 'locked away');
  spawnSync('7z', ['a', '-bd', '-tzip', '-psesame', '-mem=AES256', 'locked.zip', 'a.txt'], { cwd: folder });
  return readFileSync(path.join(folder, 'locked.zip'));
})();

test('bad downloads: each gets its own sentence, and the app is as it was', async ({ page }) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await step(page, 'Bring in').click();
  const alert = page.getByRole('main').getByRole('alert');
  const cases: [name: string, bytes: Buffer, sentence: string][] = [
    ['nothing.zip', Buffer.alloc(0), '“nothing.zip” is empty: it holds 0 bytes.'],
    [
      'page.zip',
      Buffer.from('<!doctype html><title>Not found</title>'),
      '“page.zip” is not an archive this app can open.',
    ],
    [
      'cut.zip',
      Buffer.from(good.slice(0, good.length - 10)),
      '“cut.zip” is damaged: its list of contents at the end is missing or broken',
    ],
    ['climber.zip', zipNamed('a/../../evil.txt'), '“climber.zip” holds a file whose name could reach outside'],
    ['absolute.zip', zipNamed('/etc/passwd'), '“/etc/passwd” (absolute)'],
    ['other.7z', Buffer.from([0x37, 0x7a, 0xbc, 0xaf, 0x27, 0x1c, 0, 4, 0, 0]), '“other.7z” is damaged'],
    ['big.zip.001', Buffer.from(good.slice(0, 60)), '“big.zip.001” is one part of a download that was split'],
    ['big.part3.rar', Buffer.from(good), '“big.part1.rar” is not here'],
  ];
  for (const [name, buffer, sentence] of cases) {
    await page.getByLabel('Choose downloads').setInputFiles({ name, mimeType: 'application/zip', buffer });
    await expect(alert, name).toContainText(sentence);
    await expect(alert.locator('p').first(), name).not.toBeEmpty();
    await expect(page.getByRole('group', { name: 'Packs' })).toHaveCount(0);
  }
  await page
    .getByLabel('Choose downloads')
    .setInputFiles({ name: 'locked.zip', mimeType: 'application/zip', buffer: encrypted });
  const password = page.getByRole('form', { name: 'Password of the pack' });
  await expect(password).toContainText('“locked.zip” is locked with a password.');
  await password.getByLabel('Password').fill('guess');
  await password.getByRole('button', { name: 'Open it' }).click();
  await expect(password).toContainText('The password does not open “locked.zip”.');
  await password.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByRole('group', { name: 'Packs' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Take Soggy Download' }).click();
  await expect(alert).toContainText('“soggy-download.zip” is damaged');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'On the download shelf' })).toBeVisible();
  await expectStrap(page, { packs: 0, originals: 0, changes: 0 });
  expectSameBytes(await folderBytes(page), before);
});

test('a pack that is damaged inside is found while it is deployed, and everything goes back', async ({ page }) => {
  const zip = Buffer.from(
    zipSync({ 'boats/heron.png': text('new heron'), 'boats/puffin.png': text('new puffin') }, { level: 0 }),
  );
  const at = zip.indexOf('new puffin');
  zip[at] = 0x4e;
  await openDemo(page);
  const before = await folderBytes(page);
  await step(page, 'Bring in').click();
  await page
    .getByLabel('Choose downloads')
    .setInputFiles({ name: 'broken inside.zip', mimeType: 'application/zip', buffer: zip });
  await expect(page.getByRole('heading', { name: 'Broken Inside', level: 1 })).toBeVisible();
  await step(page, 'Deploy').click();
  await page.getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(page.getByRole('main').getByRole('alert').filter({ hasText: 'could not be finished' })).toContainText(
    '“boats/puffin.png” has a wrong checksum',
  );
  await expectStrap(page, { packs: 0, originals: 0, changes: 2 });
  expectSameBytes(await folderBytes(page), before);
});

test('the page is closed in mid-deployment: the next start puts everything back and says so', async ({ page }) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Every Island');
  await step(page, 'Deploy').click();
  await expect(page.getByText('new files added').locator('..')).toContainText('6,307');
  await page.getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(page.getByRole('status', { name: 'Work under way' })).toContainText(/Writing and reading back: [1-9]/, {
    timeout: 240_000,
  });
  await page.reload();
  await expect(page.getByText('“Deploy” was cut off half-way; everything was put back as it was.')).toBeVisible({
    timeout: 240_000,
  });
  await expectStrap(page, { packs: 0, originals: 0, changes: 6307 });
  expectSameBytes(await folderBytes(page), before);

  await test.step('stopped by the player: the same', async () => {
    await step(page, 'Deploy').click();
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByRole('status', { name: 'Work under way' })).toContainText(
      /Writing and reading back: [1-9]/,
      { timeout: 240_000 },
    );
    await page.getByRole('button', { name: 'Stop' }).click();
    await expect(page.getByText('Stopped, as you asked.')).toBeVisible();
    await expectStrap(page, { packs: 0, originals: 0, changes: 6307 });
    expectSameBytes(await folderBytes(page), before);
  });

  await test.step('let run, it lands whole', async () => {
    await step(page, 'Deploy').click();
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByText('6,307 of 6,307 landed')).toBeVisible({ timeout: 240_000 });
    await step(page, 'Bring in').click();
    await page.getByRole('searchbox', { name: 'Search in this pack' }).fill('island_07 sail');
    await expect(page.getByRole('table', { name: 'Files in the pack' }).getByRole('row').nth(1)).toContainText(
      'island_07',
    );
  });
});

test('a second tab is told, looks on, and takes over when the first one closes', async ({ page, context }) => {
  await openDemo(page);
  await takeFromShelf(page, 'Painted Boats');
  const second = await context.newPage();
  await second.goto('/game/deploy');
  await expect(second.getByText('This game is open in another tab, so this tab can only look.')).toBeVisible({
    timeout: 20_000,
  });
  await expect(second.getByRole('main').getByRole('button', { name: 'Deploy', exact: true })).toBeDisabled();
  await page.close();
  await expect(second.getByText('This game is open in another tab')).toHaveCount(0);
  await second.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  await expect(second.getByText('7 of 7 landed')).toBeVisible();
});

/** 2,000 textures of one island. */
const island = (): Record<string, Uint8Array> =>
  Object.fromEntries(
    Array.from({ length: 2000 }, (_, i) => [`assets/textures/puffin/${i}.dds`, text(`${i} `.repeat(200))]),
  );

test('a second tab that is opened in the middle of a deployment, again and again, changes nothing', async ({
  page,
  context,
}) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await step(page, 'Bring in').click();
  await drop(page, 'island.zip', Buffer.from(zipSync(island(), { level: 0 })));
  await step(page, 'Deploy').click();
  await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
  const work = page.getByRole('status', { name: 'Work under way' });
  await expect(work).toContainText(/Writing and reading back: [1-9]/);
  const second = await context.newPage();
  let times = 0;
  for (; times < 2 || ((await work.isVisible()) && times < 12); times++) {
    await second.goto('/game/stack');
    await expect(second.getByText('This game is open in another tab, so this tab can only look.')).toBeVisible();
  }
  await expect(page.getByText('2,000 of 2,000 landed')).toBeVisible({ timeout: 240_000 });
  // After a reload nothing is at hand any more: every file comes out of the browser's storage.
  await second.close();
  await page.reload();
  const deployed = await folderBytes(page);
  expect(Object.keys(deployed).length).toBeGreaterThan(2000);
  await putEverythingBack(page);
  expectSameBytes(await folderBytes(page), before);
});

test('what the app remembers is damaged: it is set aside, and the game folder stays', async ({ page }) => {
  await openDemo(page);
  await takeFromShelf(page, 'Painted Boats');
  await page.evaluate(async () => {
    const open = indexedDB.open('tidy-satchel');
    const db = await new Promise<IDBDatabase>((done) => (open.onsuccess = () => done(open.result)));
    const write = db.transaction('app', 'readwrite');
    write.objectStore('app').put({ layers: 'nonsense' }, 'stack:gullwick');
    await new Promise((done) => (write.oncomplete = done));
  });
  await page.reload();
  await expect(page.getByRole('main').getByRole('alert')).toContainText(
    'Something this app had remembered (stack:gullwick',
  );
  await expect(page.getByRole('heading', { name: 'On the download shelf' })).toBeVisible();
});

test('a list that cannot be had says so, and is asked for again', async ({ page }) => {
  // What asks for rows of the plan is spoilt on its way until the test lets it pass.
  await page.addInitScript(() => {
    const { postMessage } = Worker.prototype;
    Worker.prototype.postMessage = function (
      this: Worker,
      message: unknown,
      how?: StructuredSerializeOptions | Transferable[],
    ) {
      const { argumentList } = message as { argumentList?: { value?: { ask?: string; query?: object } }[] };
      const said = argumentList?.[0]?.value;
      if (said?.ask === 'rows' && 'spoil' in window) said.query = { view: 'pack', layer: 'gone', open: [], search: '' };
      postMessage.call(this, message, how as StructuredSerializeOptions);
    };
  });
  await openDemo(page);
  await takeFromShelf(page, 'Painted Boats');
  await page.evaluate(() => Object.assign(window, { spoil: true }));
  await step(page, 'Deploy').click();
  await page.getByRole('button', { name: 'File by file' }).click();
  const notice = page.getByRole('alert').filter({ hasText: 'This list cannot be shown now' });
  await expect(notice).toBeVisible();
  await page.evaluate(() => Reflect.deleteProperty(window, 'spoil'));
  await notice.getByRole('button', { name: 'Try again' }).click();
  await expect(notice).toBeHidden();
  await expect(page.getByRole('table', { name: 'Steps of the plan' }).getByRole('row')).not.toHaveCount(1);
});
