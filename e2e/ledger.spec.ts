import { readFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import {
  deploy,
  expect,
  expectSameBytes,
  folderBytes,
  openDemo,
  putEverythingBack,
  step,
  takeFromShelf,
  test,
} from './support';

test('back to the state after an earlier deployment, with the plan first, and the plan saved as a file', async ({
  page,
}) => {
  await openDemo(page);
  await takeFromShelf(page, 'Evening Harbour 2');
  await deploy(page);
  const first = await folderBytes(page);
  await takeFromShelf(page, 'Weathered Quay 1.2');
  await step(page, 'Deploy').click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  const lines = readFileSync(await (await waiting).path(), 'utf8').split('\r\n');
  expect([lines[0], lines.length]).toEqual(['step,file,pack,bytes,why', 216]);
  await deploy(page);
  await page.reload();
  await step(page, 'Ledger').click();
  await page
    .getByRole('listitem')
    .filter({ hasText: /^1\. / })
    .getByRole('button', { name: 'Go back to this' })
    .click();
  // Nothing is written before the player has seen the plan and deploys it.
  await expect(page.getByRole('heading', { name: 'This is what will happen' })).toBeVisible();
  await deploy(page);
  expectSameBytes(await folderBytes(page), first);
});

test('the originals saved as a backup bag come back into a browser that has lost them; a damaged bag is refused', async ({
  page,
}) => {
  await openDemo(page);
  const before = await folderBytes(page);
  await takeFromShelf(page, 'Painted Boats');
  await deploy(page);
  await step(page, 'Ledger').click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the originals' }).click();
  const bag = path.join(mkdtempSync(path.join(tmpdir(), 'satchel-bag-')), 'bag.zip');
  await (await waiting).saveAs(bag);
  // The browser loses what it kept: originals, ledger, stack. The game's folders stay as they are.
  await page.evaluate(async () => {
    for (const [name, stores] of [
      ['satchel-folder-gullwick-vault', ['bytes', 'index']],
      ['tidy-satchel', ['archives']],
    ] as const) {
      const open = indexedDB.open(name);
      const db = await new Promise<IDBDatabase>((done) => (open.onsuccess = () => done(open.result)));
      const change = db.transaction(stores, 'readwrite');
      for (const store of stores) change.objectStore(store).clear();
      await new Promise((done) => (change.oncomplete = done));
      db.close();
    }
  });
  await page.reload();
  await step(page, 'Ledger').click();
  const bytes = readFileSync(bag);
  const broken = Buffer.from(bytes);
  broken[Math.floor(broken.length / 2)] = (broken[Math.floor(broken.length / 2)] as number) ^ 0xff;
  await page
    .getByLabel('A backup of the originals')
    .setInputFiles([{ name: 'broken.zip', mimeType: 'application/zip', buffer: broken }]);
  await expect(page.getByRole('alert').filter({ hasText: 'broken.zip' })).toBeVisible();
  await page
    .getByLabel('A backup of the originals')
    .setInputFiles([{ name: 'bag.zip', mimeType: 'application/zip', buffer: bytes }]);
  await expect(page.getByText(/originals? of Gullwick Ferries (is|are) here again/)).toBeVisible();
  await putEverythingBack(page);
  await expect(async () => expectSameBytes(await folderBytes(page), before)).toPass();
});
