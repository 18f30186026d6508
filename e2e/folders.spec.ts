import { buildSync } from 'esbuild';
import path from 'node:path';
import { expect, test } from './support';

/**
 * The contract and two adapters as one script; it is put into the page by the debugger, which content rules do not
 * concern.
 */
const script = buildSync({
  stdin: {
    contents: `
      import { FOLDER_CONTRACT } from './tests/support/folderContract';
      import { BrowserFolder } from './src/folders/browser';
      import { PickedFolder } from './src/folders/picked';
      globalThis.folderTests = { FOLDER_CONTRACT, BrowserFolder, PickedFolder };`,
    resolveDir: path.resolve('.'),
    loader: 'ts',
  },
  alias: { '@': path.resolve('src'), module: path.resolve('src/noModule.ts') },
  bundle: true,
  write: false,
  format: 'iife',
}).outputFiles[0]?.text as string;

interface FolderTests {
  FOLDER_CONTRACT: { name: string; run(folder: unknown): Promise<void> }[];
  BrowserFolder: {
    open(name: string): Promise<{
      read(path: string): Promise<Blob>;
      write(path: string, data: Uint8Array): Promise<void>;
      remove(path: string): Promise<void>;
      list(): AsyncIterable<{ path: string }>;
    }>;
  };
  PickedFolder: new (handle: FileSystemDirectoryHandle) => unknown;
}

for (const kind of ['browser', 'picked'] as const)
  test(`the ${kind} folder keeps the contract, in Chromium`, async ({ page }) => {
    await page.goto('/icon.svg');
    await page.goto('/game-card.schema.json');
    await page.evaluate(script);
    const results = await page.evaluate(async (which) => {
      const { FOLDER_CONTRACT, BrowserFolder, PickedFolder } = (globalThis as unknown as { folderTests: FolderTests })
        .folderTests;
      const found: [string, string][] = [];
      for (const [i, { name, run }] of FOLDER_CONTRACT.entries()) {
        const folder =
          which === 'browser'
            ? await BrowserFolder.open(`contract-${i}`)
            : new PickedFolder(
                await (await navigator.storage.getDirectory()).getDirectoryHandle(`contract-${i}`, { create: true }),
              );
        found.push([
          name,
          await run(folder).then(
            () => 'kept',
            (error: unknown) => String(error),
          ),
        ]);
      }
      return found;
    }, kind);
    expect(results.length).toBeGreaterThan(8);
    for (const [name, outcome] of results) expect(outcome, name).toBe('kept');
  });

test('the browser folder is the same after it is opened again, whatever was left half-done', async ({ page }) => {
  await page.goto('/game-card.schema.json');
  await page.evaluate(script);
  const found = await page.evaluate(async () => {
    const { BrowserFolder } = (globalThis as unknown as { folderTests: FolderTests }).folderTests;
    const first = await BrowserFolder.open('again');
    // Many rounds, so that the index is written anew on opening.
    for (let round = 0; round < 90; round++) await first.write(`f${round % 7}`, Uint8Array.of(round));
    await first.remove('f3');
    // A bundle without a line in the index: what a closed tab leaves.
    const open = indexedDB.open('satchel-folder-again');
    const db = await new Promise<IDBDatabase>((done) => (open.onsuccess = () => done(open.result)));
    const write = db.transaction('bytes', 'readwrite');
    write.objectStore('bytes').put(Uint8Array.of(1, 2, 3), 'orphan');
    await new Promise((done) => (write.oncomplete = done));
    db.close();
    const read = async () => {
      const folder = await BrowserFolder.open('again');
      const files: Record<string, number[]> = {};
      for await (const { path } of folder.list())
        files[path] = [...new Uint8Array(await (await folder.read(path)).arrayBuffer())];
      return files;
    };
    const [second, third] = [await read(), await read()];
    const again = indexedDB.open('satchel-folder-again');
    const last = await new Promise<IDBDatabase>((done) => (again.onsuccess = () => done(again.result)));
    const keys = await new Promise<IDBValidKey[]>((done) => {
      const request = last.transaction('bytes').objectStore('bytes').getAllKeys();
      request.onsuccess = () => done(request.result);
    });
    return { second, third, orphans: keys.includes('orphan'), kept: keys.length };
  });
  expect(found.second).toEqual({ f0: [84], f1: [85], f2: [86], f4: [88], f5: [89], f6: [83] });
  expect(found.third).toEqual(found.second);
  expect(found).toMatchObject({ orphans: false, kept: 6 });
});
