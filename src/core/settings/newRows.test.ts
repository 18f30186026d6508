import { XMLParser } from 'fast-xml-parser';
import fc from 'fast-check';
import { FAILSAFE_SCHEMA, dump as dumpYaml, load as loadYaml } from 'js-yaml';
import { describe, expect, it } from 'vitest';
import { applySettings, openSettings, takeBackSettings, type Dialect } from '@/core';

type Row = Record<string, string>;

const name = fc.stringMatching(/^[a-z]{2,6}$/);
const value = fc.stringMatching(/^[a-z][a-z0-9 ]{0,8}[a-z0-9]$/);
const row = fc.dictionary(name, value, { minKeys: 1, maxKeys: 4, noNullPrototype: true });
const rows = fc.array(row, { minLength: 1, maxLength: 4 });

/** The text with one more row, put in key by key; taken back, it is as it was, but for a sign behind the last block. */
function withRow(text: string, dialect: Dialect, at: readonly string[], fresh: Row): string {
  const edits = Object.entries(fresh).map(([key, one]) => ({ path: [...at, key], value: one }));
  const { document, applied } = applySettings(openSettings(text, dialect), edits);
  const back = takeBackSettings(document, applied);
  const plain = (of: string) => (dialect === 'blocks' ? of.replaceAll(',', '') : of);
  expect([plain(back.document.text), back.left]).toEqual([plain(text), []]);
  return document.text;
}

describe('one more of what a file lists, as other readers read it', () => {
  it('JSON: an object behind the others, on one line or several as they are', () => {
    fc.assert(
      fc.property(rows, row, fc.constantFrom(0, 2, '\t'), (there, fresh, space) => {
        const text = JSON.stringify({ rows: there }, null, space);
        const more = withRow(text, 'json', ['rows', String(there.length)], fresh);
        expect(JSON.parse(more)).toEqual({ rows: [...there, fresh] });
        expect(/\n/.test(more)).toBe(space !== 0);
      }),
    );
  });

  it('JSON: a file that is one list', () => {
    const more = withRow('[{"id":"a"}]', 'json', ['1'], { id: 'b', path: 'x' });
    expect(JSON.parse(more)).toEqual([{ id: 'a' }, { id: 'b', path: 'x' }]);
  });

  it('JSON: a number in quotes, and one without, as they are in the others', () => {
    for (const list of ['[{"id":"7","n":7}]', '{"rows":[{"id":"7","n":7}]}']) {
      const at = list.startsWith('[') ? ['1'] : ['rows', '1'];
      expect(withRow(list, 'json', at, { id: '8', n: '8' })).toContain('{ "id": "8", "n": 8 }');
      expect(withRow(list, 'json', at, { n: '8', id: '8' })).toContain('{ "n": 8, "id": "8" }');
    }
  });

  it('YAML: a block behind the others', () => {
    fc.assert(
      fc.property(rows, row, (there, fresh) => {
        const text = dumpYaml({ rows: there }, { schema: FAILSAFE_SCHEMA, lineWidth: -1 });
        const more = withRow(text, 'yaml', ['rows', String(there.length)], fresh);
        expect(loadYaml(more, { schema: FAILSAFE_SCHEMA })).toEqual({ rows: [...there, fresh] });
      }),
    );
  });

  it('XML: an element with attributes, and one with elements on lines of their own', () => {
    const parser = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '', parseTagValue: false });
    fc.assert(
      fc.property(fc.array(row, { minLength: 2, maxLength: 4 }), row, fc.boolean(), (there, fresh, asAttributes) => {
        const written = there.map((one) =>
          asAttributes
            ? `  <row ${Object.entries(one)
                .map(([key, said]) => `${key}="${said}"`)
                .join(' ')}/>\n`
            : `  <row>\n${Object.entries(one)
                .map(([key, said]) => `    <${key}>${said}</${key}>\n`)
                .join('')}  </row>\n`,
        );
        const sign = asAttributes ? '@' : '';
        const keys = Object.fromEntries(Object.entries(fresh).map(([key, said]) => [sign + key, said]));
        const text = `<rows>\n${written.join('')}</rows>\n`;
        const more = withRow(text, 'xml', ['rows', `row#${there.length + 1}`], keys);
        expect(parser.parse(more)).toEqual({ rows: { row: [...there, fresh] } });
        // Nothing of what was there is touched, and the new one ends a line.
        expect(more.startsWith(text.slice(0, -'\n</rows>\n'.length))).toBe(true);
        expect(more.endsWith('>\n</rows>\n')).toBe(true);
      }),
    );
  });

  it.each<[what: string, text: string, wanted: string]>([
    [
      'on one line, with signs between',
      'rows = {\n  { id = "a", n = 1 },\n  { id = "b", n = 2 },\n}\n',
      'rows = {\n  { id = "a", n = 1 },\n  { id = "b", n = 2 },\n  { id = "c", n = 3 },\n}\n',
    ],
    [
      'on several, the last one without a sign',
      'rows = {\n  {\n    id = "a",\n    n = 1\n  },\n  {\n    id = "b",\n    n = 2\n  }\n}\n',
      'rows = {\n  {\n    id = "a",\n    n = 1\n  },\n  {\n    id = "b",\n    n = 2\n  },\n  {\n    id = "c",\n    n = 3,\n  }\n}\n',
    ],
  ])('blocks without names: %s', (_, text, wanted) => {
    expect(withRow(text, 'blocks', ['rows', '3'], { id: 'c', n: '3' })).toBe(wanted);
  });

  it('commands: a second one of a name stays beside the first', () => {
    const text = 'set rain 0\nmount base.pak\nfog 2\n';
    const more = openSettings(text, 'commands').set(['mount', 'roman.pak'], '');
    expect(more.text).toBe('set rain 0\nmount base.pak\nmount roman.pak\nfog 2\n');
    expect(more.remove(['mount', 'roman.pak']).text).toBe(text);
    // One with a value of its own is no second name.
    expect(() => openSettings(text, 'commands').set(['mount', 'roman.pak'], 'first')).toThrow();
    // A number is no name: that is the value of a key.
    expect(() => openSettings(text, 'commands').set(['fog', 'thick'], '')).toThrow();
  });

  it('none behind a hole, none of another depth', () => {
    for (const [text, dialect, path] of [
      ['{"rows":[{"a":"1"}]}', 'json', ['rows', '2', 'a']],
      ['{"rows":[{"a":"1"}]}', 'json', ['rows', '1', 'a', 'b']],
      ['rows:\n  - a: 1\n', 'yaml', ['rows', '2', 'a']],
      ['rows:\n  - a\n', 'yaml', ['rows', '1', 'a']],
      ['<rows>\n  <row a="1"/>\n</rows>\n', 'xml', ['rows', 'row#3', '@a']],
      ['rows = {\n  { a = 1 },\n}\n', 'blocks', ['rows', '3', 'a']],
    ] as [string, Dialect, string[]][])
      expect(() => openSettings(text, dialect).set(path, 'x'), path.join('/')).toThrow();
  });
});
