import 'fake-indexeddb/auto';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { readBytes } from '@/core';
import { BrowserFolder } from './browser';
import { FOLDER_CONTRACT } from './contract';

let made = 0;
const fresh = (): string => `t${++made}`;
const texts = async (name: string): Promise<Record<string, string>> => {
  const folder = await BrowserFolder.open(name);
  const found: Record<string, string> = {};
  for await (const { path } of folder.list()) found[path] = new TextDecoder().decode(await readBytes(folder, path));
  return found;
};
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

afterEach(() => vi.restoreAllMocks());

describe('the browser folder, over a stand-in for IndexedDB', () => {
  for (const { name, run } of FOLDER_CONTRACT) it(name, async () => run(await BrowserFolder.open(fresh())));

  /** Replaces a file, adds one, removes one; the k-th change of a store fails. */
  async function cutOffAt(k: number, error: () => Error): Promise<{ struck: boolean; failures: unknown[]; after: Record<string, string> }> {
    const name = fresh();
    const first = await BrowserFolder.open(name);
    await Promise.all([first.write('a', bytes('old a')), first.write('b', bytes('old b'))]);
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
    const results = await Promise.allSettled([first.write('a', bytes('new a')), first.write('c', bytes('new c')), first.remove('b')]);
    vi.restoreAllMocks();
    return { struck: calls >= k, failures: results.flatMap((result) => (result.status === 'rejected' ? [result.reason as unknown] : [])), after: await texts(name) };
  }

  it('law: cut off at any change of the store, each file is whole, old or new, and the failure says so', async () => {
    let points = 0;
    for (let k = 1; ; k++) {
      const { struck, failures, after } = await cutOffAt(k, () => new DOMException('full', 'QuotaExceededError'));
      if (!struck) break;
      points++;
      expect(failures.length, `point ${k}`).toBeGreaterThan(0);
      for (const failure of failures) expect(failure).toMatchObject({ code: 'folder-refused', message: expect.stringContaining('the browser’s storage is full') as string });
      expect(['old a', 'new a'], `point ${k}`).toContain(after.a);
      expect([undefined, 'new c'], `point ${k}`).toContain(after.c);
      expect([undefined, 'old b'], `point ${k}`).toContain(after.b);
    }
    expect(points).toBeGreaterThanOrEqual(4);
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
