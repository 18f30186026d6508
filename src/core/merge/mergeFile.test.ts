import fc from 'fast-check';
import { parse as parseIni } from 'ini';
import { describe, expect, it } from 'vitest';
import { decodeText, isWellFormed, mergeFile, openSettings, type Decision, type Dialect } from '@/core';
import { decideAll, type FileMerge, type MergeSource } from './mergeFile';

const bytes = (text: string) => new TextEncoder().encode(text);
const source = (name: string, text: string): MergeSource => ({ name, bytes: bytes(text) });
function merged(
  original: string | undefined,
  versions: string[],
  dialect?: Dialect,
  decisions: Decision[] = [],
): FileMerge {
  const outcome = mergeFile(
    original === undefined ? undefined : bytes(original),
    versions.map((text, i) => source(`Pack ${'ABC'[i]}`, text)),
    dialect,
    decisions,
  );
  if (!outcome.ok) throw new Error(outcome.why);
  return outcome.merge;
}

/** Plain values by key, written in each form. */
type Values = Record<string, string>;
const WRITERS: Record<Exclude<Dialect, 'codes' | 'names'>, (values: Values) => string> = {
  'ini-comments': (values) =>
    `[Game]\n${Object.entries(values)
      .map(([key, value]) => `${key}=${value} ; said so\n`)
      .join('')}`,
  ini: (values) =>
    `[Game]\n${Object.entries(values)
      .map(([key, value]) => `${key}=${value}\n`)
      .join('')}`,
  xml: (values) =>
    `<game>\n${Object.entries(values)
      .map(([key, value]) => `  <${key} to="${value}" />\n`)
      .join('')}</game>\n`,
  json: (values) => `${JSON.stringify(values, null, 2)}\n`,
  commands: (values) =>
    Object.entries(values)
      .map(([key, value]) => `set ${key} ${value}\n`)
      .join(''),
  blocks: (values) =>
    `game {\n${Object.entries(values)
      .map(([key, value]) => `  ${key} "${value}"\n`)
      .join('')}}\n`,
  yaml: (values) =>
    `game:\n${Object.entries(values)
      .map(([key, value]) => `  ${key}: ${value}\n`)
      .join('')}`,
  language: (values) =>
    Object.entries(values)
      .map(([key, value]) => `${key}: "${value}"\n`)
      .join(''),
  colons: (values) =>
    Object.entries(values)
      .map(([key, value]) => `${key}:${value}\n`)
      .join(''),
};
/** What a text says, read by somebody else's reader where there is one. */
const READERS: Partial<Record<Dialect, (text: string) => Values>> = {
  ini: (text) => ({ ...(parseIni(text) as { Game?: Values }).Game }),
  json: (text) => JSON.parse(text) as Values,
};
const valuesIn = (text: string, dialect: Dialect): Values =>
  Object.fromEntries(
    openSettings(text, dialect)
      .entries()
      .map(
        ({ path, value }) =>
          [
            path.filter((name) => name !== 'Game' && name !== 'game' && name !== 'set' && name !== '@to').join('.'),
            value,
          ] as const,
      )
      .filter(([key]) => key !== ''),
  );
const valuesArb = fc.dictionary(
  fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'),
  fc.stringMatching(/^[a-z]{1,3}$/),
  { noNullPrototype: true },
);

describe.each(Object.keys(WRITERS) as (keyof typeof WRITERS)[])('merging %s by key', (dialect) => {
  const write = WRITERS[dialect];

  it('law: with an unchanged side the other side comes out', () => {
    fc.assert(
      fc.property(valuesArb, valuesArb, (base, changed) => {
        const [ground, other] = [write(base), write(changed)];
        for (const versions of [
          [ground, other],
          [other, ground],
        ]) {
          const result = merged(ground, versions, dialect);
          expect([result.text, result.conflicts]).toEqual([other, []]);
        }
      }),
    );
  });

  it('law: each key has the value of the side that changed it; without conflict the order of sides does not matter; the result parses', () => {
    fc.assert(
      fc.property(valuesArb, valuesArb, valuesArb, (base, left, right) => {
        const wanted: Values = {};
        const fought: string[] = [];
        for (const key of new Set([...Object.keys(base), ...Object.keys(left), ...Object.keys(right)])) {
          const [b, l, r] = [base[key], left[key], right[key]];
          if (l !== r && l !== b && r !== b) fought.push(key);
          const value = l === r || r === b ? l : r;
          if (value !== undefined) wanted[key] = value;
        }
        const result = merged(write(base), [write(left), write(right)], dialect);
        if (result.way !== 'keys') return;
        expect(valuesIn(result.text, dialect)).toEqual(wanted);
        expect(READERS[dialect]?.(result.text) ?? wanted).toEqual(wanted);
        expect(isWellFormed(result.text, dialect)).toBe(true);
        expect(
          result.conflicts
            .map(({ at }) => at.split(' › ').find((name) => name in { ...base, ...left, ...right }))
            .sort(),
        ).toEqual(fought.sort());
        if (fought.length === 0)
          expect(merged(write(base), [write(right), write(left)], dialect).text).toBe(result.text);
      }),
    );
  });

  it('goes by key nearly always', () => {
    const triples = fc.sample(fc.tuple(valuesArb, valuesArb, valuesArb), { numRuns: 200, seed: 4 });
    const byKey = triples.filter(
      ([base, left, right]) => merged(write(base), [write(left), write(right)], dialect).way === 'keys',
    ).length;
    expect(byKey).toBeGreaterThan(160);
  });

  it('law: a decision holds while its conflict is the same, and is named when it is not', () => {
    fc.assert(
      fc.property(
        valuesArb,
        valuesArb,
        valuesArb,
        fc.constantFrom('lower' as const, 'upper' as const),
        (base, left, right, take) => {
          const open = merged(write(base), [write(left), write(right)], dialect);
          const decisions = decideAll(open, take);
          const decided = merged(write(base), [write(left), write(right)], dialect, decisions);
          expect([decided.conflicts.every((one) => one.taken === take), decided.stale]).toEqual([true, []]);
          // The lower side changes everything it fought about.
          const other = Object.fromEntries(Object.entries(left).map(([key, value]) => [key, `${value}x`]));
          const later = merged(write(base), [write(other), write(right)], dialect, decisions);
          for (const conflict of later.conflicts)
            expect(conflict.taken).toBe(
              decisions.some(({ at, was }) => at === conflict.at && was === conflict.was) ? take : undefined,
            );
          expect(later.stale.length + later.conflicts.filter(({ taken }) => taken).length).toBeGreaterThanOrEqual(
            Math.min(decisions.length, 1),
          );
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('merging whole files', () => {
  const base = '# texts of the game\nharbour: "Harbour"\nquay: "Quay"\npier: "Pier"\n';

  it('keeps what each of three packs says, and the comments of all', () => {
    const result = merged(
      base,
      [
        base.replace('"Harbour"', '"Old Harbour"'),
        `${base}# from B\nbuoy: "Buoy"\n`,
        base.replace('"Pier"', '"Long Pier"'),
      ],
      'language',
    );
    expect(result.text).toBe(
      '# texts of the game\nharbour: "Old Harbour"\nquay: "Quay"\npier: "Long Pier"\n# from B\nbuoy: "Buoy"\n',
    );
    expect([result.way, result.conflicts]).toEqual(['keys', []]);
  });

  it('two packs that bring a file the game does not have: what each has is kept, what both have differently is asked', () => {
    const result = merged(undefined, ['a: "1"\nb: "2"\n', 'b: "3"\nc: "4"\n'], 'language');
    expect(valuesIn(result.text, 'language')).toEqual({ a: '1', b: '3', c: '4' });
    expect(result.conflicts.map(({ at, base: ground, sides }) => [at, ground, sides.map(({ text }) => text)])).toEqual([
      ['b', undefined, ['2', '3']],
    ]);
  });

  it('takes the player’s own words, and both sides of lines', () => {
    const [left, right] = ['a\nX\nc\n', 'a\nY\nc\n'];
    const open = merged('a\nb\nc\n', [left, right]);
    expect(open.conflicts.map(({ sides, taken }) => [sides.map(({ text }) => text), taken])).toEqual([
      [['X\n', 'Y\n'], undefined],
    ]);
    const [conflict] = open.conflicts;
    const take = (how: Decision['take']) =>
      merged('a\nb\nc\n', [left, right], undefined, [{ at: conflict?.at ?? '', was: conflict?.was ?? '', take: how }])
        .text;
    expect([take('lower'), take('upper'), take('base'), take('both'), take({ text: 'mine\n' })]).toEqual([
      left,
      right,
      'a\nb\nc\n',
      'a\nX\nY\nc\n',
      'a\nmine\nc\n',
    ]);
  });

  // Common practice: a numbered section takes the next free number (after 0 to 9 comes 10).
  it('two packs that add a section under one number: the upper one’s takes the next', () => {
    const ground = Array.from({ length: 9 }, (_, i) => `[hull ${i}]\npaint=p${i}\n`).join('');
    const result = merged(ground, [`${ground}[hull 9]\npaint=red\n`, `${ground}[hull 9]\npaint=blue\n`], 'ini');
    expect([
      openSettings(result.text, 'ini').get(['hull 9', 'paint']),
      openSettings(result.text, 'ini').get(['hull 10', 'paint']),
    ]).toEqual(['red', 'blue']);
    expect(result.conflicts).toEqual([]);
    expect(result.notices.join()).toContain('[hull 9] of “Pack B” became [hull 10]');
  });

  it('keeps the original’s encoding, byte order mark and line ends', () => {
    const utf16 = (text: string) =>
      Uint8Array.from([0xff, 0xfe, ...[...text].flatMap((one) => [one.charCodeAt(0) & 0xff, one.charCodeAt(0) >> 8])]);
    const original = utf16('a: "1"\r\nb: "2"\r\n');
    const outcome = mergeFile(
      original,
      [source('A', 'a: "ä"\nb: "2"\n'), { name: 'B', bytes: utf16('a: "1"\r\nb: "3"\r\n') }],
      'language',
    );
    if (!outcome.ok) throw new Error(outcome.why);
    expect(outcome.merge.bytes).toEqual(utf16('a: "ä"\r\nb: "3"\r\n'));
    expect(decodeText(outcome.merge.bytes).encoding).toBe('utf-16le');
    const refused = mergeFile(
      Uint8Array.from([0xe4, 0x0a, 0x62, 0x0a]),
      [source('A', 'ä\nb\n漢\n'), source('B', 'top\nä\nb\n')],
      undefined,
    );
    expect(refused).toEqual({ ok: false, why: expect.stringContaining('encoding') as string });
  });

  it('what does not parse is merged line by line and says so; what is no text is not merged', () => {
    const result = merged('{"a": 1,\n"b": 2}\n', ['{"a": 3,\n"b": 2}\n', '{"a": 1,\n"b": oops\n'], 'json');
    expect([result.way, result.notices.length]).toEqual(['lines', 1]);
    expect(
      mergeFile(bytes('a'), [{ name: 'A', bytes: Uint8Array.from([1, 0, 2]) }, source('B', 'b')], undefined),
    ).toEqual({ ok: false, why: 'it is not a text' });
    expect(mergeFile(bytes('a'), [source('A', 'b')], undefined)).toEqual({
      ok: false,
      why: 'only one pack has this file now',
    });
  });

  it('treats __proto__ as a key like any other', () => {
    expect(
      JSON.parse(merged('{\n  "x": 1\n}', ['{\n  "x": 1,\n  "__proto__": 2\n}', '{\n  "x": 5\n}'], 'json').text),
    ).toEqual(JSON.parse('{"x": 5, "__proto__": 2}'));
  });

  it('a 50 MB text, and one line of 10 MB, come through', () => {
    const line = `${'x'.repeat(10 * 1024 ** 2)}\n`;
    expect(merged(`a\n${line}b\n`, [`A\n${line}b\n`, `a\n${line}B\n`]).text).toBe(`A\n${line}B\n`);
    const many = `${'k: "some text of this game, as long as texts are"\n'.repeat(1_000_000)}end\n`;
    expect(merged(many, [many.replace('end\n', 'END\n'), `first\n${many}`]).text).toBe(
      `first\n${many.replace('end\n', 'END\n')}`,
    );
  });
});
