import 'fake-indexeddb/auto';
import localforage from 'localforage';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { BrowserFolder } from './browser';
import { AT_HAND, BUNDLE, MANY, PIECE, keysOf, lengthOf, pieceKey } from './browserIndex';

/** How a folder lies in the browser: looked at through its store, not through the folder. */

let made = 0;
const fresh = (): string => `b${++made}`;
const stores = (name: string): [LocalForage, LocalForage] => [
  localforage.createInstance({ name: `satchel-folder-${name}`, storeName: 'bytes' }),
  localforage.createInstance({ name: `satchel-folder-${name}`, storeName: 'index' }),
];
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const listed = async (folder: BrowserFolder, under?: string) => {
  const found: string[] = [];
  for await (const { path } of folder.list(under)) found.push(path);
  return found.sort();
};
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

describe('files that are written at the same time', () => {
  it('share bundles of two megabytes; one alone is never too large for one', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    const sizes = [1, BUNDLE - 2, 1, 5, BUNDLE, 7];
    await Promise.all(sizes.map((size, i) => folder.write(`f${i}`, new Uint8Array(size).fill(i))));
    const [items] = stores(name);
    const kept = await Promise.all(
      (await items.keys()).map(async (key) => (await items.getItem<Uint8Array>(key))?.length),
    );
    // The first was on its way when the others came; a bundle is closed by the file that fills it.
    expect(kept.sort((a, b) => Number(a) - Number(b))).toEqual([1, 7, BUNDLE, BUNDLE - 2 + 1 + 5]);
    for (const [i, size] of sizes.entries())
      expect(Buffer.compare(await folder.readBytes(`f${i}`), new Uint8Array(size).fill(i))).toBe(0);
  });

  it('have dates that grow with every write, whatever the clock says', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    const dates: number[] = [];
    const clock = vi.spyOn(Date, 'now');
    for (const now of [1000, 1000, 900, 5000, 4000]) {
      clock.mockReturnValue(now);
      await folder.write('a', bytes('x'));
      dates.push((await folder.stat('a'))?.modified ?? 0);
    }
    expect(dates).toEqual([1000, 1001, 1002, 5000, 5001]);
    clock.mockReturnValue(10);
    const again = await BrowserFolder.open(name);
    await again.write('b', bytes('x'));
    expect((await again.stat('b'))?.modified).toBe(5002);
  });

  it('each of them fails where their bundle cannot be kept, and what comes later is kept', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    const put = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new Error('a broken disk');
    });
    const results = await Promise.allSettled([folder.write('a', bytes('a')), folder.write('b', bytes('b'))]);
    for (const result of results)
      expect(result).toMatchObject({
        reason: {
          code: 'folder-refused',
          failure: { details: { why: 'a broken disk' } },
          cause: { message: 'a broken disk' },
        },
      });
    expect(
      results.map(
        (one) =>
          one.status === 'rejected' && (one.reason as { failure: { details: { path: string } } }).failure.details.path,
      ),
    ).toEqual(['a', 'b']);
    put.mockRestore();
    expect(await listed(folder)).toEqual([]);
    await folder.write('c', bytes('c'));
    expect(await listed(folder)).toEqual(['c']);
  });

  it('one that is gone goes from the store when nothing lies in its bundle any more', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    await folder.write('first', bytes('x'));
    await Promise.all([folder.write('a', bytes('a')), folder.write('b', bytes('b')), folder.write('c', bytes('c'))]);
    const [items] = stores(name);
    const count = async () => (await items.keys()).length;
    const before = await count();
    await folder.remove('first');
    expect(await count()).toBe(before - 1);
    await folder.remove('a');
    await folder.remove('none');
    await folder.write('b', bytes('new b'));
    expect(await listed(folder)).toEqual(['b', 'c']);
    await folder.remove('c');
    await folder.remove('b');
    expect(await count()).toBe(0);
  });

  it('an index of many lines is written anew as one when the folder is opened, and not before', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    const [, index] = stores(name);
    for (let i = 0; i < MANY; i++) await folder.write('same', bytes(`${i}`));
    await BrowserFolder.open(name);
    expect(await index.keys()).toHaveLength(MANY);
    await folder.write('one more', bytes('x'));
    const again = await BrowserFolder.open(name);
    expect(await index.keys()).toHaveLength(1);
    await again.write('late', bytes('late'));
    const third = await BrowserFolder.open(name);
    expect(await listed(third)).toEqual(['late', 'one more', 'same']);
    expect(new TextDecoder().decode(await third.readBytes('same'))).toBe(`${MANY - 1}`);
  });
});

describe('large files', () => {
  it('lie in pieces of four megabytes, the last as long as what is left', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    const [items] = stores(name);
    const lengths = async () => {
      const keys = (await items.keys()).sort();
      return Promise.all(keys.map(async (key) => (await items.getItem<Uint8Array>(key))?.length));
    };
    for (const [size, wanted] of [
      [BUNDLE, [BUNDLE]],
      [BUNDLE + 1, [BUNDLE + 1]],
      [PIECE, [PIECE]],
      [PIECE + 1, [PIECE, 1]],
      [2 * PIECE, [PIECE, PIECE]],
    ] as const) {
      const data = Uint8Array.from({ length: size }, (_, i) => i % 251);
      await folder.write('large', data);
      expect(await lengths(), String(size)).toEqual(wanted);
      expect(Buffer.compare(await folder.readBytes('large'), data)).toBe(0);
      await folder.write('large', new Blob([data]));
      expect(await lengths(), `blob of ${size}`).toEqual(wanted);
      expect((await (await folder.read('large')).arrayBuffer()).byteLength).toBe(size);
    }
    async function* pieces() {
      yield new Uint8Array(3);
      yield new Uint8Array(PIECE);
      yield new Uint8Array(0);
    }
    await folder.writeChunks('large', pieces());
    expect(await lengths()).toEqual([PIECE, 3]);
    expect((await folder.stat('large'))?.size).toBe(PIECE + 3);
    await folder.writeChunks('large', (async function* () {})());
    expect([await lengths(), (await folder.stat('large'))?.size]).toEqual([[0], 0]);
    expect((await folder.readBytes('large')).length).toBe(0);
  });

  it('that are cut off leave nothing, and the old one stays', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    await folder.write('large', bytes('old'));
    async function* torn() {
      yield new Uint8Array(PIECE + 5);
      throw new Error('torn');
    }
    await expect(folder.writeChunks('large', torn())).rejects.toThrow('torn');
    expect(await stores(name)[0].keys()).toHaveLength(1);
    expect(await (await folder.read('large')).text()).toBe('old');
  });

  it('of which a piece is too long, too short or gone are named', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    const [items] = stores(name);
    await folder.write('in/large', new Uint8Array(PIECE + 9));
    const [first, last] = (await items.keys()).sort() as [string, string];
    for (const damage of [
      () => items.setItem(last, new Uint8Array(8)),
      () => items.setItem(last, new Uint8Array(10)),
      () => items.setItem(first, 'text'),
      () => items.removeItem(first),
    ]) {
      await damage();
      await expect(folder.read('in/large')).rejects.toMatchObject({
        code: 'bad-memory',
        failure: { details: { what: 'the file in/large' } },
      });
    }
  });
});

describe('bundles that are read', () => {
  it('are at hand for a while: the last six', async () => {
    const name = fresh();
    const folder = await BrowserFolder.open(name);
    for (let i = 0; i <= AT_HAND; i++) await folder.write(`f${i}`, bytes(`${i}`));
    const again = await BrowserFolder.open(name);
    const get = vi.spyOn(IDBObjectStore.prototype, 'get');
    const reads = async (...of: number[]) => {
      get.mockClear();
      for (const i of of) expect(new TextDecoder().decode(await again.readBytes(`f${i}`))).toBe(`${i}`);
      return get.mock.calls.length;
    };
    expect(await reads(0, 1, 2, 3, 4, 5)).toBe(6);
    expect(await reads(0, 1, 2, 3, 4, 5)).toBe(0);
    expect(await reads(6)).toBe(1);
    // The first to come is the first to go.
    expect(await reads(1, 2, 3, 4, 5, 6)).toBe(0);
    expect(await reads(0)).toBe(1);
  });

  it('that are too short, no bytes or gone are named', async () => {
    const name = fresh();
    await (await BrowserFolder.open(name)).write('a', bytes('12345'));
    const [items] = stores(name);
    const [key = ''] = await items.keys();
    const read = async () => (await BrowserFolder.open(name, { onlyLook: true })).readBytes('a');
    await items.setItem(key, new Uint8Array(4));
    await expect(read()).rejects.toMatchObject({ code: 'bad-memory', failure: { details: { what: 'the file a' } } });
    await items.setItem(key, new Uint8Array(5));
    expect(await read()).toEqual(new Uint8Array(5));
    for (const damage of [() => items.setItem(key, 'text'), () => items.removeItem(key)]) {
      await damage();
      await expect(read()).rejects.toMatchObject({
        code: 'bad-memory',
        failure: { details: { what: 'a bundle of files' } },
      });
    }
  });
});

describe('a folder of the browser', () => {
  it('is gone with all in it when it is dropped; others stay', async () => {
    const [one, two] = [fresh(), fresh()];
    for (const name of [one, two]) await (await BrowserFolder.open(name)).write('a', bytes(name));
    await BrowserFolder.drop(one);
    expect(await listed(await BrowserFolder.open(one))).toEqual([]);
    expect(await listed(await BrowserFolder.open(two))).toEqual(['a']);
  });

  it('lists what lies under a name, and not what begins like it', async () => {
    const folder = await BrowserFolder.open(fresh());
    for (const path of ['in/a', 'in/deep/b', 'inn/c', 'd']) await folder.write(path, bytes(path));
    expect(await listed(folder, 'in')).toEqual(['in/a', 'in/deep/b']);
    expect(await listed(folder)).toEqual(['d', 'in/a', 'in/deep/b', 'inn/c']);
    for (const write of [
      () => folder.write('in/a/b/c', bytes('x')),
      () => folder.write('in/a/b', new Uint8Array(BUNDLE + 1)),
    ])
      await expect(write()).rejects.toMatchObject({
        code: 'folder-refused',
        failure: { details: { why: '“in/a” is a file' } },
      });
    for (const read of [() => folder.readBytes('none'), () => folder.read('none')])
      await expect(read()).rejects.toMatchObject({
        code: 'folder-missing-file',
        failure: { details: { path: 'none' } },
      });
    expect(await folder.stat('none')).toBeUndefined();
  });

  // StorageManager.estimate(), Storage Standard, 4.
  it('has the room that the browser says, or says nothing of it', async () => {
    const folder = await BrowserFolder.open(fresh());
    const said = (estimate: unknown) => {
      vi.stubGlobal('navigator', { storage: { estimate: () => Promise.resolve(estimate) } });
      return folder.room();
    };
    const disk = 'the browser’s storage';
    expect(await said({ quota: 100, usage: 30 })).toEqual({ disk, left: 70 });
    expect(await said({ quota: 100 })).toEqual({ disk, left: 100 });
    expect(await said({ usage: 30 })).toBeUndefined();
    for (const navigator of [undefined, {}, { storage: {} }]) {
      vi.stubGlobal('navigator', navigator);
      expect(await folder.room()).toBeUndefined();
    }
  });
});

it('keys of what lies in pieces, and lengths of what waits', () => {
  expect(pieceKey('b', 2)).toBe('b.2');
  expect(keysOf({ bundle: 'b', pieces: 3 })).toEqual(['b.0', 'b.1', 'b.2']);
  expect(keysOf({ bundle: 'b', pieces: undefined })).toEqual(['b']);
  expect([lengthOf(new Uint8Array(7)), lengthOf(undefined), lengthOf({ bundle: 'b', pieces: 1, size: 9 })]).toEqual([
    7, 0, 0,
  ]);
});
