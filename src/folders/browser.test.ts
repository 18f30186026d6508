import 'fake-indexeddb/auto';
import localforage from 'localforage';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { readBytes } from '@/core';
import { BrowserFolder } from './browser';
import { FOLDER_CONTRACT } from '../../tests/support/folderContract';

let made = 0;
const fresh = (): string => `t${++made}`;
const texts = async (name: string): Promise<Record<string, string>> => {
  const folder = await BrowserFolder.open(name);
  const found: Record<string, string> = {};
  for await (const { path } of folder.list()) found[path] = new TextDecoder().decode(await readBytes(folder, path));
  return found;
};
/** What lies in the browser of a folder. */
const stores = (name: string): [LocalForage, LocalForage] => [
  localforage.createInstance({ name: `satchel-folder-${name}`, storeName: 'bytes' }),
  localforage.createInstance({ name: `satchel-folder-${name}`, storeName: 'index' }),
];
/** Texts that are kept in two and three pieces. */
const [OLD, NEW] = ['old '.repeat(2_000_000), 'new '.repeat(2_500_000)];
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

afterEach(() => vi.restoreAllMocks());

describe('the browser folder, over a stand-in for IndexedDB', () => {
  for (const { name, run } of FOLDER_CONTRACT) it(name, async () => run(await BrowserFolder.open(fresh())));

  /** Replaces a file, adds one, removes one; the k-th change of a store fails. */
  async function cutOffAt(
    k: number,
    error: () => Error,
  ): Promise<{ struck: boolean; failures: unknown[]; after: Record<string, string> }> {
    const name = fresh();
    const first = await BrowserFolder.open(name);
    await Promise.all([
      first.write('a', bytes('old a')),
      first.write('b', bytes('old b')),
      first.write('large', bytes(OLD)),
    ]);
    let calls = 0;
    const put = IDBObjectStore.prototype.put;
    const remove = IDBObjectStore.prototype.delete;
    const strike = (): void => {
      if (++calls === k) throw error();
    };
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (this: IDBObjectStore, ...values) {
      strike();
      return put.apply(this, values);
    });
    vi.spyOn(IDBObjectStore.prototype, 'delete').mockImplementation(function (this: IDBObjectStore, ...values) {
      strike();
      return remove.apply(this, values);
    });
    const results = await Promise.allSettled([
      first.write('a', bytes('new a')),
      first.write('c', bytes('new c')),
      first.remove('b'),
      first.write('large', bytes(NEW)),
    ]);
    vi.restoreAllMocks();
    const failures = results.flatMap((result) => (result.status === 'rejected' ? [result.reason as unknown] : []));
    const after = await texts(name);
    // Opened once more: nothing is left of what was cut off, or replaced.
    const items = await stores(name)[0].keys();
    const pieces = items.filter((key) => key.includes('.')).length;
    expect(pieces, `point ${k}`).toBe(after.large === OLD ? 2 : 3);
    expect(items.length - pieces, `point ${k}`).toBeLessThanOrEqual(3);
    return { struck: calls >= k, failures, after };
  }

  it('law: cut off at any change of the store, each file is whole, old or new, and the failure says so', async () => {
    let points = 0;
    for (let k = 1; ; k++) {
      const { struck, failures, after } = await cutOffAt(k, () => new DOMException('full', 'QuotaExceededError'));
      if (!struck) break;
      points++;
      expect(failures.length, `point ${k}`).toBeGreaterThan(0);
      for (const failure of failures)
        expect(failure).toMatchObject({
          code: 'folder-refused',
          message: expect.stringContaining('the browser’s storage is full') as string,
        });
      expect(['old a', 'new a'], `point ${k}`).toContain(after.a);
      expect([undefined, 'new c'], `point ${k}`).toContain(after.c);
      expect([undefined, 'old b'], `point ${k}`).toContain(after.b);
      expect(after.large === OLD || after.large === NEW, `point ${k}`).toBe(true);
    }
    expect(points).toBeGreaterThanOrEqual(9);
  });

  it('opened only to be looked at, it changes nothing: another tab may be in the middle of a write', async () => {
    const name = fresh();
    const writer = await BrowserFolder.open(name);
    // Enough for the index to be written anew at the next start.
    for (let i = 0; i < 90; i++) await writer.write(`f${i}`, bytes(`${i}`));
    const [items, index] = stores(name);
    await items.setItem('a write that has no line yet', bytes('x'));
    const all = async () => JSON.stringify([await items.keys(), await index.keys()]);
    const before = await all();
    const looker = await BrowserFolder.open(name, { onlyLook: true });
    expect(await looker.readBytes?.('f89')).toEqual(bytes('89'));
    expect(await all()).toBe(before);
    await writer.write('late', bytes('late'));
    await BrowserFolder.open(name);
    expect(await all()).not.toBe(before);
    expect(await texts(name)).toMatchObject({ f0: '0', f89: '89', late: 'late' });
  });

  it('a large file that is replaced or removed leaves no piece behind', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    const [items] = stores(name);
    await folder.write('large', bytes(OLD));
    expect(await items.keys()).toHaveLength(2);
    await folder.write('large', bytes(NEW));
    expect(await items.keys()).toHaveLength(3);
    expect(await (await folder.read('large')).text()).toBe(NEW);
    await folder.remove('large');
    expect(await items.keys()).toEqual([]);
  });

  it('names a piece that the browser has lost, or holds only in part', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    await folder.write('large', bytes(OLD));
    const [items] = stores(name);
    const last = (await items.keys()).sort().at(-1) as string;
    await items.setItem(last, new Uint8Array(3));
    await expect(folder.read('large')).rejects.toMatchObject({ code: 'bad-memory' });
    await items.removeItem(last);
    await expect(folder.read('large')).rejects.toMatchObject({ code: 'bad-memory' });
  });

  it('names a bundle that the browser has lost', async () => {
    const name = fresh();
    await (await BrowserFolder.open(name)).write('a', bytes('x'));
    const folder = await BrowserFolder.open(name);
    vi.spyOn(IDBObjectStore.prototype, 'get').mockImplementation(() => {
      throw new Error('gone');
    });
    await expect(folder.read('a')).rejects.toMatchObject({ code: 'folder-refused' });
    vi.restoreAllMocks();
    // A failed read is not remembered.
    expect(await (await folder.read('a')).text()).toBe('x');
  });
});
