// Tries small mutations of files or folders against the unit tests beside them: npm run mutants -- src/core/deploy
// src/bridge/gate.ts. With --one-in 8, of an eighth of their lines: always the same ones, in runs of a few lines.
import { createHash } from 'node:crypto';
import { readFileSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { ROOT, bin, install, installTestPrograms, run } from './lib.mjs';

const values = process.argv.slice(2);
const oneIn = values[0] === '--one-in' ? Number(values.splice(0, 2)[1]) : 1;
const wanted = values;
if (wanted.length === 0) {
  console.error('Say which files or folders: npm run mutants -- src/core/deploy');
  process.exit(1);
}
install();
installTestPrograms();
const isFolder = (of) => statSync(path.join(ROOT, of), { throwIfNoEntry: false })?.isDirectory() === true;

/** Lines that are chosen together: what is mutated can stand over several. */
const TOGETHER = 6;
const isChosen = (id) => Number.parseInt(createHash('sha256').update(id).digest('hex').slice(0, 8), 16) % oneIn === 0;

/** Some lines of a file, as the tool takes them: `file.ts:1-6`. */
function someLines(file) {
  const lines = readFileSync(path.join(ROOT, file), 'utf8').split('\n').length;
  return Array.from({ length: Math.ceil(lines / TOGETHER) }, (_, i) => i * TOGETHER + 1)
    .filter((from) => isChosen(`${file}:${from}`))
    .map((from) => `${file}:${from}-${from + TOGETHER - 1}`);
}

const filesOf = (of) =>
  isFolder(of)
    ? readdirSync(path.join(ROOT, of), { recursive: true })
        .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
        .map((file) => path.posix.join(of, file))
    : [of];
const patterns = wanted.flatMap(filesOf).flatMap((file) => (oneIn > 1 ? someLines(file) : [file]));
const near = [...new Set(wanted.map((of) => (isFolder(of) ? of.replace(/\/$/, '') : path.posix.dirname(of))))];
run(process.execPath, [bin('@stryker-mutator/core', 'bin/stryker.js'), 'run', '--mutate', patterns.join(',')], {
  env: { ...process.env, MUTANTS_NEAR: near.join(',') },
});
