// Everything: set-up, types, lint, unit tests, build, browser tests. The last line counts them.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { CHECKS, ROOT, bin, findChromium, install, installTestPrograms, prepare } from './lib.mjs';

const RESULTS = path.join(ROOT, '.satchel/results');
const total = { passed: 0, failed: 0, skipped: 0 };
/** What failed, by name, with the first line of why: said once more at the end, where it is looked for. */
const failures = [];

/** Runs one part; `count` reads its own report, else the part counts as one. */
function part(name, [command, ...values], { count, env = {} } = {}) {
  console.log(`\n── ${name}`);
  const { status } = spawnSync(command, values, { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } });
  counted(name, status, count);
}

/** Runs the checks side by side, as many as there are cores; what each says comes in one piece. */
async function checks() {
  const waiting = CHECKS.map(([name, of, file, ...values]) => ({ name, values: [bin(of, file), ...values] }));
  const one = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const { name, values } = next;
      const child = spawn(process.execPath, values, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] });
      const said = [];
      for (const stream of [child.stdout, child.stderr]) stream.on('data', (data) => said.push(data));
      const [status] = await once(child, 'close');
      console.log(`\n── ${name}\n${Buffer.concat(said)}`);
      counted(name, status);
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, one));
}

/** Adds up what came of a part. */
function counted(name, status, count) {
  const { names = [], ...found } = count?.() ?? { passed: status === 0 ? 1 : 0, failed: 0, skipped: 0 };
  for (const key of Object.keys(total)) total[key] += found[key];
  failures.push(...names);
  // A part that broke without a failed test of its own is a failure all the same.
  if (status === 0 || found.failed > 0) return;
  total.failed++;
  failures.push(name);
}

const report = (file) => {
  const full = path.join(RESULTS, file);
  return existsSync(full) ? JSON.parse(readFileSync(full, 'utf8')) : undefined;
};

const why = (name, message = '') => `${name}: ${stripVTControlCharacters(message).split('\n', 1)[0]}`;

/** The failed tests of the unit tests' own report. */
const failedUnits = ({ testResults }) =>
  testResults.flatMap(({ name: file, message, status, assertionResults }) => {
    const failed = assertionResults.filter((one) => one.status === 'failed');
    if (failed.length === 0) return status === 'failed' ? [why(path.relative(ROOT, file), message)] : [];
    return failed.map(({ fullName, failureMessages }) => why(fullName, failureMessages[0]));
  });

/** The failed tests of the browser tests' own report, whose suites lie within suites. */
const failedBrowser = ({ specs = [], suites = [] }) => [
  ...specs
    .filter(({ ok }) => !ok)
    .map(({ file, title, tests }) => why(`${file}, ${title}`, tests[0]?.results.at(-1)?.error?.message)),
  ...suites.flatMap(failedBrowser),
];

install();
installTestPrograms();
rmSync(RESULTS, { recursive: true, force: true });
mkdirSync(RESULTS, { recursive: true });

await checks();
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
      if (!found) return undefined;
      const { numPassedTests: passed, numFailedTests: failed, numPendingTests: skipped } = found;
      return { passed, failed, skipped, names: failedUnits(found) };
    },
  },
);
await prepare();
part('browser tests', [process.execPath, bin('@playwright/test', 'cli.js'), 'test', '--reporter=list,json'], {
  count() {
    const found = report('browser.json');
    if (!found) return undefined;
    const { expected, flaky, unexpected: failed, skipped } = found.stats;
    return { passed: expected + flaky, failed, skipped, names: failedBrowser(found) };
  },
  env: { CHROMIUM: findChromium(), PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(RESULTS, 'browser.json') },
});

for (const failure of failures) console.log(`failed: ${failure}`);
console.log(`\n${total.passed} passed, ${total.failed} failed${total.skipped > 0 ? `, ${total.skipped} skipped` : ''}`);
process.exit(total.failed > 0 ? 1 : 0);
