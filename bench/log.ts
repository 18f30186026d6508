import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { readLongLog, traceMessages, type LogRule } from '../src/core';
import { gullwickCard } from '@/demo/gullwickCard';
import { middleOfThree, report, timed, timedTool } from './measure';

const LINES = 1_000_000;

/** A log of a million lines: read, folded and traced, against grep with the same patterns. */
export async function logLines(): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'satchel-bench-'));
  const rules: LogRule[] = gullwickCard.log?.rules ?? [];
  const line = (i: number) =>
    i % 10 === 0
      ? `${String(i).padStart(5, '0')} shoal   | missing assets/textures/quay/tex_${i % 3000}.png`
      : i % 7 === 0
        ? `${String(i).padStart(5, '0')} shoal   | cannot read assets/x_${i % 500}.dds`
        : `${String(i).padStart(5, '0')} harbour | draws wave ${i % 97} at ${i % 1013}`;
  const text = `${Array.from({ length: LINES }, (_, i) => line(i)).join('\n')}\n`;
  writeFileSync(path.join(folder, 'log'), text);
  const patterns = rules
    .map(
      ({ pattern }) =>
        `-e '${pattern
          .replace(/\(\?<\w+>/g, '(')
          .replaceAll('\\d', '[0-9]')
          .replaceAll('\\s', '[[:space:]]')
          .replaceAll('\\S', '[^[:space:]]')
          .replaceAll('\\|', '[|]')}'`,
    )
    .join(' ');
  // With its output thrown away grep would stop at the first match.
  const theirs = await middleOfThree(async () => timedTool('sh', ['-c', `grep -cE ${patterns} log | cat`], folder));
  const ours = await middleOfThree(() =>
    timed(async () => {
      const reading = await readLongLog(text, rules);
      if (reading.lines !== LINES) throw new Error(`${reading.lines} lines`);
      const found = traceMessages(reading.messages, {
        card: gullwickCard,
        rules,
        files: [],
        leftOut: [],
        originals: new Map(),
        nameOf: (layer) => layer,
      });
      if (found.length === 0) throw new Error('nothing found');
    }),
  );
  report({
    name: 'a log of 1,000,000 lines read, folded and traced (Node)',
    ours,
    reference: 'grep -cE with the same patterns',
    theirs,
    limit: 3,
  });
  // In a process of its own: what this one has used before would hide it.
  const { stdout, stderr } = spawnSync(process.execPath, [
    '--import',
    'tsx',
    'bench/readLog.ts',
    path.join(folder, 'log'),
  ]);
  if (stdout.length === 0) throw new Error(stderr.toString());
  report({
    name: 'memory: read a log of 1,000,000 lines (Node)',
    ours: Number(stdout.toString()) / 1024 ** 2,
    reference: 'allowance',
    theirs: 200,
    limit: 1,
    unit: 'MB',
  });
  rmSync(folder, { recursive: true, force: true });
}
