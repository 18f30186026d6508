import { readdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import type * as Threads from 'node:worker_threads';
import { buildSync } from 'esbuild';

const ROOT = path.resolve(fileURLToPath(import.meta.url), '../../..');
const BRIDGE = path.join(ROOT, 'src/bridge');

/** Builds the threads of the server, as the app is built. @returns where each lies, by the name of its file */
function buildThreads(): Record<string, string> {
  const names = readdirSync(BRIDGE).filter((name) => /^(\w+T|t)hread\.ts$/.test(name));
  const outdir = path.join(ROOT, '.satchel/threads', String(process.pid));
  buildSync({
    entryPoints: names.map((name) => path.join(BRIDGE, name)),
    outdir,
    bundle: true,
    platform: 'node',
    format: 'esm',
    outExtension: { '.js': '.mjs' },
    packages: 'external',
    alias: { '@': path.join(ROOT, 'src') },
  });
  return Object.fromEntries(names.map((name) => [name, path.join(outdir, name.replace(/ts$/, 'mjs'))]));
}

/** Threads that such a thread begins are built ones, too. */
const BEGIN = `
const threads = require('node:worker_threads');
const { begin, built, name } = threads.workerData;
threads.Worker = class extends threads.Worker {
  constructor(url) { super(begin, { eval: true, workerData: { begin, built, name: new URL(url).pathname.split('/').at(-1) } }); }
};
require('node:module').syncBuiltinESMExports();
import(built[name]);
`;

/**
 * Node's own module with threads that are built first, for `vi.mock`.
 *
 * @param real the module itself, which must not be imported here
 */
export function builtThreads(real: typeof Threads): typeof Threads {
  const built = buildThreads();
  return {
    ...real,
    Worker: class extends real.Worker {
      constructor(url: URL | string) {
        super(BEGIN, { eval: true, workerData: { begin: BEGIN, built, name: path.basename(new URL(url).pathname) } });
      }
    },
  };
}
