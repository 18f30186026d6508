import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  symlinkSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { crc32 } from 'node:zlib';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { ERRORS } from '@/core';
import { askServer } from '../../tests/support/server';
import { givenFolders } from './given';

/** Every address of the bridge, held against Node's own calls on a real folder. Statuses: RFC 9110, 15. */

const top = mkdtempSync(path.join(tmpdir(), 'satchel-serve-'));
const game = path.join(top, 'game');
mkdirSync(game);
process.env.SATCHEL_FOLDERS = JSON.stringify({ folders: [game], backup: path.join(top, 'backup') });
process.env.SATCHEL_SECRET = 'key';
afterAll(() => rmSync(top, { recursive: true, force: true }));
const [id, { parts }] = [...givenFolders()][0] as [
  string,
  ReturnType<typeof givenFolders> extends Map<string, infer G> ? G : never,
];
const ask = askServer('key');
const at = (part: string, verb: string, of = '', more = '') =>
  `/bridge/folder/${id}/${part}/${verb}?path=${encodeURIComponent(of)}${more}`;
const post = (address: string, body: unknown) =>
  ask(address, { method: 'POST', body: typeof body === 'string' ? body : JSON.stringify(body) });
/** How a refusal reads: its status, its code; its sentence is the table's. */
const refusal = async (response: Response | Promise<Response>): Promise<[number, string]> => {
  const { status, body } = await Promise.resolve(response).then(async (one) => ({
    status: one.status,
    body: (await one.json()) as { failure: { code: keyof typeof ERRORS; says: string; next: string } },
  }));
  expect(body.failure.says).toMatch(/\.$/);
  expect(body.failure.next).not.toBe('');
  return [status, body.failure.code];
};

beforeEach(() => {
  rmSync(game, { recursive: true });
  mkdirSync(path.join(game, 'in/deep'), { recursive: true });
  mkdirSync(path.join(game, 'empty'));
  writeFileSync(path.join(game, 'a.txt'), 'bytes of a');
  writeFileSync(path.join(game, 'in/deep/b c.txt'), 'bytes of b');
  parts.game.pin();
});

describe('what the bridge tells', () => {
  it('the folders that it was started with', async () => {
    expect(await (await ask('/bridge/folders')).json()).toEqual([
      { id, name: 'game', path: game, backup: expect.stringContaining(path.join(top, 'backup')) as string },
    ]);
  });

  it('what has changed since an earlier look, as the page reads it; files by name; refuses what is no list of them', async () => {
    type Lines = { now?: string; whole?: boolean; gone?: string[]; links?: string[]; end?: true };
    const changes = async (since?: string) => {
      const response = await ask(at('game', 'changes', '', since === undefined ? '' : `&since=${since}`));
      const lines = (await response.text()).trim().split('\n');
      expect(JSON.parse(lines.at(-1) as string)).toEqual({ end: true });
      const head = JSON.parse(lines[0] as string) as Lines;
      const told = lines
        .slice(1, -1)
        .flatMap((line) => JSON.parse(line) as { folder: string; files: { paths: string[] } }[]);
      return { ...head, told: told.map(({ folder, files }) => [folder, files.paths]) };
    };
    const first = await changes();
    expect(first).toMatchObject({
      whole: true,
      gone: [],
      told: [
        ['', ['a.txt']],
        ['in/deep', ['b c.txt']],
      ],
    });
    rmSync(path.join(game, 'in'), { recursive: true });
    writeFileSync(path.join(game, 'new'), 'x');
    const since = encodeURIComponent(first.now ?? '');
    const later = await changes(since);
    expect([later.whole, later.told]).toEqual([false, [['', ['a.txt', 'new']]]]);
    expect(later.gone).toEqual(expect.arrayContaining(['in', 'in/deep']));
    expect(await changes('of+another+server')).toMatchObject({ whole: true, told: [['', ['a.txt', 'new']]] });
    expect(await (await post(at('game', 'stats'), ['new', 'no', '../secret'])).json()).toMatchObject([
      { path: 'new', size: 1 },
      null,
      null,
    ]);
    expect(await refusal(post(at('game', 'stats'), { paths: [] }))).toEqual([400, 'bad-request']);
    const many = Array.from({ length: 10_001 }, (_, i) => String(i));
    expect(await refusal(post(at('game', 'stats'), many))).toEqual([400, 'bad-request']);
  });

  it('a list of every file, whose last line says that it is whole, with links named and not followed', async () => {
    symlinkSync('/etc', path.join(game, 'out'));
    const lines = (await (await ask(at('game', 'list'))).text())
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { paths?: string[]; sizes?: number[]; end?: true; links?: string[] });
    expect(lines.flatMap(({ paths = [], sizes = [] }) => paths.map((one, i) => [one, sizes[i]])).sort()).toEqual([
      ['a.txt', 10],
      ['in/deep/b c.txt', 10],
    ]);
    expect(lines.at(-1)).toEqual({ end: true, links: ['out'] });
    const below = (await (await ask(at('game', 'list', 'in'))).text()).trim().split('\n');
    expect(JSON.parse(below[0] ?? '')).toMatchObject({ paths: ['in/deep/b c.txt'] });
  });

  it('one file, a part of it, and what it is', async () => {
    utimesSync(path.join(game, 'a.txt'), 1_700_000_000, 1_700_000_000);
    expect(await (await ask(at('game', 'stat', 'a.txt'))).json()).toMatchObject({
      path: 'a.txt',
      size: 10,
      modified: 1_700_000_000_000,
    });
    expect(await (await ask(at('game', 'stat', 'no such'))).json()).toBeNull();
    const whole = await ask(at('game', 'file', 'in/deep/b c.txt'));
    expect([
      whole.status,
      await whole.text(),
      whole.headers.get('content-type'),
      whole.headers.get('x-content-type-options'),
    ]).toEqual([200, 'bytes of b', 'application/octet-stream', 'nosniff']);
    const part = await ask(at('game', 'file', 'a.txt'), { headers: { Range: 'bytes=6-99' } });
    expect([part.status, await part.text(), part.headers.get('content-range')]).toEqual([206, 'of a', 'bytes 6-9/10']);
    const none = await ask(at('game', 'file', 'a.txt'), { headers: { Range: 'bytes=20-30' } });
    expect(await none.text()).toBe('');
    expect(await refusal(ask(at('game', 'file', 'no such')))).toEqual([404, 'folder-missing-file']);
  });

  it('checksums, in the order asked for', async () => {
    expect(await (await post(at('game', 'digests-sha256'), ['no', 'a.txt'])).json()).toEqual([
      null,
      createHash('sha256').update('bytes of a').digest('hex'),
    ]);
    expect(await (await post(at('game', 'digests-crc32'), ['a.txt'])).json()).toEqual([
      crc32('bytes of a').toString(16),
    ]);
    expect(await refusal(post(at('game', 'digests-sha256'), { paths: [] }))).toEqual([400, 'bad-request']);
  });

  it('folders, and the room that is left', async () => {
    expect(await (await ask(at('game', 'folder', 'empty'))).json()).toBe(true);
    expect(await (await ask(at('game', 'folder', 'a.txt'))).json()).toBe(false);
    expect(((await (await ask(at('game', 'room'))).json()) as { left: number }).left).toBeGreaterThan(0);
  });
});

describe('what the bridge changes', () => {
  const put = (address: string, body: string, length = String(body.length)) =>
    ask(address, { method: 'PUT', body: new Blob([body]), headers: { 'content-length': length } });

  it('a file is written whole, and removed', async () => {
    expect(await (await put(at('game', 'file', 'new/x.txt'), 'bytes of x')).json()).toMatchObject({
      path: 'new/x.txt',
      size: 10,
    });
    expect(readFileSync(path.join(game, 'new/x.txt'), 'utf8')).toBe('bytes of x');
    expect(await (await ask(at('game', 'file', 'new/x.txt'), { method: 'DELETE' })).json()).toBe(true);
    expect(existsSync(path.join(game, 'new/x.txt'))).toBe(false);
    expect(await (await ask(at('game', 'folder', 'empty'), { method: 'DELETE' })).json()).toBe(true);
    expect(existsSync(path.join(game, 'empty'))).toBe(false);
    expect(await (await ask(at('game', 'folder', 'in'), { method: 'DELETE' })).json()).toBe(false);
    expect(existsSync(path.join(game, 'in/deep/b c.txt'))).toBe(true);
  });

  it.each([
    ['more', '4'],
    ['less', '99'],
    ['no number', 'ten'],
    ['a negative one', '-1'],
  ])('a body whose length was said wrongly (%s) changes nothing', async (_, length) => {
    expect(await refusal(put(at('game', 'file', 'a.txt'), 'other bytes', length))).toEqual([409, 'folder-refused']);
    expect(readFileSync(path.join(game, 'a.txt'), 'utf8')).toBe('bytes of a');
    expect(readdirSync(game).filter((name) => name.startsWith('.satchel'))).toEqual([]);
  });

  it('a pack is taken, found by its size, and lies only among what the app keeps', async () => {
    expect(await (await ask(at('vault', 'pack', 'p1', '&name=p.zip'))).json()).toBeNull();
    expect(await (await put(at('vault', 'pack', 'p1'), 'a pack')).json()).toBe(true);
    expect(await (await ask(at('vault', 'pack', 'p1', '&name=p.zip'))).json()).toMatchObject({ size: 6 });
    expect(await refusal(put(at('game', 'pack', 'p2'), 'a pack'))).toEqual([404, 'unknown-thing']);
    expect(await refusal(put(at('vault', 'pack', '../p2'), 'a pack'))).toEqual([400, 'bad-request']);
  });

  it.each(['../outside', 'in/../../outside', '/etc/passwd', 'a\0b', 'CON', 'x'.repeat(300), 'in\\..\\..\\x', '.'])(
    '%j is no name of a file, whatever is asked',
    async (name) => {
      for (const answer of [
        put(at('game', 'file', name), 'x'),
        ask(at('game', 'file', name)),
        ask(at('game', 'file', name), { method: 'DELETE' }),
        ask(at('game', 'stat', name)),
        ask(at('game', 'list', name)),
      ])
        expect((await refusal(answer))[1]).toBe('folder-refused');
      expect(readdirSync(top).sort()).toEqual(['backup', 'game']);
    },
  );
});

describe('what the bridge refuses, with a code and a sentence', () => {
  it.each([
    ['an address that there is not', () => ask('/bridge/nothing'), 404, 'unknown-thing'],
    ['a verb that there is not', () => ask(at('game', 'format')), 404, 'unknown-thing'],
    [
      'a folder that was not given',
      () => ask(`/bridge/folder/${'0'.repeat(16)}/game/list?path=`),
      404,
      'unknown-thing',
    ],
    ['a part that there is not', () => ask(at('other', 'list')), 404, 'unknown-thing'],
    ['a run that is no JSON', () => post('/bridge/run', '{ "main"'), 400, 'bad-request'],
    ['a run without its parts', () => post('/bridge/run', { run: 'x' }), 400, 'bad-request'],
    [
      'an answer that nobody knows',
      () => post('/bridge/answer', { run: 'x', answer: 'format the disk' }),
      400,
      'bad-request',
    ],
    ['downloads without a folder for them', () => ask('/bridge/downloads/file?path=a.zip'), 404, 'folder-missing-file'],
    ['a page that does not know the key', () => askServer('another')('/bridge/folders'), 401, 'bridge-closed'],
  ] as const)('%s', async (_, answer, status, code) => {
    expect(await refusal(answer())).toEqual([status, code]);
  });

  it('a list below a folder that there is not is empty, and whole, as with every other kind of folder', async () => {
    expect(
      (await (await ask(at('game', 'list', 'gone'))).text())
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as unknown),
    ).toEqual([
      { paths: [], sizes: [], modified: [], readOnly: [] },
      { end: true, links: [] },
    ]);
  });

  it('a folder that was given at the start cannot be taken away by the page, nor its downloads folder but by name', async () => {
    expect(await (await ask(`/bridge/folders/${id}`, { method: 'DELETE' })).json()).toBe(false);
    expect(await (await ask('/bridge/folders')).json()).toHaveLength(1);
    expect(await (await ask('/bridge/downloads')).json()).toBeNull();
  });

  it('an answer that nobody waits for', async () => {
    expect(await (await post('/bridge/answer', { run: 'nobody', answer: 'leave' })).json()).toEqual({ taken: false });
  });
});
