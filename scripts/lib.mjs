// What every script shares. Plain Node, no packages: it has to run before anything is installed.
import { spawn, spawnSync } from 'node:child_process';
import { createHash, randomBytes } from 'node:crypto';
import {
  existsSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  readlinkSync,
  realpathSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import net from 'node:net';
import { homedir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const WINDOWS = process.platform === 'win32';
process.env.NEXT_TELEMETRY_DISABLED = '1';

/** Runs a command to its end; ends this process where it fails. */
export function run(command, values = [], options = {}) {
  const { status, error } = spawnSync(command, values, {
    cwd: ROOT,
    stdio: 'inherit',
    shell: WINDOWS && command === 'npm',
    ...options,
  });
  if (error) console.error(`${command}: ${error.message}`);
  if (status !== 0) process.exit(status ?? 1);
}

/** A package's own command, started with this Node. */
export const bin = (name, file) => path.join(ROOT, 'node_modules', name, file);
export const NEXT = bin('next', 'dist/bin/next');
/** What is held without running anything of the app: name, package, file of the package, what it is called with. */
export const CHECKS = [
  ['types', 'typescript', 'bin/tsc', '-p', '.'],
  ['form', 'prettier', 'bin/prettier.cjs', '--check', '--log-level=warn', '.'],
  ['lint', 'eslint', 'bin/eslint.js', '.'],
  ['floors', 'dependency-cruiser', 'bin/dependency-cruise.mjs', 'src', '--config', '.dependency-cruiser.mjs'],
  ['unused', 'knip', 'bin/knip.js', '--no-config-hints'],
];

export const TSX = bin('tsx', 'dist/cli.mjs');

const hashFiles = (paths) => {
  const hash = createHash('sha256');
  const add = (file) => {
    if (!existsSync(file)) return;
    if (statSync(file).isDirectory()) for (const name of readdirSync(file).sort()) add(path.join(file, name));
    else if (!/\.test\.tsx?$/.test(file)) hash.update(path.relative(ROOT, file)).update(readFileSync(file));
  };
  for (const one of paths) add(path.join(ROOT, one));
  return hash.digest('hex');
};

const stampFile = (name) => path.join(ROOT, '.satchel', `${name}.stamp`);
/** What is made of `paths`, and a file that is there when it is. */
const DEMO = ['demo', ['src/demo', 'src/core/games/card.ts', 'scripts/make-demo.ts'], '.satchel/demo/mistakes.json'];
const APP = [
  'build',
  ['src', 'package-lock.json', 'next.config.ts', 'tsconfig.json', 'scripts/basisAsModule.mjs'],
  '.next/BUILD_ID',
];
const PACKAGES = ['install', ['package-lock.json'], 'node_modules/next/package.json'];

/** Is it there, made of what stands there now? If not, what comes is to be called when it is. */
function toMake([name, paths, proof]) {
  const stamp = hashFiles(paths);
  const there = existsSync(path.join(ROOT, proof)) && existsSync(stampFile(name));
  if (there && readFileSync(stampFile(name), 'utf8') === stamp) return undefined;
  return () => {
    mkdirSync(path.dirname(stampFile(name)), { recursive: true });
    writeFileSync(stampFile(name), stamp);
  };
}

/** Installs the packages of the lock file where they are missing or old. */
export function install() {
  const [major] = process.versions.node.split('.').map(Number);
  if (major < 20) {
    console.error(`Tidy Satchel needs Node.js 20 or newer; this is ${process.version}.`);
    process.exit(1);
  }
  const made = toMake(PACKAGES);
  if (!made) return;
  console.log('Installing packages…');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  made();
}

/** Draws the demo's files and builds the app, side by side; what is there already is not made again. */
export async function prepare(parts = [DEMO, APP]) {
  const work = parts.flatMap((part) => {
    const made = toMake(part);
    if (!made) return [];
    const values = part === DEMO ? [TSX, 'scripts/make-demo.ts'] : [NEXT, 'build'];
    console.log(part === DEMO ? 'Drawing the demo’s files…' : 'Building the app…');
    const env = { ...process.env, SATCHEL_BUILD: hashFiles(part[1]) };
    const child = spawn(process.execPath, values, { cwd: ROOT, stdio: 'inherit', env });
    return new Promise((done) =>
      child.once('exit', (code) => {
        if (code === 0) made();
        done(code ?? 1);
      }),
    );
  });
  const failed = (await Promise.all(work)).find((code) => code !== 0);
  if (failed !== undefined) process.exit(failed);
}

/** The demo's files alone, for work on the app. */
export const makeDemo = () => prepare([DEMO]);

/** Where a path really leads, whatever of it is there already. */
export function realPath(of) {
  const full = path.resolve(of);
  if (existsSync(full)) return realpathSync(full);
  const above = path.dirname(full);
  // A link that leads nowhere yet is made there, where it leads.
  const link = lstatSync(full, { throwIfNoEntry: false })?.isSymbolicLink() ? readlinkSync(full) : undefined;
  if (link !== undefined) return realPath(path.resolve(above, link));
  return above === full ? full : path.join(realPath(above), path.basename(full));
}

/** Is a folder another one, or inside it? Both as `realPath` gives them. */
export const isWithin = (inner, outer) =>
  !path.relative(outer, inner).startsWith('..') && !path.isAbsolute(path.relative(outer, inner));

/** The first free port from `wanted` on. */
export async function freePort(wanted) {
  for (let port = wanted; port < wanted + 50; port++) {
    const free = await new Promise((done) => {
      const server = net.createServer();
      server.once('error', () => done(false));
      server.listen(port, '127.0.0.1', () => server.close(() => done(true)));
    });
    if (free) return port;
  }
  throw new Error(`no free port from ${wanted} on`);
}

/** Starts the built app on 127.0.0.1 and waits until it answers. */
export async function serve({ demo, port, folders = [], backup = realPath(path.join(homedir(), 'Tidy Satchel')) }) {
  // New with each start: what a browser kept from an earlier one opens nothing.
  const secret = randomBytes(24).toString('base64url');
  const given = {
    SATCHEL_SECRET: secret,
    SATCHEL_FOLDERS: JSON.stringify({ folders: folders.map((one) => path.resolve(one)), backup }),
  };
  const child = spawn(process.execPath, [path.join(ROOT, 'scripts/server.mjs'), String(port)], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
    // Each thread would keep memory of its own for what it gave back, and large pieces would stay between others
    // (glibc).
    env: {
      NODE_ENV: 'production',
      MALLOC_ARENA_MAX: '2',
      MALLOC_MMAP_THRESHOLD_: '131072',
      ...process.env,
      ...given,
      SATCHEL_DEMO: demo ? '1' : '0',
    },
  });
  const stop = () => child.kill();
  process.once('SIGINT', () => process.exit(0));
  process.once('SIGTERM', () => process.exit(0));
  process.once('exit', stop);
  const url = `http://127.0.0.1:${port}/`;
  for (let i = 0; i < 300; i++) {
    if (child.exitCode !== null) throw new Error('the server ended at once');
    try {
      if ((await fetch(url)).ok) return { url, door: `${url}?door#key=${secret}`, stop, child };
    } catch {
      // Not listening yet.
    }
    await new Promise((done) => setTimeout(done, 100));
  }
  throw new Error('the server did not answer within 30 seconds');
}

const onPath = (program) => spawnSync(WINDOWS ? 'where' : 'which', [program], { stdio: 'ignore' }).status === 0;

/** Debian's packages that tests compare with, by the program each brings. */
const DEBIAN = {
  chromium: 'chromium',
  zip: 'zip',
  unzip: 'unzip',
  bsdtar: 'libarchive-tools',
  '7z': 'p7zip-full',
  python3: 'python3',
  patch: 'patch',
  diff3: 'diffutils',
  git: 'git',
  'dbus-daemon': 'dbus',
};

/** Installs what tests need by apt-get, where it is missing and this user may. */
export function installTestPrograms() {
  const missing = Object.entries(DEBIAN)
    .filter(([program]) => !onPath(program))
    .map(([, name]) => name);
  if (missing.length === 0) return;
  if (process.platform !== 'linux' || process.getuid?.() !== 0 || !onPath('apt-get')) {
    console.warn(
      `Not here, and not mine to install: ${missing.join(', ')}. The tests that need them say that they are skipped.`,
    );
    return;
  }
  console.log(`Installing ${missing.join(', ')}…`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  spawnSync('apt-get', ['update', '-qq'], { stdio: 'inherit', env });
  spawnSync('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env,
  });
}

/** The browser to test with: CHROMIUM in the environment, else the usual places. */
export function findChromium() {
  const places = [
    process.env.CHROMIUM,
    '/usr/bin/chromium',
    '/usr/bin/chromium-browser',
    '/usr/bin/google-chrome',
    '/Applications/Chromium.app/Contents/MacOS/Chromium',
    '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome',
    'C:/Program Files/Google/Chrome/Application/chrome.exe',
  ];
  const found = places.find((place) => place && existsSync(place));
  if (!found) {
    console.error('No Chromium was found. Install it (Debian: apt-get install chromium) or set CHROMIUM to its path.');
    process.exit(1);
  }
  return found;
}
