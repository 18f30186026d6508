import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareTexts, unifiedDiff } from '@/core';
import { has, runTool, temporaryFolder } from '../../../tests/support/tools';

const textArb = fc
  .tuple(fc.array(fc.constantFrom('a', 'b', 'c', 'd', '-x', '+y', ''), { maxLength: 30 }), fc.boolean())
  .map(([lines, ended]) => lines.join('\n') + (ended && lines.length > 0 ? '\n' : ''));

describe('comparing texts', () => {
  it.skipIf(!has('patch'))(
    'a unified diff: `patch` makes the one text out of the other (POSIX diff -u; skipped where patch is missing)',
    () => {
      const folder = temporaryFolder();
      fc.sample(fc.tuple(textArb, textArb), { numRuns: 150, seed: 5 }).forEach(([a, b], i) => {
        const diff = unifiedDiff(a, b, ['old', 'new']);
        if (a === b) return void expect(diff).toBe('');
        const file = path.join(folder, `t${i}`);
        writeFileSync(file, a);
        writeFileSync(`${file}.diff`, diff);
        runTool('patch', ['-s', file, `${file}.diff`]);
        // patch removes a file that becomes empty.
        expect(b === '' ? '' : readFileSync(file, 'utf8')).toBe(b);
      });
    },
  );

  it('law: what is shown is part of both texts, every difference is in it, and lines are numbered as they stand', () => {
    fc.assert(
      fc.property(textArb, textArb, (a, b) => {
        const lines = compareTexts(a, b);
        const [left, right] = [a.split(/(?<=\n)/), b.split(/(?<=\n)/)];
        for (const { text, a: one, b: other } of lines) {
          if (one !== undefined) expect(left[one - 1]).toBe(text);
          if (other !== undefined) expect(right[other - 1]).toBe(text);
        }
        expect(lines.some(({ kind }) => kind === 'only a' || kind === 'only b')).toBe(a !== b);
        // Without the lines of one side only, both come to the same.
        const without = (all: string[], side: 'a' | 'b') =>
          all
            .filter(
              (text, i) => text !== '' && !lines.some((line) => line.kind === `only ${side}` && line[side] === i + 1),
            )
            .join('');
        expect(without(left, 'a')).toBe(without(right, 'b'));
      }),
    );
  });

  it('leaves out what is the same, and stops where it would be too much', () => {
    const many = Array.from({ length: 10_000 }, (_, i) => `line ${i}\n`);
    const changed = many.map((line, i) => (i === 5000 ? 'other\n' : line));
    expect(compareTexts(many.join(''), changed.join('')).map(({ kind }) => kind)).toEqual([
      'gap',
      'same',
      'same',
      'same',
      'only a',
      'only b',
      'same',
      'same',
      'same',
      'gap',
    ]);
    expect(compareTexts(many.join(''), '', 100)).toHaveLength(101);
  });
});
