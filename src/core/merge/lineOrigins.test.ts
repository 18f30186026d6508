import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { spawnSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lineOrigins, mergeFile } from '@/core';
import { temporaryFolder } from '../../../tests/support/tools';

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const line = fc.constantFrom('red', 'green', 'blue', 'amber', 'teal', '');
const text = fc.array(line, { maxLength: 25 }).map((lines) => lines.map((one) => `${one}\n`).join(''));
const folder = temporaryFolder();

/** Lines of the second text that GNU diff, looking hard, finds in the first, too. */
function sameLines(a: string, b: string): number {
  const [left, right] = ['a', 'b'].map((name) => path.join(folder, name)) as [string, string];
  writeFileSync(left, a);
  writeFileSync(right, b);
  const format = ['--unchanged-line-format=.', '--old-line-format=', '--new-line-format='];
  return spawnSync('diff', ['-d', ...format, left, right], { encoding: 'utf8' }).stdout.length;
}

describe('where each line of a merged text comes from', () => {
  it('two packs’ lines in the game’s own file', () => {
    const base = 'one\ntwo\nthree\nfour\nfive\n';
    const [a, b] = ['one\nTWO\nthree\nfour\nfive\n', 'one\ntwo\nthree\nfour\nfive\r\nsix\n'];
    const outcome = mergeFile(
      utf8(base),
      [
        { name: 'A', bytes: utf8(a) },
        { name: 'B', bytes: utf8(b) },
      ],
      undefined,
    );
    if (!outcome.ok) throw new Error(outcome.why);
    expect(lineOrigins(outcome.merge.text, [base, a, b])).toEqual([
      { text: 'one', from: [0, 1, 2] },
      { text: 'TWO', from: [1] },
      { text: 'three', from: [0, 1, 2] },
      { text: 'four', from: [0, 1, 2] },
      { text: 'five', from: [0, 1, 2] },
      { text: 'six', from: [2] },
    ]);
  });
  it('a value that a merge by key wrote with the blanks of another file, and a line of nobody’s', () => {
    expect(lineOrigins('[Sea]\nwaves = 3\nby hand\n', ['[Sea]\nwaves = 1\n', '[Sea]\nwaves=3\n'])).toEqual([
      { text: '[Sea]', from: [0, 1] },
      { text: 'waves = 3', from: [1] },
      { text: 'by hand', from: [] },
    ]);
  });
  it('law: as many lines are of a version as GNU diff finds the same, and each stands there', () => {
    fc.assert(
      fc.property(text, text, (a, b) => {
        const found = lineOrigins(b, [a]);
        expect(found.map((one) => one.text)).toEqual(b.split('\n').slice(0, -1));
        const there = a.split('\n');
        // Lines that only the second look finds stand elsewhere.
        const aligned = found.filter(({ from }) => from.length > 0);
        for (const one of aligned) expect(there).toContain(one.text);
        expect(aligned.length).toBeGreaterThanOrEqual(sameLines(a, b));
      }),
      { numRuns: 60 },
    );
  });
});
