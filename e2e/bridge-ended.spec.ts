import { spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdirSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { zipSync } from 'fflate';
import { Started, makeGame, treeOf } from './started';
import { deploy, expect, step, test } from './support';

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
