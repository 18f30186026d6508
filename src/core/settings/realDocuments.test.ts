import { readFileSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { decodeText, isWellFormed, openSettings, type Dialect } from '@/core';
import { has, runTool } from '../../../tests/support/tools';

/*
 * Real documents of the machine that the tests run on: its system files, and the sources of the packages that this
 * project uses. They are read where they lie and never copied into the repository.
 */
const PLACES = [
  '/etc',
  '/usr/share/applications',
  '/usr/share/fontconfig',
  '/usr/share/xml',
  '/usr/share/mime',
  '/usr/lib/systemd',
  '/usr/lib/python3',
  path.resolve('node_modules'),
];
const ENDINGS: Record<string, Dialect> = {
  '.ini': 'ini',
  '.desktop': 'ini',
  '.service': 'ini',
  '.cfg': 'ini',
  '.xml': 'xml',
  '.svg': 'xml',
  '.json': 'json',
};
const MOST = { files: 120, size: 200_000, folders: 4000 };

function findDocuments(): Record<'ini' | 'xml' | 'json', { file: string; bytes: Buffer }[]> {
  const found = { ini: [], xml: [], json: [] } as Record<'ini' | 'xml' | 'json', { file: string; bytes: Buffer }[]>;
  const waiting = [...PLACES];
  for (let seen = 0; waiting.length > 0 && seen < MOST.folders; seen++) {
    const folder = waiting.shift() as string;
    let entries;
    try {
      entries = readdirSync(folder, { withFileTypes: true });
    } catch {
      continue;
    }
    for (const entry of entries) {
      const full = path.join(folder, entry.name);
      if (entry.isDirectory()) waiting.push(full);
      const dialect = entry.isFile() ? ENDINGS[path.extname(entry.name)] : undefined;
      if (!dialect || found[dialect as 'ini'].length >= MOST.files) continue;
      try {
        const { size } = statSync(full);
        if (size > 0 && size < MOST.size) found[dialect as 'ini'].push({ file: full, bytes: readFileSync(full) });
      } catch {
        // A file that may not be read is none of ours.
      }
    }
  }
  return found;
}
const documents = findDocuments();

describe.each(['ini', 'xml', 'json'] as const)('real documents: %s', (dialect) => {
  const all = documents[dialect];

  it.skipIf(all.length === 0)(`${all.length} of them come back byte for byte, damaged ones too`, () => {
    for (const { file, bytes } of all) {
      const decoded = decodeText(bytes);
      const document = openSettings(decoded.text, dialect);
      document.entries();
      expect(Buffer.compare(decoded.encode(document.text) as Uint8Array, bytes), file).toBe(0);
    }
    // Seeded damage: cut, repeated and swapped pieces.
    fc.assert(
      fc.property(fc.constantFrom(...all), fc.nat(), fc.nat(), fc.nat(200), ({ bytes }, a, b, length) => {
        const { text } = decodeText(bytes);
        const [from, to] = [a % text.length, b % text.length];
        const damaged = text.slice(0, from) + text.slice(to, to + length) + text.slice(from + (length >> 1));
        const document = openSettings(damaged, dialect);
        document.entries();
        isWellFormed(damaged, dialect);
        expect(document.text).toBe(damaged);
      }),
      { numRuns: 600, seed: 11 },
    );
  });

  it.skipIf(all.length === 0)(
    'a value that is set changes only its own line, and put back gives every byte back',
    () => {
      let tried = 0;
      for (const { file, bytes } of all) {
        const { text } = decodeText(bytes);
        const document = openSettings(text, dialect);
        const one = document
          .entries()
          .find(
            ({ path: at, value }) =>
              /^[\w. -]{1,40}$/.test(value) && value === value.trim() && document.get(at) === value,
          );
        if (!one) continue;
        let changed;
        try {
          changed = document.set(one.path, dialect === 'json' && /^\d/.test(one.value) ? '7777' : 'seven');
        } catch {
          continue;
        }
        tried++;
        const [before, after] = [text.split('\n'), changed.text.split('\n')];
        expect(after.length, file).toBe(before.length);
        expect(after.filter((line, i) => line !== before[i]).length, file).toBe(1);
        if (dialect !== 'json') expect(changed.set(one.path, one.value).text, file).toBe(text);
      }
      expect(tried).toBeGreaterThan(all.length / 10);
    },
  );
});

describe('real documents, against other readers', () => {
  it.skipIf(documents.json.length === 0)('JSON: the values that JSON.parse finds', () => {
    let read = 0;
    for (const { file, bytes } of documents.json) {
      let value: unknown;
      try {
        value = JSON.parse(bytes.toString('utf8'));
      } catch {
        continue;
      }
      const wanted: [string, string][] = [];
      const walk = (one: unknown, at: string[]) => {
        if (typeof one === 'object' && one !== null && Object.keys(one).length > 0)
          for (const [key, inner] of Object.entries(one)) walk(inner, [...at, key]);
        else if (at.length > 0) wanted.push([at.join('\n'), typeof one === 'string' ? one : JSON.stringify(one)]);
      };
      walk(value, []);
      const ours = new Map(
        openSettings(bytes.toString('utf8'), 'json')
          .entries()
          .map(({ path: at, value: text }) => [at.join('\n'), text]),
      );
      for (const [at, text] of wanted) if (!/^[\d[{]/.test(text)) expect(ours.get(at), `${file} ${at}`).toBe(text);
      expect(ours.size, file).toBe(wanted.length);
      read++;
    }
    expect(read).toBeGreaterThan(0);
  });

  it.skipIf(documents.xml.length === 0)(
    'XML: as many attributes, with the same values, as fast-xml-parser finds',
    () => {
      let read = 0;
      for (const { file, bytes } of documents.xml) {
        const text = decodeText(bytes).text;
        if (/<!DOCTYPE|<!ENTITY|&/.test(text) || XMLValidator.validate(text) !== true) continue;
        const found: string[] = [];
        const walk = (one: unknown) => {
          if (typeof one !== 'object' || one === null) return;
          for (const [key, inner] of Object.entries(one)) {
            if (key.startsWith('@_')) found.push(`${key.slice(2)}=${String(inner)}`);
            else if (Array.isArray(inner)) inner.forEach(walk);
            else walk(inner);
          }
        };
        walk(
          new XMLParser({
            ignoreAttributes: false,
            attributeNamePrefix: '@_',
            parseAttributeValue: false,
            trimValues: false,
            ignoreDeclaration: true,
            ignorePiTags: true,
          }).parse(text),
        );
        const ours = openSettings(text, 'xml')
          .entries()
          .flatMap(({ path: at, value }) => (at.at(-1)?.startsWith('@') ? [`${at.at(-1)?.slice(1)}=${value}`] : []));
        expect([...ours].sort(), file).toEqual([...found].sort());
        read++;
      }
      expect(read).toBeGreaterThan(0);
    },
  );

  it.skipIf(documents.ini.length === 0 || !has('python3'))('INI: the values that Python’s configparser finds', () => {
    const files = documents.ini.map(({ file }) => file);
    const program = [
      'import configparser,json,sys',
      'out={}',
      'for f in json.loads(sys.stdin.read()):',
      '  c=configparser.RawConfigParser(strict=True,delimiters=("=",),comment_prefixes=("#",";"),default_section="\\0",empty_lines_in_values=False)',
      '  c.optionxform=str',
      '  try:',
      '    c.read(f,encoding="utf-8")',
      '    out[f]={s:dict(c.items(s)) for s in c.sections()}',
      '  except Exception: pass',
      'print(json.dumps(out))',
    ].join('\n');
    const answer = JSON.parse(
      runTool('python3', ['-c', program], { input: JSON.stringify(files) }).toString(),
    ) as Record<string, Record<string, Record<string, string>>>;
    let values = 0;
    for (const [file, sections] of Object.entries(answer)) {
      const document = openSettings(decodeText(readFileSync(file)).text, 'ini');
      for (const [section, keys] of Object.entries(sections))
        for (const [key, value] of Object.entries(keys)) {
          // A value over several lines is one thing to configparser and several lines to a game.
          if (value.includes('\n') || key.includes('#')) continue;
          expect(document.get([section, key]), `${file} [${section}] ${key}`).toBe(value);
          values++;
        }
    }
    expect(values).toBeGreaterThan(0);
  });
});
