import { zipSync } from 'fflate';
import { deploy, expect, pickByKind, putEverythingBack, step, test, text } from './support';

const PLAIN = 'http://127.0.0.1:4651/';

test('without the demo: two ways, and a game of one’s own on a real folder', async ({ page }) => {
  // The picker answers with a folder of the browser's own file system, which holds real files behind real handles.
  await page.addInitScript(() => {
    Object.assign(window, {
      showDirectoryPicker: async () =>
        (await navigator.storage.getDirectory()).getDirectoryHandle('my game', { create: true }),
    });
    // The question for the card is held back until the test lets it go.
    const held: (() => void)[] = [];
    const { postMessage } = Worker.prototype;
    Worker.prototype.postMessage = function (
      this: Worker,
      message: unknown,
      how?: StructuredSerializeOptions | Transferable[],
    ) {
      const send = () => postMessage.call(this, message, how as StructuredSerializeOptions);
      const { argumentList } = message as { argumentList?: { value?: { ask?: string } }[] };
      if (argumentList?.[0]?.value?.ask === 'card' && !('letGo' in window)) held.push(send);
      else send();
    };
    addEventListener('let go', () => {
      Object.assign(window, { letGo: true });
      for (const send of held) send();
    });
  });
  await page.goto(PLAIN);
  await expect(page.getByRole('button', { name: 'Open the demo' })).toBeVisible();
  await page.evaluate(async () => {
    const game = await (await navigator.storage.getDirectory()).getDirectoryHandle('my game', { create: true });
    const put = async (path: string[], content: string) => {
      let at = game;
      for (const name of path.slice(0, -1)) at = await at.getDirectoryHandle(name, { create: true });
      const stream = await (await at.getFileHandle(path.at(-1) as string, { create: true })).createWritable();
      await stream.write(content);
      await stream.close();
    };
    await put(['data', 'maps', 'one.map'], 'own one');
    await put(['data', 'maps', 'two.map'], 'own two');
    await put(['data', 'skins', 'plain.png'], 'own plain');
    await put(['settings.ini'], '[Look]\nWide=1\n');
  });
  const contents = () =>
    page.evaluate(async () => {
      const found: Record<string, string> = {};
      const walk = async (folder: FileSystemDirectoryHandle, path: string): Promise<void> => {
        for await (const [name, child] of folder.entries()) {
          if (child.kind === 'directory') await walk(child, `${path}${name}/`);
          else found[path + name] = await (await child.getFile()).text();
        }
      };
      await walk(await (await navigator.storage.getDirectory()).getDirectoryHandle('my game'), '');
      return found;
    });
  const before = await contents();

  await expect(page.getByRole('button', { name: 'Choose its folder' })).toBeDisabled();
  await page.getByLabel('What do you call this game?').fill('My own game');
  await page.getByRole('button', { name: 'Choose its folder' }).click();
  await expect(page.getByRole('button', { name: 'My own game' })).toBeVisible();
  await expect(page.getByText('Looking at the game…')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Looks right' })).toBeDisabled();
  await page.evaluate(() => dispatchEvent(new Event('let go')));
  await expect(page.getByRole('heading', { name: 'How My own game works' })).toBeVisible();
  await expect(page.getByText(/is yours and the game’s: packs never replace it, only edit values/)).toBeVisible();
  await page.getByRole('button', { name: 'Looks right' }).click();
  await expect(page.getByRole('heading', { name: 'Begin with one pack for My own game' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'On the download shelf' })).toHaveCount(0);

  const pack = Buffer.from(
    zipSync({
      'Better Maps/maps/one.map': text('better one'),
      'Better Maps/maps/three.map': text('new three'),
      'Better Maps/readme.txt': text('hello'),
    }),
  );
  await page
    .getByLabel('Choose downloads')
    .setInputFiles({ name: 'better-maps.zip', mimeType: 'application/zip', buffer: pack });
  await expect(page.getByRole('heading', { name: 'Better Maps', level: 1 })).toBeVisible();
  await step(page, 'Place').click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Goes into Game folder/data');
  await deploy(page, '2 of 2 landed');
  expect(await contents()).toEqual({
    ...before,
    'data/maps/one.map': 'better one',
    'data/maps/three.map': 'new three',
  });

  await page.reload();
  await putEverythingBack(page);
  expect(await contents()).toEqual(before);

  await page.getByRole('button', { name: 'My own game' }).click();
  await page.getByRole('link', { name: 'Set up another game' }).click();
  await page.getByRole('button', { name: 'Open the demo' }).click();
  await expect(page.getByRole('heading', { name: 'On the download shelf' })).toBeVisible();
});

test('a game whose settings lie in a second folder: both are planned, written and put back together', async ({
  page,
}) => {
  await pickByKind(page);
  await page.goto(PLAIN);
  await page.evaluate(async () => {
    const put = async (folder: string, name: string, content: string) => {
      const at = await (await navigator.storage.getDirectory()).getDirectoryHandle(folder, { create: true });
      const stream = await (await at.getFileHandle(name, { create: true })).createWritable();
      await stream.write(content);
      await stream.close();
    };
    await put('game', 'one.map', 'own one');
    await put('folder', 'game.ini', '[Look]\r\nWide=1\r\n');
  });
  const read = (folder: string, name: string) =>
    page.evaluate(
      async ([top, file]) =>
        (
          await (
            await (await (await navigator.storage.getDirectory()).getDirectoryHandle(top)).getFileHandle(file)
          ).getFile()
        ).text(),
      [folder, name] as const,
    );
  await page.getByLabel('What do you call this game?').fill('Two folders');
  await page.getByRole('button', { name: 'Choose its folder' }).click();
  // Nothing in its folder reads as settings, so the app asks for the other one by itself.
  await expect(page.getByText('No settings file was found in its folder')).toBeVisible();
  await page.getByRole('button', { name: 'Choose that folder' }).click();
  await expect(page.getByText(/^Added\. “game\.ini” is yours and the game’s/)).toBeVisible();
  // The same folder once more is refused.
  await page.getByRole('button', { name: 'Choose that folder' }).click();
  await expect(page.getByText('lies inside a folder that this game has already')).toBeVisible();
  await page.getByRole('button', { name: 'Looks right' }).click();
  await page.waitForURL('**/game/bring-in');
  await page.getByLabel('Choose downloads').setInputFiles({
    name: 'maps.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(zipSync({ 'one.map': text('better one') })),
  });
  await expect(page.getByRole('heading', { name: 'Maps', level: 1 })).toBeVisible();
  await step(page, 'Settings').click();
  await page.getByRole('button', { name: 'Change Look › Wide' }).click();
  await page.getByLabel('Value of Look › Wide').fill('2');
  await page.getByRole('button', { name: 'Set it' }).click();
  await deploy(page, '2 of 2 landed');
  expect([await read('game', 'one.map'), await read('folder', 'game.ini')]).toEqual([
    'better one',
    '[Look]\r\nWide=2\r\n',
  ]);
  await page.reload();
  await putEverythingBack(page);
  expect([await read('game', 'one.map'), await read('folder', 'game.ini')]).toEqual([
    'own one',
    '[Look]\r\nWide=1\r\n',
  ]);
});

test('what was decided for a picked folder lies in its backup folder, and a browser whose data was cleared goes on from it', async ({
  page,
}) => {
  await pickByKind(page);
  const setUp = async () => {
    await page.getByLabel('What do you call this game?').fill('Picked');
    await page.getByRole('button', { name: 'Choose its folder' }).click();
    await page.getByRole('button', { name: 'Looks right' }).click();
    await page.waitForURL('**/game/bring-in');
    await step(page, 'Ledger').click();
    await expect(page.getByText('is in this browser only')).toBeVisible();
    await page.getByRole('button', { name: 'Choose a backup folder' }).click();
  };
  const maps = Buffer.from(zipSync({ 'one.map': text('better one') }));
  const drop = async (name: string) => {
    await step(page, 'Bring in').click();
    await page.getByLabel('Choose downloads').setInputFiles({ name, mimeType: 'application/zip', buffer: maps });
  };
  await page.goto(PLAIN);
  await page.evaluate(async () => {
    const game = await (await navigator.storage.getDirectory()).getDirectoryHandle('game', { create: true });
    for (const [name, content] of [
      ['one.map', 'own one'],
      ['game.ini', '[Look]\r\nWide=1\r\n'],
    ] as const) {
      const stream = await (await game.getFileHandle(name, { create: true })).createWritable();
      await stream.write(content);
      await stream.close();
    }
  });
  await setUp();
  await drop('maps.zip');
  await expect(page.getByRole('heading', { name: 'Maps', level: 1 })).toBeVisible();
  await step(page, 'Settings').click();
  await page.getByRole('button', { name: 'Change Look › Wide' }).click();
  await page.getByLabel('Value of Look › Wide').fill('2');
  await page.getByRole('button', { name: 'Set it' }).click();
  await deploy(page, '2 of 2 landed');
  await putEverythingBack(page);
  await step(page, 'Ledger').click();
  await expect(page.getByText('is written beside the originals, too')).toBeVisible();

  // The browser's data is cleared; the folders on the disk stay.
  await page.goto(`${PLAIN}kit.schema.json`);
  await page.evaluate(async () => {
    for (const { name } of await indexedDB.databases())
      await new Promise((done) => {
        const removing = indexedDB.deleteDatabase(name ?? '');
        removing.onsuccess = done;
        removing.onerror = done;
      });
    localStorage.clear();
  });
  await page.goto(PLAIN);
  await setUp();
  await expect(page.getByText('goes on from what lay beside its originals')).toBeVisible();
  await step(page, 'Bring in').click();
  const missing = page.getByRole('region', { name: 'Packs whose files are missing' });
  await expect(missing).toContainText('maps.zip');
  await drop('download (7).zip');
  await expect(missing).toHaveCount(0);
  await deploy(page, '2 of 2 landed');
  await putEverythingBack(page);
});
