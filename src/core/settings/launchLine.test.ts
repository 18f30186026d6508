import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { launchOptions, launchTokens, withOption, withoutOption } from '@/core';
import { has, runTool } from '../../../tests/support/tools';

const word = fc.stringMatching(/^[a-z0-9._/]{1,6}$/);
const option = fc
  .tuple(
    fc.stringMatching(/^-[a-z]{2,6}$/),
    fc.option(
      fc.oneof(
        word,
        fc.tuple(word, word).map(([a, b]) => `${a} ${b}`),
      ),
      { nil: undefined },
    ),
  )
  .map(([name, value]) => ({ name, value }));
const options = fc.uniqueArray(option, { selector: ({ name }) => name, maxLength: 5 });
const lineOf = (all: { name: string; value: string | undefined }[]) =>
  all.reduce((line, { name, value }) => withOption(line, name, value), '');

describe('launch lines', () => {
  it.skipIf(!has('python3'))('are parted into the words that Python’s shlex finds', () => {
    const lines = fc.sample(options.map(lineOf), { numRuns: 60, seed: 5 });
    const answer = JSON.parse(
      runTool('python3', [
        '-c',
        'import json,shlex,sys; print(json.dumps([shlex.split(x) for x in json.loads(sys.argv[1])]))',
        JSON.stringify(lines),
      ]).toString(),
    ) as string[][];
    expect(lines.map((line) => launchTokens(line).map(({ text }) => text))).toEqual(answer);
  });

  // Common practice: a launch option is added in front of or behind the others and leaves them as they were.
  it('law: put in and taken out again, the line is as it was; the others stay letter for letter', () => {
    fc.assert(
      fc.property(options, option, (all, one) => {
        fc.pre(!all.some(({ name }) => name === one.name));
        const line = lineOf(all);
        const more = withOption(line, one.name, one.value);
        expect(more.startsWith(line)).toBe(true);
        expect(launchOptions(more).map(({ name }) => name)).toEqual([...all.map(({ name }) => name), one.name]);
        expect(withoutOption(more, one.name)).toBe(line);
      }),
    );
  });

  it('keeps odd blanks and quotes of the others, and takes = for a value', () => {
    expect(withoutOption('"C:/My Games/run me"  -a=1   -b "two words" -c', '-b')).toBe(
      '"C:/My Games/run me"  -a=1   -c',
    );
    expect(launchOptions('-a=1 -exec mine.cfg').map(({ name, values }) => [name, values])).toEqual([
      ['-a', ['1']],
      ['-exec', ['mine.cfg']],
    ]);
    expect(withOption('-a -a2', '-A', '7')).toBe('-A 7 -a2');
  });
});
