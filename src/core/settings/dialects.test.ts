import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { XMLParser } from 'fast-xml-parser';
import fc from 'fast-check';
import { FAILSAFE_SCHEMA, dump as dumpYaml, load as loadYaml } from 'js-yaml';
import { parse as parseJsonc } from 'jsonc-parser';
import { describe, expect, it } from 'vitest';
import { SatchelError, isWellFormed, openSettings, type Dialect } from '@/core';
import { has, runTool, temporaryFolder } from '../../../tests/support/tools';

type Tree = Exclude<Dialect, 'ini'>;
/** The one whose values can have several lines. */
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
          const value = dialect === BLOCK ? (plain.length % 2 ? 'on' : 'off') : plain;
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

describe('values, against other readers', () => {
  it.each(['0e0', '1.50', '-0', '12345678901234567890'])('JSON: a new number stays as it is written: %s', (value) => {
    const put = openSettings('{\n  "b": 1\n}\n', 'json').set(['fresh', 'key'], value);
    expect(put.text.replace(/\s/g, '')).toBe(`{"b":1,"fresh":{"key":${value}}}`);
    expect(JSON.parse(put.text)).toEqual({ b: 1, fresh: { key: Number(value) } });
  });
  const name = fc.stringMatching(/^[a-z]{1,5}$/);
  it('JSON: the members that JSON.parse and jsonc-parser find', () => {
    const leaf = fc.oneof(fc.string(), fc.integer(), fc.boolean(), fc.constant(null));
    const json = fc.dictionary(
      name,
      fc.oneof(leaf, fc.dictionary(name, fc.oneof(leaf, fc.array(leaf, { minLength: 1 })), { minKeys: 1 })),
      { minKeys: 1 },
    );
    const flat = (value: unknown, path: string[] = []): [string[], string][] =>
      typeof value === 'object' && value !== null
        ? Object.entries(value).flatMap(([key, inner]) => flat(inner, [...path, key]))
        : [[path, typeof value === 'string' ? value : JSON.stringify(value)]];
    fc.assert(
      fc.property(json, fc.constantFrom(0, 2, '\t'), (value, space) => {
        const text = JSON.stringify(value, null, space);
        expect(
          openSettings(text, 'json')
            .entries()
            .map((one) => [one.path, one.value]),
        ).toEqual(flat(JSON.parse(text)));
        const commented = text.replace(/,\n/g, ', // c\n');
        if (space !== 0)
          expect(
            openSettings(commented, 'json')
              .entries()
              .map((one) => [one.path, one.value]),
          ).toEqual(flat(parseJsonc(commented)));
      }),
    );
  });

  it('YAML: the values that js-yaml finds, in blocks, in brackets and in quotes', () => {
    const word = fc.oneof(
      fc.stringMatching(/^[a-z][a-z0-9 ]{0,6}[a-z0-9]$/),
      fc.constantFrom('yes: no', '# none', "it's", '"so"', '', ' a ', '- b', '3', 'true'),
    );
    const leaf = fc.oneof(word, fc.array(word, { minLength: 1, maxLength: 3 }));
    const flat = (value: unknown, path: string[] = []): [string[], string][] =>
      typeof value === 'object' && value !== null
        ? Object.entries(value).flatMap(([key, inner]) => flat(inner, [...path, key]))
        : [[path, String(value)]];
    fc.assert(
      fc.property(
        fc.dictionary(name, fc.oneof(leaf, fc.dictionary(name, leaf, { minKeys: 1 })), {
          minKeys: 1,
          noNullPrototype: true,
        }),
        fc.constantFrom(-1, 1, 2),
        fc.boolean(),
        (value, flowLevel, always) => {
          const text = dumpYaml(value, { flowLevel, forceQuotes: always, lineWidth: -1, schema: FAILSAFE_SCHEMA });
          expect(
            openSettings(text, 'yaml')
              .entries()
              .map((one) => [one.path, one.value]),
          ).toEqual(flat(loadYaml(text, { schema: FAILSAFE_SCHEMA })));
        },
      ),
    );
  });

  it.skipIf(!has('cut'))('colons: the names and values that cut finds before and behind the first colon', () => {
    const folder = temporaryFolder();
    fc.assert(
      fc.property(
        fc.dictionary(name, fc.stringMatching(/^[a-z0-9:./=-]{1,12}$/), { minKeys: 1, noNullPrototype: true }),
        (values) => {
          const text = Object.entries(values)
            .map(([key, value]) => `${key}:${value}\n`)
            .join('');
          writeFileSync(path.join(folder, 'options.txt'), text);
          const column = (fields: string) =>
            runTool('cut', ['-d:', `-f${fields}`, 'options.txt'], { cwd: folder })
              .toString()
              .split('\n')
              .slice(0, -1);
          const entries = openSettings(text, 'colons').entries();
          expect([entries.map((one) => one.path[0]), entries.map((one) => one.value)]).toEqual([
            column('1'),
            column('2-'),
          ]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('XML: one more element of a name is the next beside the others, as fast-xml-parser reads it', () => {
    const list = '<mods>\n\t<li>one</li>\n\t<li>two</li>\n</mods>\n';
    const document = openSettings(list, 'xml');
    const more = document.set(['mods', 'li#3'], 'three & four').text;
    expect(more).toBe('<mods>\n\t<li>one</li>\n\t<li>two</li>\n\t<li>three &amp; four</li>\n</mods>\n');
    const read = new XMLParser().parse(more) as { mods: { li: string[] } };
    expect(read.mods.li).toEqual(['one', 'two', 'three & four']);
    expect(openSettings(more, 'xml').get(['mods', 'li#3'])).toBe('three & four');
    // Not one after the next.
    expect(() => document.set(['mods', 'li#5'], 'five')).toThrow();
  });
  it('XML: the attributes and texts that fast-xml-parser finds', () => {
    const text = fc.stringMatching(/^[a-z0-9&<>"'. ]{0,8}$/).map((one) => one.trim());
    const escape = (one: string) => one.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
    const element = fc.record({
      tag: name,
      attributes: fc.dictionary(name, text, { maxKeys: 3 }),
      inner: fc.stringMatching(/^[a-z0-9]{1,6}$/),
    });
    const parser = new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: '@',
      parseTagValue: false,
      trimValues: true,
      htmlEntities: true,
    });
    fc.assert(
      fc.property(fc.uniqueArray(element, { selector: ({ tag }) => tag, minLength: 1, maxLength: 4 }), (elements) => {
        const xml = `<?xml version="1.0"?>\n<!-- c -->\n<root>\n${elements
          .map(
            ({ tag, attributes, inner }) =>
              `  <${tag}${Object.entries(attributes)
                .map(([key, value]) => ` ${key}="${escape(value)}"`)
                .join('')}>${inner}</${tag}>\n`,
          )
          .join('')}</root>\n`;
        const reference = (parser.parse(xml) as { root: Record<string, string | Record<string, string>> }).root;
        const document = openSettings(xml, 'xml');
        for (const { tag, attributes } of elements) {
          const theirs = reference[tag];
          expect(document.get(['root', tag])).toBe(typeof theirs === 'string' ? theirs : theirs?.['#text']);
          for (const key of Object.keys(attributes))
            expect(document.get(['root', tag, `@${key}`])).toBe((theirs as Record<string, string>)[`@${key}`]);
        }
      }),
    );
  });
});

describe('hostile and odd texts', () => {
  it('entities of a file are not expanded, and deep files are left alone', () => {
    const bomb = '<!DOCTYPE a [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]>\n<a x="&b;">&b;</a>';
    expect(openSettings(bomb, 'xml').get(['a', '@x'])).toBe('&b;');
    for (const [dialect, deep] of [
      ['xml', '<a>'.repeat(100_000)],
      ['json', '['.repeat(100_000)],
      ['blocks', 'a {'.repeat(100_000)],
      ['yaml', '['.repeat(100_000)],
      ['yaml', '- '.repeat(50_000)],
    ] as const) {
      expect(openSettings(deep, dialect).entries()).toEqual([]);
      expect(isWellFormed(deep, dialect)).toBe(false);
    }
  });

  it('says what cannot be held, and changes nothing', () => {
    expect(() => openSettings('<a x="1"/>', 'xml').set(['a', '@x'], 'a\u0000b')).toThrow(SatchelError);
    expect(() => openSettings('set fov 80\n', 'commands').set(['set', 'fov'], '1\nquit')).toThrow(SatchelError);
    expect(() => openSettings('a {\n}\n', 'blocks').set(['a', 'k'], 'x\n} evil {')).toThrow(SatchelError);
    expect(() => openSettings('[1, 2]', 'json').set(['7', 'x'], '1')).toThrow(SatchelError);
  });

  it.each([
    [
      'xml',
      '<view>\r\n\t<camera fov="80" />\r\n</view>\r\n',
      ['view', 'camera', '@fov'],
      '84',
      '<view>\r\n\t<camera fov="84" />\r\n</view>\r\n',
    ],
    [
      'xml',
      '<view>\n  <camera fov="80" />\n</view>\n',
      ['view', 'light'],
      '3',
      '<view>\n  <camera fov="80" />\n  <light>3</light>\n</view>\n',
    ],
    ['json', '{\n  // wide\n  "fov": 80,\n}\n', ['fov'], '84', '{\n  // wide\n  "fov": 84,\n}\n'],
    ['json', '{\n\t"a": "1"\n}\n', ['a'], '2', '{\n\t"a": "2"\n}\n'],
    ['commands', 'set fov 80 \nbind F5 "save"\n', ['set', 'wide'], '1', 'set fov 80 \nbind F5 "save"\nset wide 1\n'],
    [
      'commands',
      'load heron\n  load tern\nset fov 80\n',
      ['load', 'otter'],
      '',
      'load heron\n  load tern\nload otter\nset fov 80\n',
    ],
    [
      'blocks',
      'look {\n  in "assets" // first\n}\n',
      ['look', 'each'],
      'addons',
      'look {\n  in "assets" // first\n  each addons\n}\n',
    ],
    [
      'blocks',
      'look = {\n  fov = 80,\n  wide = 1\n}\n',
      ['look', 'fov'],
      '84',
      'look = {\n  fov = 84,\n  wide = 1\n}\n',
    ],
    [
      'blocks',
      'look = {\n  fov = 80,\n  wide = 1\n}\n',
      ['look', 'far'],
      '9',
      'look = {\n  fov = 80,\n  wide = 1,\n  far = 9,\n}\n',
    ],
    ['blocks', 'look\n{\n  fov 80;\n}\n', ['look', 'fov'], '84', 'look\n{\n  fov 84;\n}\n'],
    ['blocks', 'view={ fov=80, wide="no" }\n', ['view', 'wide'], 'yes', 'view={ fov=80, wide="yes" }\n'],
    ['blocks', 'view: {\n  fov: 80\n}\n', ['view', 'far'], '3', 'view: {\n  fov: 80\n  far: 3\n}\n'],
    ['yaml', 'video:\r\n  fov: 80 # wide\r\n', ['video', 'fov'], '84', 'video:\r\n  fov: 84 # wide\r\n'],
    [
      'yaml',
      'video:\n  fov: 80\nsound: on\n',
      ['video', 'far'],
      'as it is',
      'video:\n  fov: 80\n  far: as it is\nsound: on\n',
    ],
    ['yaml', 'mods:\n- one\n- two\n', ['mods', '2'], 'three', 'mods:\n- one\n- two\n- three\n'],
    ['yaml', 'a: "1"\nb:\n', ['b'], '# 2', 'a: "1"\nb: "# 2"\n'],
    ['colons', 'volume:1\n', ['lang'], 'fr', 'volume:1\nlang:fr\n'],
    [
      'language',
      'english:\n quay:0 "Quay"\n',
      ['pier'],
      'The "old" pier',
      'english:\n quay:0 "Quay"\n pier:0 "The \\"old\\" pier"\n',
    ],
  ] as const)('%s: %j', (dialect, text, path, value, wanted) => {
    expect(openSettings(text, dialect).set([...path], value).text).toBe(wanted);
    expect(openSettings(wanted, dialect).get([...path])).toBe(value);
  });

  it.each([
    [
      'commands that stand there once, or with numbers, are values',
      'load heron\nfov 80\nfov 90\n',
      'load=heron fov=80 fov=90',
    ],
    [
      'several of one kind are a list',
      'load heron\nload tern\nsay on\nsay off\n',
      'load/heron= load/tern= say=on say=off',
    ],
    ['a name that stands there twice makes none', 'load heron\nload heron\n', 'load=heron load=heron'],
  ])('%s', (_, text, wanted) => {
    expect(
      openSettings(text, 'commands')
        .entries()
        .map(({ path, value }) => `${path.join('/')}=${value}`)
        .join(' '),
    ).toBe(wanted);
  });

  it('one of several commands goes alone, and comes back', () => {
    const text = 'load heron\r\nload tern\r\nload otter\r\n';
    const document = openSettings(text, 'commands').remove(['load', 'tern']);
    expect(document.text).toBe('load heron\r\nload otter\r\n');
    expect(document.set(['load', 'tern'], '').text).toBe('load heron\r\nload otter\r\nload tern\r\n');
  });
});
