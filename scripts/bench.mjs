// Speed against named tools. Sets up what it needs; prints one line a measurement; ends with 1 where one is over its
// limit.
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { findChromium, freePort, install, installTestPrograms, prepare, run, serve } from './lib.mjs';

install();
installTestPrograms();
await prepare();
// Folders for deployments over the bridge: two for large packs, and one a round.
const top = mkdtempSync(path.join(tmpdir(), 'satchel-bench-games-'));
const games = ['large', 'many', 'files', 'huge', 'packs', 'one', 'two', 'three'].map((name) => path.join(top, name));
for (const game of games) mkdirSync(game);
const { url, door } = await serve({
  demo: true,
  port: await freePort(4660),
  folders: games,
  backup: path.join(top, 'backup'),
});
// The demo goes on to its game by itself; the first page is the one of an app without games.
const first = await serve({ demo: false, port: await freePort(4661), backup: path.join(top, 'none') });
process.once('exit', () => rmSync(top, { recursive: true, force: true }));
// As one file, as the app is built: a loader that names every function anew at each call would be measured, too.
const { buildSync } = await import('esbuild');
buildSync({
  entryPoints: ['bench/bench.ts'],
  outfile: '.satchel/bench.mjs',
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  logLevel: 'error',
});
run(process.execPath, ['.satchel/bench.mjs'], {
  env: {
    ...process.env,
    SATCHEL_URL: url,
    SATCHEL_FIRST: first.url,
    SATCHEL_DOOR: door,
    SATCHEL_BACKUP: path.join(top, 'backup'),
    SATCHEL_GAMES: games.join('\n'),
    CHROMIUM: findChromium(),
  },
});
process.exit(0);
