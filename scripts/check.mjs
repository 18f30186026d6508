// Types, form, lint, floors, what nobody uses, and unit tests: what to run before a commit.
import { CHECKS, bin, install, installTestPrograms, run } from './lib.mjs';

install();
installTestPrograms();
for (const [, of, file, ...values] of CHECKS) run(process.execPath, [bin(of, file), ...values]);
run(process.execPath, [bin('vitest', 'vitest.mjs'), 'run', ...process.argv.slice(2)]);
