const ROW = /^\s*\|?([^|\n]+(?:\|[^|\n]*)+)\|?\s*$/;
const RULE = /^\s*\|?\s*:?-+:?\s*(?:\|\s*:?-+:?\s*)+\|?\s*$/;

/** What stands above the values that are wanted, and above those that are there. */
const WANTED =
  /^(?:new|to|after|values?|wanted|set to|change to|should be|neu|nachher|auf|wert|soll|nuevo|después|valor|nouveau|après|valeur)(?: values?| wert)?$/i;
const THERE =
  /^(?:old|from|before|now|was|is|default|original|alt|vorher|bisher|von|ist|viejo|antes|actual|ancien|avant|défaut)(?: values?| wert)?$/i;

/** Longer lines (characters) are none of a table that anybody reads. */
const LONGEST_ROW = 1000;
const is = (form: RegExp, line = ''): boolean => line.length <= LONGEST_ROW && form.test(line);

const cellsOf = (line: string): string[] =>
  (ROW.exec(line)?.[1] ?? '').split('|').map((cell) => cell.trim().replace(/^[`*_"]+|[`*_"]+$/g, ''));

/**
 * Rows of a table that tells settings, as sentences in their lines: “candle.json, shapes, limit=3.” Tables are
 * Markdown's (GitHub Flavored Markdown, 4.10): a head, a line of dashes, rows with bars between.
 *
 * @param isKey does a cell name a key?
 */
export function rowsAsSentences(text: string, isKey: (cell: string) => boolean): string {
  if (!text.includes('|')) return text;
  const lines = text.split('\n');
  for (let i = 1; i < lines.length; i++) {
    if (!is(RULE, lines[i]) || !is(ROW, lines[i - 1])) continue;
    const head = cellsOf(lines[i - 1] ?? '');
    const wanted = head.findLastIndex((cell) => WANTED.test(cell));
    if (wanted < 0) continue;
    [lines[i - 1], lines[i]] = ['', ''];
    for (i++; i < lines.length && is(ROW, lines[i]); i++) {
      lines[i] = rowAsSentence(lines[i] ?? '', head, wanted, isKey);
    }
  }
  return lines.join('\n');
}

function rowAsSentence(row: string, head: readonly string[], wanted: number, isKey: (cell: string) => boolean): string {
  const cells = cellsOf(row);
  const value = cells[wanted] ?? '';
  const others = cells.filter((cell, n) => n !== wanted && cell !== '' && !THERE.test(head[n] ?? ''));
  const key = others.findLast(isKey);
  if (key === undefined || value === '') return row;
  const line = `${key}=${/\s/.test(value) ? `"${value}"` : value}`;
  const where = others.filter((cell) => cell !== key);
  return where.length > 0 ? `${where.join(', ')}, ${line}.` : line;
}
