import { readFileSync } from 'node:fs';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { Page } from '@playwright/test';
import { deploy, expect, expectSameBytes, folderBytes, openDemo, putEverythingBack, step, test } from './support';

/*
 * What the version of 26 November 2026 left in a browser, kept byte for byte: that version was built out of its commit
 * (c4bce15), driven through six packs, a merge with a decision, a pick, a file left out, a switch and a deployment, and
 * all databases of its page were written down. Two things were decided after the deployment.
 */
const LEFT = path.join(import.meta.dirname, '../tests/older/2026-11-26.json.gz');

interface Left {
  databases: { name: string; version: number; stores: Record<string, [string, unknown][]> }[];
}

/** Gives a browser that knows nothing the databases that were written down. */
async function restore(page: Page, left: Left): Promise<void> {
  // A page of the same origin that runs nothing.
  await page.goto('/kit.schema.json');
  await page.evaluate(async ({ databases }) => {
    const bytes = (text: string) => Uint8Array.from(atob(text), (one) => one.charCodeAt(0));
    const decoded = (value: unknown): unknown => {
      if (typeof value !== 'object' || value === null) return value;
      if (Array.isArray(value)) return value.map(decoded);
      const { $: kind, of, type } = value as { $?: string; of: string & [unknown, unknown][]; type: string };
      if (kind === 'undefined') return undefined;
      if (kind === 'bytes') return bytes(of);
      if (kind === 'buffer') return bytes(of).buffer;
      if (kind === 'blob') return new Blob([bytes(of)], { type });
      if (kind === 'map') return new Map(of.map(([key, one]) => [decoded(key), decoded(one)]));
      return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, decoded(one)]));
    };
    const done = (request: IDBRequest | IDBTransaction) =>
      new Promise((resolve, reject) => {
        request.onerror = () => reject(request.error ?? new Error('the database failed'));
        if (request instanceof IDBTransaction) request.oncomplete = resolve;
        else request.onsuccess = resolve;
      });
    for (const { name, version, stores } of databases) {
      const opening = indexedDB.open(name, version);
      opening.onupgradeneeded = () => {
        for (const store of Object.keys(stores)) opening.result.createObjectStore(store);
      };
      await done(opening);
      for (const [store, entries] of Object.entries(stores)) {
        if (entries.length === 0) continue;
        const transaction = opening.result.transaction(store, 'readwrite');
        for (const [key, value] of entries) transaction.objectStore(store).put(decoded(value), key);
        await done(transaction);
      }
      opening.result.close();
    }
  }, left);
}

const MERGED =
  '# Gullwick Ferries, harbour talk\r\ndepart: "Let her go!"\r\narrive: "Make fast!"\r\nfog: "Go gently, dear skipper."\r\nfare.child: "Half fare, and a biscuit"\r\nfare.adult: "Full fare"\r\ntea: "The tea hut is open"\r\n';

test('what the version of 26 November remembered is taken over: packs, merge, picks, ledger, originals', async ({
  page,
  browser,
}) => {
  const fresh = await (await browser.newContext()).newPage();
  await openDemo(fresh);
  const own = await folderBytes(fresh);
  await fresh.close();

  await restore(page, JSON.parse(gunzipSync(readFileSync(LEFT)).toString()) as Left);
  await page.goto('/');
  await expect(page.getByRole('navigation', { name: 'Steps' })).toBeVisible();
  const deployed = await folderBytes(page);
  expect(deployed['program/assets/text/harbour.lang']?.toString()).toBe(MERGED);
  expect(deployed['program/assets/textures/boats/heron.png']?.toString()).toBe('low heron');
  await step(page, 'Stack').click();
  const slabs = page.getByRole('list', { name: 'Stack, topmost first' }).getByRole('listitem');
  for (const [i, name] of [
    'Your settings',
    'Merged: harbour.lang',
    'Storm Paint',
    'High',
    'Low',
    'Skippers Slang',
    'Warm Words',
  ].entries())
    await expect(slabs.nth(i)).toContainText(name);
  await expect(page.getByRole('checkbox', { name: 'Use Skippers Slang' })).not.toBeChecked();
  await expect(page.getByRole('button', { name: /^Rules \(1\)/ })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: 'could not be read' })).toHaveCount(0);

  // What was decided after the deployment is changed, and undone; the merge holds again.
  await page.getByRole('checkbox', { name: 'Use Skippers Slang' }).click();
  await page.getByRole('button', { name: /^Undo: / }).click();
  await expect(page.getByRole('checkbox', { name: 'Use Skippers Slang' })).not.toBeChecked();
  await page.getByRole('checkbox', { name: 'Use Skippers Slang' }).click();
  await deploy(page);
  const after = await folderBytes(page);
  expect(after['program/assets/text/harbour.lang']?.toString()).toBe(MERGED);
  expect(Object.keys(after).filter((name) => !(name in deployed))).toEqual([
    'program/vessels/heron/paints/storm-grey/hull.png',
  ]);
  await page.reload();
  await putEverythingBack(page);
  expectSameBytes(await folderBytes(page), own);
});

test('what a newer version wrote is refused calmly, and stays as it is', async ({ page }) => {
  await openDemo(page);
  const remembered = (version: number) =>
    page.evaluate(async (next) => {
      const database = await new Promise<IDBDatabase>((resolve, reject) => {
        const opening = indexedDB.open('tidy-satchel');
        opening.onsuccess = () => resolve(opening.result);
        opening.onerror = () => reject(opening.error ?? new Error('no database'));
      });
      const store = database.transaction('app', 'readwrite').objectStore('app');
      store.put(next, 'version');
      const all = await new Promise<unknown[]>((resolve) => {
        const asking = store.getAll();
        asking.onsuccess = () => resolve(asking.result);
      });
      database.close();
      return JSON.stringify(all);
    }, version);
  const before = await remembered(2);
  for (const address of ['/', '/game/stack']) {
    await page.goto(address);
    await expect(page.getByRole('alert').filter({ hasText: 'A newer version of this app wrote' })).toBeVisible();
    await expect(page.getByText('Start the newer version')).toBeVisible();
    await expect(page.getByRole('button')).toHaveCount(0);
  }
  expect(await remembered(2)).toBe(before);
  await remembered(1);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'On the download shelf' })).toBeVisible();
});
