import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import { buildSync } from 'esbuild';
import { zipSync } from 'fflate';
import { reach } from './reach';
import { Started, makeGame, treeOf } from './started';
import { deploy, expect, step, test, watchTasks } from './support';

const text = (value: string): Uint8Array => new TextEncoder().encode(value);

const script = buildSync({
  stdin: {
    contents: `import { FOLDER_CONTRACT } from './src/folders/contract';
      import { setBridgeKey } from './src/folders/bridge';
      import { BridgeFolder } from './src/folders/bridgeFolder';
      import { SubFolder } from './src/folders/sub';
      setBridgeKey(localStorage.getItem('satchel-key'));
      globalThis.folderTests = { FOLDER_CONTRACT, BridgeFolder, SubFolder };`,
    resolveDir: path.resolve('.'),
    loader: 'ts',
  },
  alias: { '@': path.resolve('src'), module: path.resolve('src/noModule.ts') },
  bundle: true,
  write: false,
  format: 'iife',
}).outputFiles[0]?.text as string;

interface Tests {
  FOLDER_CONTRACT: { name: string; run(folder: unknown): Promise<void> }[];
  BridgeFolder: new (id: string, part: string) => unknown;
  SubFolder: new (outer: unknown, path: string) => unknown;
}

test('the bridge folder keeps the contract: a real folder, through the app’s own server', async ({ page }) => {
  const { top, game, backup } = makeGame();
  const app = await new Started(game, backup, 4661).start();
  try {
    await page.goto(app.door);
    await expect(page.getByLabel('What do you call this game?')).toBeVisible();
    // The key is out of the address at once, and in no cookie: those go to every port of this computer.
    expect(page.url()).not.toContain('key');
    expect(await page.context().cookies()).toEqual([]);
    await page.goto(`${app.origin}/game-card.schema.json`);
    await page.evaluate(script);
    const results = await page.evaluate(async () => {
      const { FOLDER_CONTRACT, BridgeFolder, SubFolder } = (globalThis as unknown as { folderTests: Tests })
        .folderTests;
      const [{ id }] = (await (
        await fetch('/bridge/folders', { headers: { 'x-satchel-key': localStorage.getItem('satchel-key') ?? '' } })
      ).json()) as [{ id: string }];
      const found: [string, string][] = [];
      for (const part of ['game', 'vault'])
        for (const [i, { name, run }] of FOLDER_CONTRACT.entries())
          found.push([
            `${part}: ${name}`,
            await run(new SubFolder(new BridgeFolder(id, part), `case ${i}`)).then(
              () => 'kept',
              (error: unknown) => String(error),
            ),
          ]);
      return found;
    });
    expect(results.length).toBeGreaterThan(20);
    for (const [name, outcome] of results) expect(outcome, name).toBe('kept');
    expect(readFileSync(path.join(game, 'case 0', 'deep', 'er', 'bytes.bin')).length).toBe(70_000);
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('a game in a folder that only the server can open: deployed, a read-only file left out, and put back from a fresh browser', async ({
  page,
  browser,
}) => {
  const { top, game, backup } = makeGame();
  const before = treeOf(game);
  const app = await new Started(game, backup, 4662).start();
  try {
    await page.goto(app.door);
    await page.getByLabel('What do you call this game?').fill('My own game');
    await page.getByRole('button', { name: `Use ${game}` }).click();
    await page.getByRole('button', { name: 'Looks right' }).click();
    const pack = Buffer.from(
      zipSync({
        'Maps/maps/one.map': text('better one'),
        'Maps/maps/two.map': text('better two'),
        'Maps/maps/far/three.map': text('new three'),
      }),
    );
    await page
      .getByLabel('Choose downloads')
      .setInputFiles({ name: 'maps.zip', mimeType: 'application/zip', buffer: pack });
    await expect(page.getByRole('heading', { name: 'Maps', level: 1 })).toBeVisible();
    chmodSync(path.join(game, 'data', 'maps', 'two.map'), 0o444);
    await step(page, 'Deploy').click();
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByRole('dialog')).toContainText('it is read-only');
    await reach(page, 'a file that cannot be written');
    await page.getByRole('button', { name: 'Leave this file as it was' }).click();
    await expect(page.getByText('2 of 3 landed')).toBeVisible();
    await expect(
      page.getByText('1 file was left as it was, since it could not be written: Game folder/data/maps/two.map'),
    ).toBeVisible();
    expect(treeOf(game)).toEqual({
      ...before,
      'data/maps/one.map': 'better one',
      'data/maps/far/': 'folder',
      'data/maps/far/three.map': 'new three',
    });
    chmodSync(path.join(game, 'data', 'maps', 'two.map'), 0o644);
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByText('1 of 1 landed')).toBeVisible();
    expect(readFileSync(path.join(game, 'data', 'maps', 'two.map'), 'utf8')).toBe('better two');

    // The plain copies come when nobody waits for them; then a program that knows nothing of this app checks them.
    await step(page, 'Ledger').click();
    await expect(page.getByText('Every original has its plain copy, up to deployment 2.')).toBeVisible();
    const copies = path.join(backup, readdirSync(backup)[0] as string);
    const check = spawnSync('sha256sum', ['-c', '--strict', 'manifest-sha256.txt'], { cwd: copies, encoding: 'utf8' });
    expect(check.stdout.trim().split('\n').sort()).toEqual([
      'data/game/data/maps/one.map: OK',
      'data/game/data/maps/two.map: OK',
    ]);

    // Another browser, which knows nothing of the game: what was deployed lies beside the originals on the disk.
    const fresh = await (await browser.newContext()).newPage();
    await fresh.goto(app.door);
    await fresh.getByLabel('What do you call this game?').fill('The same game');
    await fresh.getByRole('button', { name: `Use ${game}` }).click();
    await fresh.getByRole('button', { name: 'Looks right' }).click();
    await fresh.waitForURL('**/game/bring-in');
    await step(fresh, 'Ledger').click();
    await expect(fresh.getByText('The originals are kept on your disk')).toBeVisible();
    await fresh.getByRole('button', { name: 'Put everything back…' }).click();
    await fresh.getByRole('button', { name: 'Put everything back now' }).click();
    await expect(fresh.getByRole('list', { name: 'Deployments, latest first' }).getByRole('listitem')).toHaveCount(3);
    expect(treeOf(game)).toEqual(before);
    await fresh.context().close();

    // Started with another backup folder, the app would not know what it had done: it asks for the right one.
    await app.kill();
    const other = await new Started(game, path.join(top, 'elsewhere'), 4662).start();
    await page.goto(other.door);
    await expect(page.getByRole('heading', { name: 'The folder of My own game is not open to the app' })).toBeVisible();
    await expect(page.getByText(`npm start -- --folder "${game}" --backup "${backup}"`)).toBeVisible();
    await other.kill();
    const { status, stderr } = spawnSync(
      process.execPath,
      ['scripts/start.mjs', '--folder', game, '--backup', path.join(game, 'originals')],
      { encoding: 'utf8' },
    );
    expect([status, stderr]).toEqual([1, expect.stringContaining('inside the game')]);
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('the server is ended in the middle of a deployment: the next start puts everything back', async ({ page }) => {
  const { top, game, backup } = makeGame();
  const names = Array.from({ length: 2500 }, (_, i) => `maps/part ${i % 20}/piece ${i}.map`);
  for (const name of names.slice(0, 900)) {
    mkdirSync(path.dirname(path.join(game, 'data', name)), { recursive: true });
    writeFileSync(path.join(game, 'data', name), `own ${name}`);
  }
  const before = treeOf(game);
  const noise = randomBytes(60_000);
  const pack = Buffer.from(
    zipSync(
      Object.fromEntries(names.map((name, i) => [`Big/${name}`, noise.subarray(i % 30_000, (i % 30_000) + 20_000)])),
      { level: 0 },
    ),
  );
  let app = await new Started(game, backup, 4663).start();
  try {
    await page.goto(app.door);
    await page.getByLabel('What do you call this game?').fill('My own game');
    await page.getByRole('button', { name: `Use ${game}` }).click();
    await page.getByRole('button', { name: 'Looks right' }).click();
    const sent: string[] = [];
    page.on(
      'request',
      (request) =>
        void (request.method() === 'PUT' && request.url().includes('/vault/pack?') && sent.push(request.url())),
    );
    await page
      .getByLabel('Choose downloads')
      .setInputFiles({ name: 'big.zip', mimeType: 'application/zip', buffer: pack });
    await expect(page.getByRole('heading', { name: 'Big', level: 1 })).toBeVisible();
    // It goes over while the player looks at it, and not again.
    await expect.poll(() => sent.length).toBe(1);
    await step(page, 'Deploy').click();
    await expect(page.getByRole('heading', { name: 'This is what will happen' })).toBeVisible();
    await page.getByRole('button', { name: 'Deploy', exact: true }).click();
    // Ended when some of the files have landed and others not.
    // While one is exchanged for the other, for a moment neither has the name.
    const sizeNow = () => statSync(path.join(game, 'data', names[800] as string), { throwIfNoEntry: false })?.size;
    await expect
      .poll(() => (sizeNow() === 20_000 ? 'writing' : 'not yet'), { intervals: [5], timeout: 240_000 })
      .toBe('writing');
    await app.kill();
    const halfway = treeOf(game);
    const landed = names.filter((name) => halfway[`data/${name}`]?.length === 20_000).length;
    console.log(`ended with ${landed} of ${names.length} files written`);
    expect(landed).toBeLessThan(names.length);

    await expect(page.getByText('could not be put back at once')).toBeVisible();
    app = await new Started(game, backup, 4663).start();
    await page.goto(app.door);
    await expect(page.getByText('“Deploy” was cut off half-way; everything was put back as it was.')).toBeVisible({
      timeout: 240_000,
    });
    expect(treeOf(game)).toEqual(before);
    await deploy(page, '2,500 of 2,500 landed');
    expect(sent).toHaveLength(1);
    expect(
      readFileSync(path.join(game, 'data', names[800] as string)).equals(Buffer.from(noise.subarray(800, 20_800))),
    ).toBe(true);
    await step(page, 'Ledger').click();
    await expect(page.getByText('Every original has its plain copy')).toBeVisible();
    // What two threads hashed, checked by a program that knows nothing of this app.
    const check = spawnSync('sha256sum', ['-c', '--strict', '--quiet', 'manifest-sha256.txt'], {
      cwd: path.join(backup, readdirSync(backup)[0] as string),
      encoding: 'utf8',
    });
    expect([check.status, check.stdout]).toEqual([0, '']);
  } finally {
    await app.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

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

test('a settings file that another program has made read-only: said before, asked about while deploying, and the edit stays waiting', async ({
  page,
}) => {
  const { top, game, backup } = makeGame();
  const started = await new Started(game, backup, 4665).start();
  try {
    chmodSync(path.join(game, 'settings.ini'), 0o444);
    await page.goto(started.door);
    await page.getByLabel('What do you call this game?').fill('Locked');
    await page.getByRole('button', { name: `Use ${game}` }).click();
    await page.getByRole('button', { name: 'Looks right' }).click();
    await page.waitForURL('**/game/bring-in');
    await step(page, 'Settings').click();
    await expect(page.getByText('A settings file is read-only')).toBeVisible();
    await page.getByRole('button', { name: 'Change Look › Wide' }).click();
    await page.getByLabel('Value of Look › Wide').fill('2');
    await page.getByRole('button', { name: 'Set it' }).click();
    await step(page, 'Deploy').click();
    await page.getByRole('main').getByRole('button', { name: 'Deploy', exact: true }).click();
    await expect(page.getByRole('dialog')).toContainText('it is read-only');
    chmodSync(path.join(game, 'settings.ini'), 0o644);
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect(page.getByText('1 of 1 landed')).toBeVisible();
    expect(readFileSync(path.join(game, 'settings.ini'), 'utf8')).toBe('[Look]\nWide=2\n');
    await step(page, 'Settings').click();
    await expect(page.getByText('A settings file is read-only')).toHaveCount(0);
  } finally {
    await started.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});

test('a settings file of 500,000 lines is opened, searched and edited by key', async ({ page }) => {
  const { top, game, backup } = makeGame();
  let whole = '';
  for (let i = 0; i < 500_000; i++)
    whole += i % 50 === 0 ? `[section ${i / 50}]\r\n` : `some_long_key_${i}=the value of ${i}\r\n`;
  writeFileSync(path.join(game, 'settings.ini'), whole);
  const started = await new Started(game, backup, 4666).start();
  try {
    await page.goto(started.door);
    await page.getByLabel('What do you call this game?').fill('Long');
    await page.getByRole('button', { name: `Use ${game}` }).click();
    await page.getByRole('button', { name: 'Looks right' }).click({ timeout: 240_000 });
    await page.waitForURL('**/game/bring-in');
    const tasks = await watchTasks(page);
    await step(page, 'Settings').click();
    await expect(page.getByText('490,000 keys')).toBeVisible();
    await page.getByRole('searchbox', { name: 'Find a key' }).fill('key_499999');
    const row = page.getByRole('table', { name: 'Keys' }).getByRole('row').filter({ hasText: 'some_long_key_499999' });
    await expect(row).toBeVisible();
    await page.getByRole('button', { name: 'Change section 9999 › some_long_key_499999' }).click();
    await page.getByLabel('Value of section 9999 › some_long_key_499999').fill('mine');
    await page.getByRole('button', { name: 'Set it' }).click();
    await expect(row).toContainText('mine for you');
    console.log(`500,000 lines opened, searched and edited: ${await tasks()}`);
    await page.getByRole('button', { name: 'As text', exact: true }).click();
    await expect(page.getByText('too long to be edited as text')).toBeVisible();
    await deploy(page, '1 of 1 landed');
    expect(readFileSync(path.join(game, 'settings.ini'), 'utf8')).toBe(
      whole.replace('some_long_key_499999=the value of 499999', 'some_long_key_499999=mine'),
    );
  } finally {
    await started.kill(page);
    rmSync(top, { recursive: true, force: true });
  }
});
