// Types, lint and unit tests: what to run before a commit.
import { bin, install, installTestPrograms, run } from './lib.mjs';

install();
installTestPrograms();
run(process.execPath, [bin('typescript', 'bin/tsc'), '-p', '.']);
run(process.execPath, [bin('eslint', 'bin/eslint.js'), '.']);
run(process.execPath, [bin('vitest', 'vitest.mjs'), 'run', ...process.argv.slice(2)]);
