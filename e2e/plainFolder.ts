import type { Page } from '@playwright/test';

export const PLAIN = 'http://127.0.0.1:4651/';

/** Writes files into one of the browser's own folders. */
export const write = (page: Page, folder: string, files: Record<string, string>) =>
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
export const read = (page: Page, folder: string): Promise<Record<string, string>> =>
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

/** A game of three files. */
export const GAME = {
  'data/maps/one.map': 'own one',
  'data/maps/two.map': 'own two',
  'settings.ini': '[Look]\nWide=1\n',
};

/** Makes the game in a folder of the browser's own and adds it. */
export async function setUp(page: Page): Promise<void> {
  await page.goto(PLAIN);
  await write(page, 'game', GAME);
  await page.getByLabel('What do you call this game?').fill('My own game');
  await page.getByRole('button', { name: 'Choose its folder' }).click();
  await page.getByRole('button', { name: 'Looks right' }).click();
  await page.waitForURL('**/game/bring-in');
}
