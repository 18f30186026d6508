import { XMLParser } from 'fast-xml-parser';
import { parse as parseIni } from 'ini';
import { parse as parseJson } from 'jsonc-parser';
import { openSettings, type Dialect } from '../src/core';
import { middleOfThree, report, timed } from './measure';

const LINES = 500_000;
const times = (n: number, line: (i: number) => string): string =>
  Array.from({ length: n }, (_, i) => line(i)).join('\n');

/** Settings files of 500,000 lines, against a reference reader of the same form, on the same text. */
export async function settingsLines(): Promise<void> {
  const ini = `${times(LINES, (i) => (i % 50 === 0 ? `[section ${i / 50}]` : `some_key_${i}=value number ${i} of all`))}\n`;
  const xml = `<settings>\n${times(LINES / 5, (i) => `  <item name="key_${i}" value="number ${i}" kind="plain"/>`)}\n</settings>\n`;
  const json = JSON.stringify(
    Object.fromEntries(
      Array.from({ length: LINES / 50 }, (_, i) => [
        `section_${i}`,
        Object.fromEntries(Array.from({ length: 49 }, (__, j) => [`key_${j}`, i * j])),
      ]),
    ),
    null,
    1,
  );
  const cases: [string, Dialect, string, string, (text: string) => unknown][] = [
    ['INI', 'ini', ini, 'ini', (text) => parseIni(text)],
    [
      'XML',
      'xml',
      xml,
      'fast-xml-parser',
      (text) =>
        new XMLParser({ ignoreAttributes: false, parseTagValue: false, processEntities: false }).parse(text) as unknown,
    ],
    ['JSON', 'json', json, 'jsonc-parser', (text) => parseJson(text) as unknown],
  ];
  for (const [name, dialect, text, reference, parse] of cases) {
    const ours = await middleOfThree(() =>
      timed(() => {
        if (openSettings(text, dialect).entries().length < LINES / 10) throw new Error('entries are missing');
      }),
    );
    const theirs = await middleOfThree(() => timed(() => void parse(text)));
    report({ name: `read ${name} of ${(text.length / 1e6).toFixed(0)} MB (Node)`, ours, reference, theirs, limit: 3 });
  }
}
