// Long trials of the promise that nothing is lost: kills, other programs, full disks, failing calls, damaged archives.
// Seeded and bounded: npm run ordeal -- --seed 7. Ends with a table, and with 1 where anything was lost or half-way.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { ROOT, bin, findChromium, install, installTestPrograms, prepare } from './lib.mjs';

const { seed } = parseArgs({ options: { seed: { type: 'string', default: '1' } } }).values;
install();
installTestPrograms();
await prepare();
const results = path.join(ROOT, '.satchel/ordeal.jsonl');
mkdirSync(path.dirname(results), { recursive: true });
rmSync(results, { force: true });
const began = Date.now();
const { status } = spawnSync(
  process.execPath,
  [bin('vitest', 'vitest.mjs'), 'run', '--config', 'vitest.ordeal.config.ts'],
  {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, ORDEAL_SEED: seed, ORDEAL_RESULTS: results, CHROMIUM: findChromium() },
  },
);
const rows = existsSync(results)
  ? readFileSync(results, 'utf8')
      .split('\n')
      .filter(Boolean)
      .map((line) => JSON.parse(line))
  : [];
const total = rows.reduce(
  (sum, { tries, losses, between }) => ({
    tries: sum.tries + tries,
    losses: sum.losses + losses,
    between: sum.between + between,
  }),
  { tries: 0, losses: 0, between: 0 },
);
const line = (name, { tries, losses, between }, note = '') =>
  console.log(
    `${name.padEnd(62)}${String(tries).padStart(8)}${String(losses).padStart(9)}${String(between).padStart(20)}  ${note}`,
  );
console.log(`\nSeed ${seed}, ${Math.round((Date.now() - began) / 1000)} s\n`);
console.log(`${'trial'.padEnd(62)}${'tries'.padStart(8)}${'losses'.padStart(9)}${'neither nor'.padStart(20)}`);
for (const row of rows) line(row.name, row, row.note);
line('in all', total);
process.exit(status !== 0 || rows.length === 0 || total.losses + total.between > 0 ? 1 : 0);
