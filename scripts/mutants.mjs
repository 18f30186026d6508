// Tries small mutations of files or folders against the unit tests beside them: npm run mutants -- src/core/deploy
// src/bridge/gate.ts
import { statSync } from 'node:fs';
import path from 'node:path';
import { ROOT, bin, install, installTestPrograms, run } from './lib.mjs';

const wanted = process.argv.slice(2);
if (wanted.length === 0) {
  console.error('Say which files or folders: npm run mutants -- src/core/deploy');
  process.exit(1);
}
install();
installTestPrograms();
const isFolder = (of) => statSync(path.join(ROOT, of), { throwIfNoEntry: false })?.isDirectory() === true;
const patterns = [...wanted.map((of) => (isFolder(of) ? `${of.replace(/\/$/, '')}/**/*.ts` : of)), '!src/**/*.test.ts'];
const near = [...new Set(wanted.map((of) => (isFolder(of) ? of.replace(/\/$/, '') : path.posix.dirname(of))))];
run(process.execPath, [bin('@stryker-mutator/core', 'bin/stryker.js'), 'run', '--mutate', patterns.join(',')], {
  env: { ...process.env, MUTANTS_NEAR: near.join(',') },
});
