import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SatchelError, isWellFormed, openSettings, type Dialect } from '@/core';

type Tree = Exclude<Dialect, 'ini'>;

const BLOCK = 'codes';

/** Pieces that each form is made of, whole and broken: texts are put together out of them at random. */
const PIECES: Record<Tree, string[]> = {
  xml: [
    '<a>',
    '</a>',
    '<b x="1" y=\'2\'/>',
    '<b>',
    '</b>',
    'text',
    '<!-- c -->',
    '<![CDATA[x<y]]>',
    '<?pi?>',
    '<!DOCTYPE a [<!ENTITY e "boom">]>',
    '&e;',
    '&amp;',
    '<',
    '>',
    '"',
    '\n',
    '  ',
    '<a x="1" x="2">',
    '\u0000',
    '<__proto__ constructor="1"/>',
    '\ufeff',
  ],
  json: [
    '{',
    '}',
    '[',
    ']',
    '"a"',
    '"b"',
    ':',
    ',',
    '1',
    'true',
    'null',
    '"text\\n"',
    '// c\n',
    '/* c */',
    '\n',
    '"__proto__"',
    '"a": 1,',
    '{"a": {"b": 2}}',
    '\ufeff',
    '"',
    '\u0000',
  ],
  names: [
    'Bigger Boats',
    'Monsoon',
    '# not',
    '; not',
    '// not',
    '  Set in',
    '\ufeff',
    '',
    'a=1',
    'x \t',
    '#2',
    '\u0000',
  ],
  commands: [
    'set fov 80',
    'bind F5 "save game"',
    'exec mine.cfg',
    '// c',
    '# c',
    '; c',
    '\n',
    '\r\n',
    '  ',
    'set',
    'bind',
    '=',
    '\u0000',
    'set __proto__ 1',
    '\ufeff',
  ],
  yaml: [
    'video:',
    '  fov: 80',
    '  name: "a b"',
    "  who: 'x''y'",
    'list:',
    '  - one',
    '  - two: 2',
    '# c',
    'flow: {a: 1, b: [2, 3]}',
    '---',
    'text: |',
    '  long',
    '&a x: *a',
    '!tag x: 1',
    '\n',
    '\r\n',
    '\t',
    ': :',
    '- ',
    '"',
    '\u0000',
    '__proto__: 1',
    '\ufeff',
  ],
  blocks: [
    'look {',
    'look = {',
    'wide = 1,',
    'far: 20;',
    'x = 1, y = "2",',
    '-- c',
    '},',
    'deep = { a = 1 }',
    '}',
    '{',
    'in "assets"',
    'in each "addons"',
    'name value // c',
    '# c',
    '\n',
    '\r\n',
    '"q',
    '"a b" "c\\"d"',
    '  ',
    '\u0000',
    '__proto__ 1',
    '\ufeff',
  ],
  codes: [
    '+ Wide view',
    '- Free coins',
    'Bare name',
    '1A2B3C4D 00000001',
    '0000 ff',
    '# c',
    '; c',
    '',
    '  ',
    '+',
    '-',
    '\n',
    '\r\n',
    '\u0000',
    '+ __proto__',
    '\ufeff',
  ],
  'ini-comments': [
    '[Graphics]',
    'Wide=1 ; on',
    'Name="a;b" # c',
    'Path=a;b',
    ';c',
    '=x',
    '[',
    '\n',
    '\r\n',
    '  ',
    '\u0000',
    '__proto__=1',
    '\ufeff',
  ],
  colons: [
    'volume:0.5',
    'lang: english',
    ' deep : 1 ',
    '# c',
    '! c',
    'broken',
    'a:b:c',
    ':',
    '\n',
    '\r\n',
    '\u0000',
    '__proto__:1',
    '\ufeff',
  ],
  language: [
    'harbour.name: "Gull Quay"',
    'harbour.name:0 "Again"',
    'english:',
    '# c',
    'x: "a \\"b\\" \\n"',
    'broken: text',
    '\n',
    '\r\n',
    ' k:1 "v" # c',
    '"',
    '\u0000',
    '__proto__: "1"',
    '\ufeff',
  ],
};

const dialects = Object.keys(PIECES) as Tree[];

const wild = (dialect: Tree) =>
  fc.oneof(
    fc.string(),
    fc
      .array(fc.oneof(fc.constantFrom(...PIECES[dialect]), fc.constant('\n')), { maxLength: 14 })
      .map((pieces) => pieces.join('')),
    fc.array(fc.constantFrom(...PIECES[dialect]), { maxLength: 10 }).map((pieces) => pieces.join('\n')),
  );

const plainValue = fc.stringMatching(/^[a-z0-9]([a-z0-9 ]{0,5}[a-z0-9])?$/);

describe.each(dialects)('%s documents', (dialect) => {
  it('law: an opened text is the same text, whatever it is, and reading it never fails', () => {
    fc.assert(
      fc.property(wild(dialect), (text) => {
        const document = openSettings(text, dialect);
        expect(document.text).toBe(text);
        expect(document.entries().every(({ line }) => line >= 1)).toBe(true);
        isWellFormed(text, dialect);
      }),
      { numRuns: 1500 },
    );
  });

  it('law: what is set is read, only its own line changes, and the other values stay', () => {
    fc.assert(
      fc.property(wild(dialect), plainValue, (text, value) => {
        const document = openSettings(text, dialect);
        for (const { path } of document.entries()) {
          const before = document.get(path);
          if (before === undefined || (dialect === BLOCK && path.length === 2)) continue;
          let after;
          try {
            after = document.set(path, value);
          } catch (error) {
            expect(error).toBeInstanceOf(SatchelError);
            continue;
          }
          expect(after.get(path)).toBe(value);
          const others = (all: { path: string[]; value: string }[]) =>
            all.filter((one) => one.path.join('\n') !== path.join('\n')).map((one) => [one.path, one.value]);
          if (!isWellFormed(text, dialect) || /[\r\n]/.test(before)) continue;
          expect(others(after.entries())).toEqual(others(document.entries()));
          const [a, b] = [text.split(/\r\n|\n|\r/), after.text.split(/\r\n|\n|\r/)];
          expect(b.filter((line, i) => line !== a[i]).length).toBeLessThanOrEqual(1);
        }
      }),
      { numRuns: 1000 },
    );
  });

  it('law: a key put in and taken out again leaves every value as it was', () => {
    const path = {
      codes: ['fresh'],
      'ini-comments': ['Late', 'fresh'],
      xml: ['a', 'fresh'],
      json: ['fresh', 'key'],
      commands: ['set', 'fresh'],
      blocks: ['look', 'fresh'],
      language: ['fresh'],
      yaml: ['fresh'],
      colons: ['fresh'],
      names: ['fresh'],
    }[dialect];
    const start = {
      codes: '',
      'ini-comments': '',
      xml: '<a>\n  <b x="1" />\n</a>\n',
      json: '{\n  "b": 1\n}\n',
      commands: '',
      blocks: 'look {\n  in "assets"\n}\n',
      language: '',
      yaml: 'video:\n  fov: 80\n',
      colons: 'volume:1\n',
      names: '',
    }[dialect];
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...PIECES[dialect].filter((piece) => isWellFormed(start + piece, dialect))), {
          maxLength: 6,
        }),
        plainValue,
        (pieces, plain) => {
          const text = start + pieces.map((piece) => `${piece}\n`).join('');
          fc.pre(isWellFormed(text, dialect));
          const document = openSettings(text, dialect);
          fc.pre(document.get(path) === undefined);
          const value = { codes: plain.length % 2 ? 'on' : 'off', names: '' }[dialect as string] ?? plain;
          const put = document.set(path, value);
          expect([put.get(path), isWellFormed(put.text, dialect)]).toEqual([value, true]);
          const values = (all: { path: string[]; value: string }[]) => all.map((one) => [one.path, one.value]);
          expect(
            values(put.remove(path).entries()).filter(([one]) => (one as string[])[0] !== 'fresh' || dialect === BLOCK),
          ).toEqual(values(document.entries()));
        },
      ),
    );
  });
});
