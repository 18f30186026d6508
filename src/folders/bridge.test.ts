import { describe, expect, it } from 'vitest';
import { KEY_HEADER } from '@/bridge/wire';
import { answering, broken, refusal } from '../../tests/support/answering';
import {
  ask,
  chooseDownloads,
  chooseFolder,
  fetchDownload,
  forgetDownloads,
  forgetFolder,
  givenFolders,
  jsonLines,
  listDownloads,
  markOfDownload,
  orFailure,
  setBridgeKey,
} from './bridge';

describe('what else the page asks of its server', () => {
  const folder = { id: '0123456789abcdef', name: 'g', path: '/g', backup: '/b' };
  const downloads = { path: '/d', files: [] };
  const options = { method: 'POST', headers: { 'Content-Type': 'application/json' } };

  it('which folders it may use; none where it does not know the key, and none of another failure', async () => {
    expect(await givenFolders(answering(Response.json([folder])).instead)).toEqual({
      folders: [folder],
      closed: false,
      asks: true,
    });
    const none = { folders: [], asks: false };
    for (const [status, closed] of [
      [401, true],
      [404, false],
      [500, false],
    ] as const) {
      const response = new Response('x', { status });
      expect(await givenFolders(answering(response).instead)).toEqual({ ...none, closed });
      // An answer that nobody reads would stay open.
      expect(response.bodyUsed || response.body?.locked === false).toBe(true);
      await expect(response.text()).rejects.toThrow();
    }
  });

  it('a folder, or none', async () => {
    const { asked, instead } = answering(Response.json(folder), Response.json(null), refusal('dialog-open'));
    expect(await chooseFolder('near', instead)).toEqual(folder);
    expect(await chooseFolder(undefined, instead)).toBeUndefined();
    await expect(chooseFolder(undefined, instead)).rejects.toMatchObject({ code: 'dialog-open' });
    expect(asked.slice(0, 2)).toEqual([
      { address: '/bridge/choose', options: { ...options, body: '{"near":"near"}' } },
      { address: '/bridge/choose', options: { ...options, body: '{}' } },
    ]);
  });

  it('the downloads folder: what it is, another one, and none any more', async () => {
    const { asked, instead } = answering(
      Response.json(downloads),
      Response.json(null),
      Response.json(downloads),
      Response.json(null),
      Response.json(true),
      refusal('folder-gone', { path: '/d' }),
    );
    expect(await listDownloads(instead)).toEqual(downloads);
    expect(await listDownloads(instead)).toBeUndefined();
    expect(await chooseDownloads(instead)).toEqual(downloads);
    expect(await chooseDownloads(instead)).toBeUndefined();
    await forgetDownloads(instead);
    await expect(listDownloads(instead)).rejects.toMatchObject({
      code: 'folder-gone',
      failure: { details: { path: '/d' } },
    });
    expect(asked.map(({ address, options: how_ }) => [address, how_])).toEqual([
      ['/bridge/downloads', undefined],
      ['/bridge/downloads', undefined],
      ['/bridge/choose', { ...options, body: '{"what":"downloads"}' }],
      ['/bridge/choose', { ...options, body: '{"what":"downloads"}' }],
      ['/bridge/downloads', { method: 'DELETE' }],
      ['/bridge/downloads', undefined],
    ]);
  });

  it('a download’s bytes and where it came from; a folder that is taken away', async () => {
    const { asked, instead } = answering(
      new Response('bytes'),
      new Response('bytes'),
      broken('by'),
      Response.json('https://site.example/'),
      Response.json(null),
      Response.json('x'.repeat(2001)),
      Response.json(true),
      refusal('journal-open'),
    );
    const { signal } = new AbortController();
    expect(await (await fetchDownload('a b.zip', signal, instead)).text()).toBe('bytes');
    await fetchDownload('a.zip', undefined, instead);
    await expect(fetchDownload('a.zip', undefined, instead)).rejects.toMatchObject({ code: 'server-gone' });
    expect(await markOfDownload('a b.zip', instead)).toBe('https://site.example/');
    expect(await markOfDownload('a.zip', instead)).toBeUndefined();
    await expect(markOfDownload('a.zip', instead)).rejects.toThrow();
    await forgetFolder('0123', instead);
    await expect(forgetFolder('0123', instead)).rejects.toMatchObject({ code: 'journal-open' });
    expect(asked.map(({ address, options: how_ }) => [address, how_])).toEqual([
      ['/bridge/downloads/file?path=a+b.zip', { signal }],
      ['/bridge/downloads/file?path=a.zip', {}],
      ['/bridge/downloads/file?path=a.zip', {}],
      ['/bridge/downloads/mark?path=a+b.zip', undefined],
      ['/bridge/downloads/mark?path=a.zip', undefined],
      ['/bridge/downloads/mark?path=a.zip', undefined],
      ['/bridge/folders/0123', { method: 'DELETE' }],
      ['/bridge/folders/0123', { method: 'DELETE' }],
    ]);
  });

  it('answers that are failures are those of the table, or told by their number', async () => {
    const fine = new Response('fine');
    expect(await orFailure(fine)).toBe(fine);
    await expect(orFailure(refusal('folder-refused', { path: 'a', why: 'b' }))).rejects.toMatchObject({
      code: 'folder-refused',
      failure: { details: { path: 'a', why: 'b' } },
    });
    for (const body of ['no JSON', '{}', '{"failure":{"code":"made-up"}}'])
      await expect(orFailure(new Response(body, { status: 502 }))).rejects.toMatchObject({
        code: 'unexpected',
        failure: { details: { why: 'the app’s own server answered 502' } },
      });
  });

  it('each with the key; a server that does not answer is gone, one that is not wanted any more cancelled', async () => {
    const real = globalThis.fetch;
    const sent: RequestInit[] = [];
    try {
      setBridgeKey('the key');
      globalThis.fetch = async (_, init) => {
        sent.push(init ?? {});
        return new Response('x');
      };
      await ask('/bridge/folders', { method: 'PUT', headers: { a: 'b' } });
      await ask('/bridge/folders');
      expect(sent).toEqual([
        { method: 'PUT', headers: { a: 'b', [KEY_HEADER]: 'the key' } },
        { headers: { [KEY_HEADER]: 'the key' } },
      ]);
      const cause = new TypeError('failed to fetch');
      globalThis.fetch = () => Promise.reject(cause);
      await expect(ask('/bridge/folders')).rejects.toMatchObject({ code: 'server-gone', cause });
      await expect(ask('/bridge/folders', { signal: AbortSignal.abort() })).rejects.toMatchObject({
        code: 'cancelled',
      });
      await expect(ask('/bridge/folders', { signal: new AbortController().signal })).rejects.toMatchObject({
        code: 'server-gone',
      });
    } finally {
      globalThis.fetch = real;
    }
  });

  it('lines are read as they come, cut where they may be, and no further than somebody wants to hear', async () => {
    const pieces = ['{"a":1}\n{"b', '":"ü', '"}\n', '\n\n[3]\n4'].map((piece) => Buffer.from(piece));
    const split = Buffer.concat(pieces);
    const response = (...all: Uint8Array[]) =>
      new Response(
        new ReadableStream({
          start: (controller) => {
            for (const piece of all) controller.enqueue(piece);
            controller.close();
          },
        }),
      );
    const read = async (of: Response) => {
      const found: unknown[] = [];
      for await (const line of jsonLines(of)) found.push(line);
      return found;
    };
    for (let cut = 0; cut <= split.length; cut++)
      expect(await read(response(split.subarray(0, cut), split.subarray(cut)))).toEqual([{ a: 1 }, { b: 'ü' }, [3]]);
    expect(await read(new Response(null))).toEqual([]);
    let cancelled = false;
    const endless = new ReadableStream({
      pull: (controller) => controller.enqueue(new TextEncoder().encode('1\n')),
      cancel: () => {
        cancelled = true;
      },
    });
    for await (const line of jsonLines(new Response(endless))) {
      expect(line).toBe(1);
      break;
    }
    expect(cancelled).toBe(true);
  });
});
