import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { XMLParser } from 'fast-xml-parser';
import fc from 'fast-check';
import { FAILSAFE_SCHEMA, dump as dumpYaml, load as loadYaml } from 'js-yaml';
import { parse as parseJsonc } from 'jsonc-parser';
import { describe, expect, it } from 'vitest';
import { openSettings } from '@/core';
import { has, runTool, temporaryFolder } from '../../../tests/support/tools';

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
