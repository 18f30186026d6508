import { existsSync, readFileSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import { Started, makeGame, treeOf } from './started';
import { expect, test } from './support';

interface Answer {
  status: number;
  body: string;
}

test('attacks on the bridge: nothing outside the folder is read or written, and the server stays up', async ({
  page,
}) => {
  const { top, game, backup } = makeGame();
  writeFileSync(path.join(top, 'secret.txt'), 'secret');
  symlinkSync(path.join(top, 'secret.txt'), path.join(game, 'link.txt'));
  symlinkSync(top, path.join(game, 'link'));
  const app = await new Started(game, backup, 4664).start();
  try {
    await page.goto(app.door);
    const key = new URLSearchParams(new URL(app.door).hash.slice(1)).get('key') ?? '';
    expect(key.length).toBeGreaterThan(20);
    const good = { Host: new URL(app.door).host, 'X-Satchel-Key': key, Origin: app.origin };
    const ask = (
      address: string,
      method = 'GET',
      headers: Record<string, string> = good,
      send?: (request: http.ClientRequest) => void,
    ): Promise<Answer> =>
      new Promise((done) => {
        const request = http.request(
          { host: '127.0.0.1', port: new URL(app.door).port, path: address, method, headers, setHost: false },
          (response) => {
            let body = '';
            response.on('data', (piece: Buffer) => (body += piece.toString('latin1')));
            response.on('end', () => done({ status: response.statusCode ?? 0, body }));
            response.on('error', () => done({ status: 0, body }));
          },
        );
        request.on('error', () => done({ status: 0, body: '' }));
        if (send) send(request);
        else request.end();
      });
    const put = (address: string, data: string, headers: Record<string, string> = good) =>
      ask(address, 'PUT', { ...headers, 'Content-Length': String(Buffer.byteLength(data)) }, (request) =>
        request.end(data),
      );
    const [{ id }] = JSON.parse((await ask('/bridge/folders')).body) as [{ id: string }];
    const file = (name: string, part = 'game') => `/bridge/folder/${id}/${part}/file?path=${name}`;
    expect(await ask(file('settings.ini'))).toEqual({ status: 200, body: '[Look]\nWide=1\n' });
    const before = treeOf(top);

    // Who asks.
    const { 'X-Satchel-Key': _key, ...noKey } = good;
    const { Origin: _origin, ...noOrigin } = good;
    for (const headers of [
      noKey,
      { ...good, 'X-Satchel-Key': 'wrong' },
      { ...good, 'X-Satchel-Key': 'x'.repeat(key.length) },
      { ...good, 'X-Satchel-Key': '' },
      { ...noKey, Cookie: `satchel-key=${key}` },
    ]) {
      expect((await ask(file('settings.ini'), 'GET', headers)).status).toBe(401);
      expect((await put(file('new.txt'), 'x', headers)).status).toBe(401);
    }
    for (const headers of [
      { ...good, Host: 'evil.example' },
      {
        ...good,
        Host: `evil.example:${new URL(app.door).port}`,
        Origin: `http://evil.example:${new URL(app.door).port}`,
      },
      { ...good, Origin: 'http://evil.example' },
      { ...good, Origin: 'null' },
      { ...good, 'Sec-Fetch-Site': 'cross-site' },
      { ...good, Origin: `http://127.0.0.1:${Number(new URL(app.door).port) + 1}` },
    ]) {
      expect((await ask(file('settings.ini'), 'GET', headers)).status, JSON.stringify(headers)).toBe(403);
      expect((await put(file('new.txt'), 'x', headers)).status).toBe(403);
    }
    expect((await put(file('new.txt'), 'x', noOrigin)).status).toBe(403);
    const old = await ask(`/bridge/open?key=${key}`);
    expect([old.status, old.body.includes('from an earlier start')]).toEqual([410, true]);
    // Every refusal has a code and a sentence.
    for (const [address, method, status, code] of [
      [file('settings.ini'), 'TRACE', 405, 'bad-request'],
      [file('settings.ini'), 'PATCH', 404, 'unknown-thing'],
      [`/bridge/folder/${id}/game/list?path=no/such`, 'GET', 200, ''],
      [`/bridge/folder/${id}/game/list?path=..%2f..`, 'GET', 409, 'folder-refused'],
    ] as const) {
      const answer = await ask(address, method);
      expect(answer.status, `${method} ${address}: ${answer.body}`).toBe(status);
      if (code)
        expect(JSON.parse(answer.body)).toMatchObject({
          failure: { code, says: expect.any(String) as unknown, next: expect.any(String) as unknown },
        });
    }
    expect(
      JSON.parse(
        (await ask('/bridge/run', 'POST', { ...good, 'Content-Length': '1' }, (request) => request.end('{'))).body,
      ),
    ).toMatchObject({ failure: { code: 'bad-request' } });
    expect((await ask('/bridge/folders', 'GET', { ...good, Host: 'evil.example' })).body).not.toContain(game);

    // What is asked for.
    const BAD = [
      '../secret.txt',
      '..%2fsecret.txt',
      '%2e%2e/secret.txt',
      '%252e%252e%252fsecret.txt',
      '..%5csecret.txt',
      'data/../../secret.txt',
      '/etc/passwd',
      '%2Fetc%2Fpasswd',
      'C:%5cWindows%5cwin.ini',
      'link.txt',
      'link/secret.txt',
      'a%00b',
      'con',
      'data/nul.txt',
      'x.',
      'data//two',
      '.',
      '',
      'a:b',
      '%u002e%u002e/secret.txt',
      '%c0%ae%c0%ae/secret.txt',
    ];
    for (const bad of BAD) {
      const read = await ask(file(bad));
      expect(read.body, bad).not.toContain('secret\n');
      expect([404, 409], `${bad}: ${read.body}`).toContain(read.status);
      if (bad.includes('%252e') || bad.includes('%u') || bad.includes('%c0')) continue;
      expect((await put(file(bad), 'attack')).status, bad).toBe(409);
      expect([409], bad).toContain((await ask(file(bad), 'DELETE')).status);
    }
    for (const address of [
      `/bridge/folder/${'0'.repeat(16)}/game/file?path=settings.ini`,
      `/bridge/folder/${id}/elsewhere/file?path=x`,
      `/bridge/folder/${id}/game/pack?path=x`,
      `/bridge/folder/${id}/vault/pack?path=..%2fx`,
      `/bridge/folder/${id}/game/../../../etc/passwd`,
      '/bridge/nothing',
      `/bridge/folder/..%2f..%2fetc/game/file?path=passwd`,
    ])
      expect((await ask(address)).status, address).toBeGreaterThanOrEqual(400);
    for (const body of [
      '{',
      '[]',
      '{"run":"a"}',
      JSON.stringify({ main: '../..', roots: {}, packs: [], run: 'x', work: { do: 'recover' } }),
      JSON.stringify({
        main: id,
        roots: { game: { folder: id, inside: '../..' } },
        packs: [{ id: '../../secret', name: 'x' }],
        run: 'x',
        work: { do: 'recover' },
      }),
    ])
      expect(
        (
          await ask('/bridge/run', 'POST', { ...good, 'Content-Length': String(body.length) }, (request) =>
            request.end(body),
          )
        ).status,
        body,
      ).toBeGreaterThanOrEqual(400);
    // A run over a root that leads out of the folder writes nothing.
    const order = {
      main: id,
      roots: { game: { folder: id, inside: '..', hidden: [] } },
      packs: [],
      run: 'x',
      work: {
        do: 'deploy',
        title: 't',
        layers: [],
        plan: {
          forget: [],
          steps: [
            { action: 'remove', target: 'game/secret.txt', reason: '', layer: '', size: 0, after: { kind: 'absent' } },
          ],
        },
      },
    };
    const ran = await ask(
      '/bridge/run',
      'POST',
      { ...good, 'Content-Length': String(JSON.stringify(order).length) },
      (request) => request.end(JSON.stringify(order)),
    );
    expect(ran.body).toContain('"failure"');

    // Bodies without an end, without a size, and of another size than was said.
    expect(
      (
        await ask(file('endless.bin'), 'PUT', { ...good, 'Transfer-Encoding': 'chunked' }, (request) => {
          let sent = 0;
          const more = () => {
            while (sent < 64 * 1024 * 1024 && !request.destroyed) {
              sent += 65_536;
              if (!request.write(Buffer.alloc(65_536))) return void request.once('drain', more);
            }
            request.end();
          };
          more();
        })
      ).status,
    ).not.toBe(200);
    expect(
      (
        await ask(file('huge.bin'), 'PUT', { ...good, 'Content-Length': String(2 ** 50) }, (request) =>
          request.write('x'),
        )
      ).status,
    ).toBe(409);
    await ask(file('short.bin'), 'PUT', { ...good, 'Content-Length': '100' }, (request) => {
      request.write('x');
      setTimeout(() => request.destroy(), 300);
    });

    // A thousand at once, half of them writes.
    const answers = await Promise.all(
      Array.from({ length: 1000 }, (_, i) =>
        i % 2 ? put(file(`storm/${i}.txt`), `storm ${i}`) : ask(file('settings.ini')),
      ),
    );
    expect(answers.every(({ status }) => status === 200)).toBe(true);
    expect(readdirSync(path.join(game, 'storm'))).toHaveLength(500);
    for (let i = 1; i < 1000; i += 2)
      expect(readFileSync(path.join(game, 'storm', `${i}.txt`), 'utf8')).toBe(`storm ${i}`);
    expect((await ask('/bridge/folders')).status).toBe(200);
    rmSync(path.join(game, 'storm'), { recursive: true });
    // What decodes to a plain, odd name is a file of that name, and nothing more.
    for (const name of readdirSync(game))
      if (!(`my game/${name}` in before) && !(`my game/${name}/` in before)) throw new Error(`left behind: ${name}`);
    expect(treeOf(top)).toEqual(before);
    expect(existsSync(path.join(game, 'endless.bin'))).toBe(false);
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});
