import { chmodSync, existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import path from 'node:path';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { askServer } from '../../tests/support/server';
import { threadsHere } from '../../tests/support/threadsHere';
import { has, runTool, temporaryFolder } from '../../tests/support/tools';
import { givenFolders } from './given';
import { TITLES } from './askFolder';

/** The addresses of the bridge about downloads, chosen folders and packs; Node's own calls say what came of it. */

vi.mock('node:worker_threads', async (real) =>
  (await import('../../tests/support/threadsHere')).asThreadsHere(await real()),
);

const top = temporaryFolder();
const at = (...names: string[]) => path.join(top, ...names);
for (const name of ['game', 'in', 'other game']) mkdirSync(at(name));
process.env.SATCHEL_FOLDERS = JSON.stringify({ folders: [at('game')], backup: at('backup') });
process.env.SATCHEL_SECRET = 'key';
const [id, { parts }] = [...givenFolders()][0] as [
  string,
  ReturnType<typeof givenFolders> extends Map<string, infer G> ? G : never,
];
const ask = askServer('key');
const post = (address: string, body: unknown) => ask(address, { method: 'POST', body: JSON.stringify(body) });
const vault = (verb: string, pack = 'p1', more = '') => `/bridge/folder/${id}/vault/${verb}?path=${pack}${more}`;
const failureOf = async (response: Response | Promise<Response>) => {
  const { status, body } = await Promise.resolve(response).then(async (one) => ({
    status: one.status,
    body: (await one.json()) as { failure: { code: string; details: Record<string, string> } },
  }));
  return [status, body.failure.code, body.failure.details];
};
const packs = () =>
  existsSync(path.join(parts.vault.root, 'packs')) ? readdirSync(path.join(parts.vault.root, 'packs')) : [];

/** Answers the next question for a folder, as its user would. */
function choose(folder: string | undefined): () => string[] {
  const program = at('dialog');
  writeFileSync(
    program,
    `#!/bin/sh\nprintf '%s\\n' "$@" > '${at('asked')}'\n${folder === undefined ? 'exit 1' : `printf '%s' '${folder}'`}\n`,
  );
  chmodSync(program, 0o755);
  vi.stubEnv('SATCHEL_DIALOG', program);
  return () => readFileSync(at('asked'), 'utf8').trim().split('\n');
}

beforeEach(async () => {
  rmSync(at('in'), { recursive: true });
  mkdirSync(at('in'));
  rmSync(path.join(parts.vault.root, 'packs'), { recursive: true, force: true });
  choose(at('in'));
  await post('/bridge/choose', { what: 'downloads' });
});

describe('the downloads folder over the bridge', () => {
  it('is chosen in the dialog, listed, and forgotten', async () => {
    writeFileSync(at('in', 'a.zip'), 'a pack');
    const listed = {
      path: at('in'),
      files: [{ name: 'a.zip', size: 6, modified: expect.any(Number) as number, settled: false }],
    };
    const asked = choose(at('in'));
    expect(await (await post('/bridge/choose', { what: 'downloads', near: 'no such game' })).json()).toEqual(listed);
    expect(asked()).toEqual([TITLES.downloads, homedir()]);
    expect(await (await ask('/bridge/downloads')).json()).toEqual(listed);
    // Who changes their mind keeps what was.
    choose(undefined);
    expect(await (await post('/bridge/choose', { what: 'downloads' })).json()).toEqual(listed);
    expect(await (await ask('/bridge/downloads', { method: 'DELETE' })).json()).toBe(true);
    expect(await (await ask('/bridge/downloads')).json()).toBeNull();
  });

  it('a file of it is read, whole or in part, and its mark', async () => {
    writeFileSync(at('in', 'a.zip'), 'the bytes');
    const file = (name: string, headers: Record<string, string> = {}) =>
      ask(`/bridge/downloads/file?path=${name}`, { headers });
    expect(await (await file('a.zip')).text()).toBe('the bytes');
    const part = await file('a.zip', { Range: 'bytes=4-6' });
    expect([part.status, await part.text()]).toEqual([206, 'byt']);
    expect(await failureOf(file('b.zip'))).toEqual([404, 'folder-missing-file', { path: 'b.zip' }]);
    expect(await failureOf(ask('/bridge/downloads/file'))).toEqual([404, 'folder-missing-file', { path: '' }]);
    expect(await (await ask('/bridge/downloads/mark?path=a.zip')).json()).toBeNull();
    for (const [method, what] of [
      ['POST', ''],
      ['GET', '/other'],
      ['DELETE', '/file'],
    ] as const)
      expect(await failureOf(ask(`/bridge/downloads${what}`, { method }))).toEqual([
        404,
        'unknown-thing',
        { what: 'such address' },
      ]);
  });
});

describe('a game’s folder that is chosen', () => {
  it('is one of those that the page may use, and can be taken away again', async () => {
    const asked = choose(at('other game'));
    const chosen = (await (await post('/bridge/choose', {})).json()) as { id: string };
    expect(chosen).toMatchObject({ name: 'other game', path: at('other game'), chosen: true });
    expect(asked()).toEqual([TITLES.game, homedir()]);
    const ids = async () => ((await (await ask('/bridge/folders')).json()) as { id: string }[]).map((one) => one.id);
    expect(await ids()).toEqual([id, chosen.id]);
    choose(undefined);
    expect(await (await post('/bridge/choose', {})).json()).toBeNull();
    expect(await (await ask(`/bridge/folders/${chosen.id}`, { method: 'DELETE' })).json()).toBe(true);
    expect(await ids()).toEqual([id]);
    expect(await (await ask(`/bridge/folders/${chosen.id}`, { method: 'DELETE' })).json()).toBe(false);
  });

  it.each([
    [400, 'bad-request', { what: 'all' }],
    [400, 'bad-request', { near: 'x'.repeat(201) }],
  ])('%i %s', async (status, code, body) => {
    expect((await failureOf(post('/bridge/choose', body))).slice(0, 2)).toEqual([status, code]);
  });
});

describe('a download among the packs', () => {
  const zipped = (name: string, ...more: string[]) => {
    mkdirSync(at('in/pack'), { recursive: true });
    writeFileSync(at('in/pack/a.txt'), `the words of ${name}`);
    runTool('zip', ['-q', ...more, at('in', name), 'a.txt'], { cwd: at('in/pack') });
    return readFileSync(at('in', name));
  };

  it('is taken by its name, or by its content, whatever it is called now', async () => {
    const bytes = zipped('a.zip');
    const taken = (await (await post(vault('take'), { name: 'a.zip' })).json()) as { size: number; sha256: string };
    expect(taken).toMatchObject({
      size: bytes.length,
      sha256: runTool('sha256sum', [at('in/a.zip')])
        .toString()
        .slice(0, 64),
    });
    expect(packs()).toEqual(['p1.zip']);
    const { size, sha256 } = taken;
    expect(await (await post(vault('take', 'p2'), { size, sha256 })).json()).toEqual(taken);
    expect(packs().sort()).toEqual(['p1.zip', 'p2.zip']);
    expect(await (await post(vault('take', 'p3'), { size: 1, sha256 })).json()).toBeNull();
    expect(await failureOf(post(vault('take', 'p3'), { name: 'none.zip' }))).toEqual([
      404,
      'folder-missing-file',
      { path: 'none.zip' },
    ]);
  });

  it.skipIf(!has('zip'))('is unpacked, told line by line', async () => {
    const bytes = zipped('locked.zip', '-P', 'sesame');
    const lines = async (body: unknown, pack = 'p1') =>
      (await (await post(vault('unpack', pack), body)).text())
        .trim()
        .split('\n')
        .map(
          (line) =>
            JSON.parse(line) as { unpacked?: { size: number; sha256: string } | null; failure?: { code: string } },
        );
    const last = async (...asked: Parameters<typeof lines>) => (await lines(...asked)).at(-1);
    const whole = { parts: ['locked.zip'], name: 'my locked.zip', password: 'sesame' };
    const { unpacked } = (await last(whole)) ?? {};
    expect(unpacked).toMatchObject({ size: bytes.length, format: 'zip' });
    expect(packs()).toEqual(['p1.zip']);
    expect(runTool('unzip', ['-p', path.join(parts.vault.root, 'packs/p1.zip')]).toString()).toBe(
      'the words of locked.zip',
    );
    expect(await last({ ...whole, password: 'other' }, 'p2')).toMatchObject({ failure: { code: 'wrong-password' } });
    expect(await last({ ...whole, parts: ['none.zip'] }, 'p2')).toMatchObject({
      failure: { code: 'folder-missing-file' },
    });
    // By its content it is found without a password, which is not kept.
    const known = { size: unpacked?.size ?? 0, sha256: unpacked?.sha256 ?? '', name: 'my locked.zip' };
    expect(await last(known, 'p2')).toMatchObject({
      failure: { code: 'encrypted', details: { name: 'my locked.zip' } },
    });
    expect(await last({ ...known, size: 1 }, 'p2')).toEqual({ unpacked: null });
    expect(packs()).toEqual(['p1.zip']);
    expect((await failureOf(post(vault('unpack'), { parts: [], name: 'x' }))).slice(0, 2)).toEqual([
      400,
      'bad-request',
    ]);
  });

  it('only among what the app keeps', async () => {
    for (const verb of ['take', 'unpack', 'pack'])
      expect(await failureOf(post(`/bridge/folder/${id}/game/${verb}?path=p1`, { name: 'a.zip' }))).toEqual([
        404,
        'unknown-thing',
        { what: 'such address' },
      ]);
  });

  it('one that is asked for is opened ahead, on a thread that is made ready', async () => {
    zipped('a.zip');
    await post(vault('take'), { name: 'a.zip' });
    expect(await (await ask(vault('pack', 'p1', '&name=my%20a.zip'))).json()).toMatchObject({ path: 'packs/p1.zip' });
    const ready = threadsHere.find(({ name }) => name === 'thread.ts');
    expect(ready?.told).toContainEqual({
      expect: { archive: path.join(parts.vault.root, 'packs/p1.zip'), name: 'my a.zip' },
    });
  });
});

describe('requests that are none', () => {
  const what = { what: 'folder that this app was started with' };

  it('are refused with what they asked for', async () => {
    expect(await failureOf(ask('/bridge/nothing'))).toEqual([404, 'unknown-thing', { what: 'such address' }]);
    for (const address of [`/bridge/folder/${'0'.repeat(16)}/game/list`, `/bridge/folder/${id}/other/list`])
      expect(await failureOf(ask(address))).toEqual([404, 'unknown-thing', what]);
    expect(await failureOf(ask(`/bridge/folder/${id}/game/format`))).toEqual([
      404,
      'unknown-thing',
      { what: 'such address' },
    ]);
    const bad = ask('/bridge/run', { method: 'POST', body: '{' });
    expect(await failureOf(bad)).toEqual([400, 'bad-request', { why: 'it is not JSON' }]);
    expect(await failureOf(ask('/bridge/run', { method: 'POST' }))).toEqual([
      400,
      'bad-request',
      { why: 'it is not JSON' },
    ]);
    expect(await failureOf(post('/bridge/run', {}))).toEqual([
      400,
      'bad-request',
      { why: 'it is not one that this app makes' },
    ]);
  });

  it('a body without an end is read no further than an order may be long', async () => {
    const piece = new Uint8Array(16 * 1024 ** 2).fill(32);
    let sent = 0;
    const body = new ReadableStream({
      pull: (controller) => {
        sent += piece.length;
        controller.enqueue(piece);
      },
    });
    expect(await failureOf(ask('/bridge/run', { method: 'POST', body, duplex: 'half' } as RequestInit))).toEqual([
      400,
      'bad-request',
      { why: 'it is too long' },
    ]);
    expect(sent).toBeLessThan(400 * 1024 ** 2);
  });

  it('without folders there is no bridge, but for addresses of earlier starts', async () => {
    vi.stubEnv('SATCHEL_FOLDERS', '');
    try {
      expect(await failureOf(ask('/bridge/folders'))).toEqual([404, 'unknown-thing', what]);
      const old = await ask('/bridge/open');
      expect([old.status, old.headers.get('content-type')]).toEqual([410, 'text/html; charset=utf-8']);
      expect((await failureOf(post('/bridge/open', {})))[1]).toBe('unknown-thing');
    } finally {
      vi.unstubAllEnvs();
      process.env.SATCHEL_SECRET = 'key';
    }
  });
});
