// Everything: set-up, types, lint, unit tests, build, browser tests. The last line counts them.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { CHECKS, ROOT, bin, findChromium, install, installTestPrograms, prepare } from './lib.mjs';

const RESULTS = path.join(ROOT, '.satchel/results');
const total = { passed: 0, failed: 0, skipped: 0 };

/** Runs one part; `count` reads its own report, else the part counts as one. */
function part(name, [command, ...values], { count, env = {} } = {}) {
  console.log(`\n── ${name}`);
  const { status } = spawnSync(command, values, { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } });
  const counted = count?.();
  if (counted) for (const key of Object.keys(total)) total[key] += counted[key];
  else total[status === 0 ? 'passed' : 'failed']++;
  // A part that broke without a failed test of its own is a failure all the same.
  if (counted && status !== 0 && counted.failed === 0) total.failed++;
}

const report = (file) => {
  const full = path.join(RESULTS, file);
  return existsSync(full) ? JSON.parse(readFileSync(full, 'utf8')) : undefined;
};

install();
installTestPrograms();
rmSync(RESULTS, { recursive: true, force: true });
mkdirSync(RESULTS, { recursive: true });

for (const [name, of, file, ...values] of CHECKS) part(name, [process.execPath, bin(of, file), ...values]);
part(
  'unit tests',
  [
    process.execPath,
    bin('vitest', 'vitest.mjs'),
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${path.join(RESULTS, 'unit.json')}`,
  ],
  {
    count() {
      const found = report('unit.json');
      return found && { passed: found.numPassedTests, failed: found.numFailedTests, skipped: found.numPendingTests };
    },
  },
);
await prepare();
part('browser tests', [process.execPath, bin('@playwright/test', 'cli.js'), 'test', '--reporter=list,json'], {
  count() {
    const stats = report('browser.json')?.stats;
    return stats && { passed: stats.expected + stats.flaky, failed: stats.unexpected, skipped: stats.skipped };
  },
  env: { CHROMIUM: findChromium(), PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(RESULTS, 'browser.json') },
});

console.log(`\n${total.passed} passed, ${total.failed} failed${total.skipped > 0 ? `, ${total.skipped} skipped` : ''}`);
process.exit(total.failed > 0 ? 1 : 0);
