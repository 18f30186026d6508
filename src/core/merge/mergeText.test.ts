import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergeText } from '@/core';
import { seeded } from '@/demo/random';
import { has, runTool, temporaryFolder } from '../../../tests/support/tools';
import { LineNumbers, diffLines, splitLines } from './lineDiff';

const random = seeded(20261124);
const pick = (below: number): number => Math.floor(random() * below);

/** A text and two changed versions: edits, insertions, deletions, moved blocks, CRLF, no line end at the end. */
function triple(): [base: string, left: string, right: string] {
  const eol = random() < 0.2 ? '\r\n' : '\n';
  const size = pick(40);
  const line = () => (random() < 0.15 ? (['', '{', '}', 'same'][pick(4)] as string) : `line ${pick(1000)}`);
  const base = Array.from({ length: size }, line);
  const change = (lines: string[]): string[] => {
    const out = [...lines];
    for (let edits = 1 + pick(3); edits > 0; edits--) {
      const at = pick(out.length + 1);
      const kind = pick(4);
      if (kind === 0) out.splice(at, 0, ...Array.from({ length: 1 + pick(3) }, line));
      else if (kind === 1) out.splice(at, 1 + pick(3));
      else if (kind === 2 && at < out.length) out[at] = line();
      else if (out.length > 2) out.splice(pick(out.length), 0, ...out.splice(at, 1 + pick(4)));
    }
    return out;
  };
  const text = (lines: string[]) => lines.join(eol) + (lines.length > 0 && random() < 0.85 ? eol : '');
  return [text(base), text(change(base)), text(change(base))];
}

const TRIPLES = 2400;

describe.skipIf(!has('git') || !has('diff3') || process.platform === 'win32')(
  'against git merge-file and diff3 (skipped where they are missing)',
  () => {
    it('2,400 seeded triples: the same text where both merge cleanly, a conflict where they conflict', () => {
      const folder = temporaryFolder();
      const triples = Array.from({ length: TRIPLES }, triple);
      triples.forEach((texts, i) =>
        ['base', 'left', 'right'].forEach((name, k) =>
          writeFileSync(path.join(folder, `${name}${i}`), texts[k] as string),
        ),
      );
      // One shell for all of them: starting each from here would take minutes.
      const loop = `i=0; while [ $i -lt ${TRIPLES} ]; do git merge-file -p --quiet left$i base$i right$i > git$i 2> /dev/null; a=$?; diff3 -m left$i base$i right$i > diff3$i 2> /dev/null; echo $a $?; i=$((i+1)); done`;
      const verdicts = runTool('sh', ['-c', loop], { cwd: folder })
        .toString()
        .trim()
        .split('\n')
        .map((line) => line.split(' ').map((status) => status === '0'));
      const read = (name: string) => readFileSync(path.join(folder, name), 'utf8');
      const counts = { clean: 0, conflicts: 0, sameAsDiff3: 0, otherVerdicts: 0 };
      for (const [i, [base, left, right]] of triples.entries()) {
        const ours = mergeText(base, left, right);
        const oursClean = ours.conflicts.length === 0;
        const [gitClean, diff3Clean] = verdicts[i] as [boolean, boolean];
        counts[gitClean ? 'clean' : 'conflicts']++;
        if (oursClean && gitClean) expect(ours.text, `triple ${i}`).toBe(read(`git${i}`));
        if (oursClean && diff3Clean) {
          expect(ours.text, `triple ${i}`).toBe(read(`diff3${i}`));
          counts.sameAsDiff3++;
        }
        // Where a text repeats itself, two shortest diffs can pair its lines differently; one may then conflict where
        // the other does not.
        if (oursClean !== gitClean) counts.otherVerdicts++;
      }
      console.log('merges against git and diff3:', counts);
      expect(counts.clean).toBeGreaterThan(500);
      expect(counts.conflicts).toBeGreaterThan(300);
      expect(counts.sameAsDiff3).toBeGreaterThan(500);
      expect(counts.otherVerdicts).toBeLessThanOrEqual(6);
    });
  },
);

describe('line merges', () => {
  const lines = fc
    .array(fc.constantFrom('a\n', 'b\n', 'c\r\n', '\n', 'd\n'), { maxLength: 14 })
    .map((list) => list.join(''));

  it('law: with one side unchanged, the other is the result', () => {
    fc.assert(
      fc.property(lines, lines, (base, other) => {
        expect(mergeText(base, base, other)).toEqual({ text: other, conflicts: [] });
        expect(mergeText(base, other, base)).toEqual({ text: other, conflicts: [] });
        expect(mergeText(base, other, other)).toEqual({ text: other, conflicts: [] });
      }),
    );
  });

  it('law: without a conflict the order of the sides does not matter', () => {
    fc.assert(
      fc.property(lines, lines, lines, (base, left, right) => {
        const one = mergeText(base, left, right);
        const two = mergeText(base, right, left);
        expect(two.conflicts.length === 0).toBe(one.conflicts.length === 0);
        if (one.conflicts.length === 0) expect(two.text).toBe(one.text);
      }),
      { numRuns: 2000 },
    );
  });

  it('law: a diff turns the one text into the other, and touches nothing that stays', () => {
    fc.assert(
      fc.property(lines, lines, (a, b) => {
        const [x, y] = [splitLines(a), splitLines(b)];
        const numbers = new LineNumbers();
        const made: string[] = [];
        let at = 0;
        for (const change of diffLines(numbers.of(x), numbers.of(y))) {
          made.push(...x.slice(at, change.a), ...y.slice(change.b, change.b + change.bCount));
          at = change.a + change.aCount;
        }
        expect([...made, ...x.slice(at)].join('')).toBe(b);
      }),
      { numRuns: 2000 },
    );
  });

  it('says where a conflict stands, with all three texts', () => {
    expect(mergeText('a\nb\nc\n', 'a\nX\nc\n', 'a\nY\nc\n')).toEqual({
      text: 'a\nX\nc\n',
      conflicts: [{ base: 'b\n', left: 'X\n', right: 'Y\n', line: 2 }],
    });
    expect(mergeText('', 'one', 'two')).toMatchObject({
      conflicts: [{ base: '', left: 'one', right: 'two', line: 1 }],
    });
  });

  it('keeps line ends and a missing last one as they are', () => {
    expect(mergeText('a\r\nb\r\nc', 'A\r\nb\r\nc', 'a\r\nb\r\nc\r\nd').text).toBe('A\r\nb\r\nc\r\nd');
  });

  it('takes 50 MB of text, and lines of 10 MB, without quadratic time', () => {
    const long = `${'x'.repeat(10_000_000)}\n`;
    expect(mergeText(`${long}b\nc\n`, `${long}B\nc\n`, `${long}b\nc\nd\n`).text).toBe(`${long}B\nc\nd\n`);
    const many = Array.from({ length: 400_000 }, (_, i) => `key.${i} = some value that is a little longer ${i % 97}\n`);
    const change = (at: number) => many.map((line, i) => (i % 50_000 === at ? `changed ${i}\n` : line)).join('');
    expect(mergeText(many.join(''), change(7), change(20_000)).conflicts).toEqual([]);
    // One change near the top of each, and hundreds of thousands of lines after it; hundreds of thousands of new lines.
    const edited = (at: number) => many.map((line, i) => (i === at ? 'edited\n' : line)).join('');
    expect(mergeText(many.join(''), edited(0), edited(5)).text).toBe(
      many.map((line, i) => (i === 0 || i === 5 ? 'edited\n' : line)).join(''),
    );
    expect(mergeText('a\nb\nc\n', `a\nb\nc\n${many.join('')}`, 'A\nb\nc\n').text).toBe(`A\nb\nc\n${many.join('')}`);
    // Nothing in common at all: the worst case for a search, which then gives up early.
    const odd = (tag: string) => Array.from({ length: 60_000 }, (_, i) => `${tag} ${i}\n`).join('');
    expect(mergeText(odd('a'), odd('b'), odd('c')).conflicts).toHaveLength(1);
  });
});
