import { describe, expect, it } from 'vitest';
import { rowsAsSentences } from './settingsTables';

const isKey = (cell: string) => ['limit', 'from', 'fog'].includes(cell);

describe('tables that tell settings', () => {
  it.each([
    [
      'the new value, with where it is',
      'Do this:\n\n| where | what | old | new |\n|---|:-:|---|---|\n| a.json | `limit` | 2 | 3 |\n| a.json | from | game | all of it |\nDone',
      'Do this:\n\n\n\na.json, limit=3.\na.json, from="all of it".\nDone',
    ],
    ['without bars at the sides', 'key | value\n--- | ---\nfog | 0', '\n\nfog=0'],
    [
      'a table of something else stays',
      '| who | what |\n|---|---|\n| me | fog |',
      '| who | what |\n|---|---|\n| me | fog |',
    ],
    ['rows that name no key stay', '| key | value |\n|---|---|\n| hue | 0 |', '\n\n| hue | 0 |'],
    [
      'a row longer than anybody reads stays, and ends the table: forms are not tried on what may take minutes',
      `| key | value |\n|---|---|\n| fog | ${'9'.repeat(2000)} |\n| fog | 1 |`,
      `\n\n| fog | ${'9'.repeat(2000)} |\n| fog | 1 |`,
    ],
    ['bars without a table stay', 'fog | 0', 'fog | 0'],
  ])('%s', (_, text, wanted) => {
    expect(rowsAsSentences(text, isKey)).toBe(wanted);
  });

  it('keeps every line where it is, and is quick with what looks like one', () => {
    const text = `| a | new |\n|---|---|\n${'| fog | '.repeat(20_000)}\n`.repeat(3);
    expect(rowsAsSentences(text, isKey).split('\n')).toHaveLength(text.split('\n').length);
  });
});
