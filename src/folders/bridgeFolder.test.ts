import { mkdirSync, readFileSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { givenFolders as foldersHere } from '@/bridge/given';
import { SatchelError, type FileStat } from '@/core';
import { answering, broken, lines, refusal } from '../../tests/support/answering';
import { FOLDER_CONTRACT } from '../../tests/support/folderContract';
import { askServer } from '../../tests/support/server';
import { runTool, temporaryFolder } from '../../tests/support/tools';
import { BridgeFolder } from './bridgeFolder';

/** The page's side of the bridge, over the server itself on folders of this disk, without a network between. */

const top = temporaryFolder();
const games = FOLDER_CONTRACT.map((_, i) => path.join(top, `game ${i}`)).concat(path.join(top, 'game'));
for (const game of games) mkdirSync(game);
process.env.SATCHEL_FOLDERS = JSON.stringify({ folders: games, backup: path.join(top, 'backup') });
process.env.SATCHEL_SECRET = 'key';
const ids = [...foldersHere().keys()];
const how = askServer('key');
const id = ids.at(-1) as string;
const game = path.join(top, 'game');

describe('a folder over the bridge keeps the contract', () => {
  for (const [i, { name, run }] of FOLDER_CONTRACT.entries())
    it(name, () => run(new BridgeFolder(ids[i] as string, 'game', how)));
});

describe('what a folder over the bridge asks for', () => {
  const folder = new BridgeFolder(id, 'game', how);

  it('folders and room, as they are on the disk', async () => {
    mkdirSync(path.join(game, 'empty'));
    writeFileSync(path.join(game, 'a b.txt'), 'bytes of a');
    symlinkSync('/nowhere', path.join(game, 'away'));
    expect([await folder.hasFolder('empty'), await folder.hasFolder('a b.txt')]).toEqual([true, false]);
    expect([await folder.removeFolder('empty'), readdirSync(game).sort()]).toEqual([true, ['a b.txt', 'away']]);
    expect((await folder.room()).left).toBeGreaterThan(0);
    const links: string[] = [];
    const files: FileStat[] = [];
    for await (const stat of folder.list('', (link) => links.push(link))) files.push(stat);
    expect([files.map(({ path: of }) => of), links]).toEqual([['a b.txt'], ['away']]);
    expect(Buffer.from(await folder.readBytes('a b.txt')).toString()).toBe('bytes of a');
  });

  it('many files by name, in the order asked for, some thousands in a request', async () => {
    const { asked, instead } = answering(
      () => Response.json(Array.from({ length: 5000 }, () => null)),
      () => Response.json([{ path: 'a', size: 1, modified: 2 }]),
    );
    const names = Array.from({ length: 5001 }, (_, i) => `${i}`);
    const found = await new BridgeFolder(id, 'game', instead).stats(names);
    expect([found.length, found[4999], found[5000]]).toEqual([5001, undefined, { path: 'a', size: 1, modified: 2 }]);
    expect(asked.map(({ options }) => (JSON.parse(options?.body as string) as string[]).length)).toEqual([5000, 1]);
    expect(asked[0]).toMatchObject({
      address: `/bridge/folder/${id}/game/stats?path=`,
      options: { method: 'POST', headers: { 'Content-Type': 'application/json' } },
    });
    writeFileSync(path.join(game, 'one'), '1');
    expect(await folder.stats(['no', 'one'])).toMatchObject([undefined, { path: 'one', size: 1 }]);
  });

  it('checksums as sha256sum and zlib have them, some hundreds in a request', async () => {
    writeFileSync(path.join(game, 'sum'), 'sum of it');
    const [sum] = runTool('sha256sum', [path.join(game, 'sum')])
      .toString()
      .split(' ');
    expect(await folder.digests('sha256', ['no', 'sum'])).toEqual([undefined, sum]);
    const { asked, instead } = answering(
      () => Response.json(Array.from({ length: 500 }, () => 'x')),
      () => Response.json([null]),
    );
    const found = await new BridgeFolder(id, 'vault', instead).digests(
      'crc32',
      Array.from({ length: 501 }, (_, i) => `${i}`),
    );
    expect([found.length, found[499], found[500]]).toEqual([501, 'x', undefined]);
    expect(asked.map(({ address }) => address)).toEqual(
      Array.from({ length: 2 }, () => `/bridge/folder/${id}/vault/digests-crc32?path=`),
    );
  });

  it('what has changed since, or everything anew, and how far the look is', async () => {
    const head = { now: 'n', whole: false, gone: [], links: [] };
    const answer = () => lines({ looked: 7 }, head, [], { end: true });
    const { asked, instead } = answering(answer, answer, answer);
    const stop = new AbortController();
    const looked: number[] = [];
    const one = new BridgeFolder(id, 'game', instead);
    expect(await one.changes(undefined)).toEqual({ ...head, folders: [] });
    await one.changes('x y', { signal: stop.signal, onLooked: (files) => looked.push(files) });
    await one.changes('x', { anew: true });
    expect(looked).toEqual([7]);
    expect(asked.map(({ address }) => address.split('?')[1])).toEqual([
      'path=',
      'path=&since=x+y',
      'path=&since=x&anew=1',
    ]);
    expect(asked.map(({ options }) => options)).toEqual([{}, { signal: stop.signal }, {}]);
  });

  it('a list that was cut off is no list', async () => {
    const listed = async (...answers: Response[]) => {
      const found: FileStat[] = [];
      for await (const stat of new BridgeFolder(id, 'game', answering(...answers).instead).list('in')) found.push(stat);
      return found;
    };
    const piece = { paths: ['a'], sizes: [1], modified: [2], readOnly: [] };
    expect(await listed(lines(piece, { end: true }))).toEqual([{ path: 'a', size: 1, modified: 2 }]);
    await expect(listed(lines(piece))).rejects.toMatchObject({
      code: 'folder-refused',
      failure: { details: { path: 'in', why: 'the list of its files was cut off' } },
    });
    await expect(listed(broken(`${JSON.stringify(piece)}\n`))).rejects.toMatchObject({ code: 'server-gone' });
  });

  it.each([
    ['read', (one: BridgeFolder) => one.read('a')],
    ['readBytes', (one: BridgeFolder) => one.readBytes('a')],
  ])('bytes that break off (%s)', async (_, read) => {
    await expect(read(new BridgeFolder(id, 'game', answering(broken('half')).instead))).rejects.toMatchObject({
      code: 'server-gone',
      cause: expect.any(Error) as Error,
    });
  });
});

describe('packs over the bridge', () => {
  const vault = new BridgeFolder(id, 'vault', how);
  const archive = new Blob(['the bytes of a pack']);

  it('are sent, found by their size, read where they are looked into, and removed', async () => {
    expect(await vault.hasPack('p1', archive, 'p.zip')).toBe(false);
    await vault.sendPack('p1', archive, new AbortController().signal);
    expect(await vault.hasPack('p1', new Blob(['other']), 'p.zip')).toBe(false);
    expect(await vault.hasPack('p1', archive, 'p.zip')).toBe(true);
    const far = await vault.packBlob('p1', archive.size);
    expect(await far?.slice(4, 9).text()).toBe('bytes');
    expect(await far?.text()).toBe('the bytes of a pack');
    expect(await vault.packBlob('p1', 3)).toBeUndefined();
    expect(await vault.packBlob('p2', archive.size)).toBeUndefined();
    await vault.removePack('p1');
    expect(await vault.hasPack('p1', archive, 'p.zip')).toBe(false);
  });

  it('are sent under the name that the player gave them, and stopped by their signal', async () => {
    const { asked, instead } = answering(Response.json(null), Response.json(true));
    const { signal } = new AbortController();
    const one = new BridgeFolder(id, 'vault', instead);
    await one.hasPack('p1', archive, 'my p.zip');
    await one.sendPack('p1', archive, signal);
    expect(asked).toEqual([
      { address: `/bridge/folder/${id}/vault/pack?path=p1&name=my+p.zip`, options: {} },
      { address: `/bridge/folder/${id}/vault/pack?path=p1`, options: { method: 'PUT', body: archive, signal } },
    ]);
  });

  it('a download is taken by its name or its content', async () => {
    const taken = { size: 1, sha256: 'x', crc32: 2, how: 'shared' };
    const { asked, instead } = answering(Response.json(taken), Response.json(null), refusal('needs-copy'));
    const { signal } = new AbortController();
    const one = new BridgeFolder(id, 'vault', instead);
    const what = { name: 'a.zip', copy: true };
    expect(await one.takeDownload('p1', what)).toEqual(taken);
    expect(await one.takeDownload('p1', { size: 1, sha256: 'x' }, signal)).toBeUndefined();
    await expect(one.takeDownload('p1', what)).rejects.toMatchObject({ code: 'needs-copy' });
    const options = { method: 'POST', headers: { 'Content-Type': 'application/json' } };
    expect(asked.slice(0, 2)).toEqual([
      { address: `/bridge/folder/${id}/vault/take?path=p1`, options: { ...options, body: JSON.stringify(what) } },
      {
        address: `/bridge/folder/${id}/vault/take?path=p1`,
        options: { ...options, body: JSON.stringify({ size: 1, sha256: 'x' }), signal },
      },
    ]);
  });

  it('a download is unpacked, with what is told meanwhile', async () => {
    const progress = { phase: 'Unpacking it once', done: 1, total: 2, unit: 'files' };
    const unpacked = { size: 1, sha256: 'x', kept: { size: 1, crc32: 2 }, format: '7z', notices: [] };
    const { failure } = new SatchelError('encrypted', { name: 'a.7z' });
    const { asked, instead } = answering(
      lines({ progress }, { unpacked }),
      lines({ unpacked: null }),
      lines({ failure }),
      lines({ progress }),
      broken(),
    );
    const { signal } = new AbortController();
    const one = new BridgeFolder(id, 'vault', instead);
    const told: unknown[] = [];
    const what = { name: 'a.7z', parts: ['a.7z'], password: 'p' };
    expect(await one.unpackDownload('p1', what, { signal, onProgress: (now) => told.push(now) })).toEqual(unpacked);
    expect(told).toEqual([progress]);
    expect(await one.unpackDownload('p1', what)).toBeUndefined();
    await expect(one.unpackDownload('p1', what)).rejects.toMatchObject({ code: 'encrypted', failure });
    for (const _ of ['ends too early', 'breaks off'])
      await expect(one.unpackDownload('p1', what)).rejects.toMatchObject({ code: 'server-gone' });
    expect(asked[0]).toEqual({
      address: `/bridge/folder/${id}/vault/unpack?path=p1`,
      options: {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(what),
        signal,
      },
    });
    expect(asked[1]?.options).not.toHaveProperty('signal');
  });
});

it('nothing of all this lies anywhere else', () => {
  expect(readFileSync(path.join(game, 'a b.txt'), 'utf8')).toBe('bytes of a');
  expect(readdirSync(top).sort()).toEqual([...games.map((one) => path.basename(one)), 'backup'].sort());
});
