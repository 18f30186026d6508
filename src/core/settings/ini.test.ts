import fc from 'fast-check';
import { parse as referenceParse } from 'ini';
import { describe, expect, it } from 'vitest';
import { applySettings, decodeText, openSettings, takeBackSettings } from '@/core';
import { has, runTool } from '../../../tests/support/tools';

const open = (text: string) => openSettings(text, 'ini');
const wild = fc.oneof(
  fc.string(),
  fc
    .array(
      fc.constantFrom(
        '[Graphics]',
        '[Sound]',
        '[',
        ']',
        'Addon=0',
        'Addon = 1 ',
        ' =x',
        'Key',
        ';c',
        '#c',
        '',
        '   ',
        'a=b=c',
        '[x] y',
        '\t[ y ]\t',
        '=',
        '\u0000',
        '\ufeff',
      ),
      { maxLength: 14 },
    )
    .chain((lines) => fc.constantFrom('\n', '\r\n', '\r').map((eol) => lines.join(eol))),
);
/** Texts that every INI reader agrees on: plain names, plain values, no key twice. */
const plainIni = fc
  .uniqueArray(
    fc.tuple(
      fc.stringMatching(/^[A-Z][a-z]{1,6}$/),
      fc.uniqueArray(
        fc.tuple(
          fc.stringMatching(/^[a-z]{1,6}$/),
          fc.stringMatching(/^[A-Za-z0-9]([A-Za-z0-9 ,/]{0,8}[A-Za-z0-9])?$/),
        ),
        { selector: ([key]) => key, minLength: 1, maxLength: 5 },
      ),
    ),
    { selector: ([section]) => section, maxLength: 4 },
  )
  .map((sections) => ({
    sections,
    text: sections
      .map(([section, keys]) => `[${section}]\n${keys.map(([key, value]) => `${key} = ${value}`).join('\n')}\n`)
      .join('\n'),
  }));

describe('INI documents', () => {
  it('law: an opened text is the same text, whatever it is', () => {
    fc.assert(
      fc.property(wild, (text) => void expect(open(text).text).toBe(text)),
      { numRuns: 2000 },
    );
  });

  it('law: what is set is read', () => {
    fc.assert(
      fc.property(
        wild,
        fc.constantFrom(['Graphics', 'Addon'], ['Graphics', 'New'], ['Fresh', 'Key'], ['Loose']),
        fc.stringMatching(/^[a-z0-9]{1,6}$/),
        (text, path, value) => void expect(open(text).set(path, value).get(path)).toBe(value),
      ),
      { numRuns: 2000 },
    );
  });

  it('law: setting a key that is there touches no other line', () => {
    fc.assert(
      fc.property(wild, fc.stringMatching(/^[a-z0-9]{0,6}$/), (text, value) => {
        const document = open(text);
        for (const { path, line } of document.entries()) {
          const before = text.split(/\r\n|\n|\r/);
          const after = document.set(path, value).text.split(/\r\n|\n|\r/);
          expect(after.length).toBe(before.length);
          const changed = before.flatMap((one, i) => (one === after[i] ? [] : [i + 1]));
          // Of several equal keys the last one counts, so that the changed line may be a later one.
          expect(changed.length).toBeLessThanOrEqual(1);
          if (changed[0] !== undefined) expect(changed[0]).toBeGreaterThanOrEqual(line);
        }
      }),
      { numRuns: 1000 },
    );
  });

  it('law: edits made and taken back leave every value as it was, and whole lines untouched', () => {
    fc.assert(
      fc.property(plainIni, ({ sections, text }) => {
        const edits = [
          { path: ['Fresh', 'key'], value: '1' },
          ...sections.slice(0, 2).map(([section, keys]) => ({ path: [section, keys[0]?.[0] ?? 'x'], value: 'edited' })),
          ...sections.slice(0, 1).map(([section]) => ({ path: [section, 'brandnew'], value: '2' })),
        ];
        const { document, applied } = applySettings(open(text), edits);
        const { document: back, left } = takeBackSettings(document, applied);
        expect(left).toEqual([]);
        expect(back.entries().map(({ path, value }) => [path, value])).toEqual(
          open(text)
            .entries()
            .map(({ path, value }) => [path, value]),
        );
      }),
    );
  });

  it('reads the values that the package `ini` reads', () => {
    fc.assert(
      fc.property(plainIni, ({ sections, text }) => {
        const reference = referenceParse(text) as Record<string, Record<string, unknown>>;
        for (const [section, keys] of sections)
          for (const [key] of keys) expect(open(text).get([section, key])).toBe(String(reference[section]?.[key]));
      }),
    );
  });

  it.skipIf(!has('python3'))(
    'reads the values that Python’s configparser reads (skipped where python3 is missing)',
    () => {
      const samples = fc.sample(plainIni, { numRuns: 60, seed: 7 });
      const script =
        'import configparser, json, sys\nout=[]\nfor t in json.load(sys.stdin):\n  c=configparser.RawConfigParser(); c.optionxform=str; c.read_string(t); out.append({s: dict(c.items(s)) for s in c.sections()})\nprint(json.dumps(out))';
      const reference = JSON.parse(
        runTool('python3', ['-c', script], { input: JSON.stringify(samples.map(({ text }) => text)) }).toString(),
      ) as Record<string, Record<string, string>>[];
      samples.forEach(({ text }, i) => {
        const ours: Record<string, Record<string, string>> = {};
        for (const { path, value } of open(text).entries()) (ours[path[0] as string] ??= {})[path[1] as string] = value;
        expect(ours).toEqual(reference[i]);
      });
    },
  );

  // Common practice: a new line starts at the first column, on a line of its own, at the end of its section.
  it('puts a new key at the end of its section, before the blank line, with the file’s own line end', () => {
    expect(open('[A]\r\nx=1\r\n\r\n[B]\r\ny=2\r\n').set(['A', 'new'], '5').text).toBe(
      '[A]\r\nx=1\r\nnew=5\r\n\r\n[B]\r\ny=2\r\n',
    );
    expect(open('[A]\nx=1').set(['A', 'new'], '5').text).toBe('[A]\nx=1\nnew=5');
    expect(open('x=1').set(['B', 'new'], '5').text).toBe('x=1\n[B]\nnew=5\n');
  });

  it('changes the value and nothing around it', () => {
    expect(open('[A]\n  x  =  old value  ; not a comment here\n').set(['A', 'x'], 'n').text).toBe('[A]\n  x  =  n\n');
    expect(open('[A]\nx=\n').set(['A', 'x'], '1').text).toBe('[A]\nx=1\n');
    expect(open('[A]\nX=0\n').set(['a', 'x'], '1').text).toBe('[A]\nX=1\n');
  });

  it('treats __proto__ as a key like any other', () => {
    const document = open('[__proto__]\nconstructor=1\n').set(['__proto__', 'toString'], '2');
    expect([
      document.get(['__proto__', 'constructor']),
      document.get(['__proto__', 'toString']),
      document.get(['__proto__', 'valueOf']),
    ]).toEqual(['1', '2', undefined]);
  });
});

describe('encodings', () => {
  it('law: decoding and encoding gives every byte back', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.uint8Array(),
          fc.uint8Array().map((bytes) => Uint8Array.from([0xff, 0xfe, ...bytes])),
          fc.uint8Array().map((bytes) => Uint8Array.from([0xef, 0xbb, 0xbf, ...bytes])),
          fc.string({ unit: 'grapheme' }).map((text) => new TextEncoder().encode(text)),
        ),
        (bytes) => {
          const decoded = decodeText(bytes);
          expect(decoded.encode(decoded.text)).toEqual(Uint8Array.from(bytes));
        },
      ),
      { numRuns: 2000 },
    );
  });
});
