import { headsGoingBack, headsNothing, isHeading } from './noRequest';
import { isCode, sentencesOf } from './readMeSentences';

/** A piece of a read-me: a sentence, or lines that stand for themselves. */
export type Unit =
  { line: number; sentence: string; code?: undefined } | { line: number; code: { text: string; line: number }[] };

/** A block in braces as a file has it: its name, and what is in it on lines of its own. */
const BRACE_OPENS = /^\s*["']?[\w.-]{1,40}["']?\s*[:=]?\s*\{\s*$/;
const LONGEST_BLOCK = 60;
const MOST_LINES = 8000;
const LONGEST_CODE = 400;

/** Sentences and blocks of lines of what is heard, in their order. */
export function settingsUnits(written: string, isCommand: (line: string) => boolean = () => false): Unit[] {
  const lines = written
    .replace(/^\ufeff/, '')
    .split(/\r\n|\n|\r/)
    .slice(0, MOST_LINES);
  // Commands on lines of their own belong to no sentence.
  const commands = new Set(lines.flatMap((line, i) => (line.length <= LONGEST_CODE && isCommand(line) ? [i] : [])));
  const text = commands.size > 0 ? lines.map((line, i) => (commands.has(i) ? '' : line)).join('\n') : written;
  const units: Unit[] = sentencesOf(text).map(({ text: sentence, line }) => ({ line, sentence }));
  let block: { text: string; line: number }[] = [];
  const flush = () => {
    if (block.length > 0) units.push({ line: (block[0] as { line: number }).line, code: block });
    block = [];
  };
  lines.forEach((whole, i) => {
    if (commands.has(i) || (whole.length <= LONGEST_CODE && isCode(whole))) block.push({ text: whole, line: i + 1 });
    else if (whole.trim() !== '' || block.length === 0 || !isCode(lines[i + 1] ?? '')) flush();
  });
  flush();
  units.push(...bracesIn(lines));
  return units.sort((a, b) => a.line - b.line);
}

/** The text without what stands below a heading of going back, or of other things, up to the next heading. */
export function heardText(written: string): string {
  const lines = written.split(/\r\n|\n|\r/);
  let isPassedOver = false;
  return lines
    .map((line, i) => {
      if (headsGoingBack(line) || headsNothing(line, lines[i + 1])) isPassedOver = true;
      else if (isHeading(line)) isPassedOver = false;
      return isPassedOver ? '' : line;
    })
    .join('\n');
}

function bracesIn(lines: readonly string[]): Unit[] {
  const units: Unit[] = [];
  for (let from = 0; from < lines.length; from++) {
    const to = BRACE_OPENS.test(lines[from] ?? '') ? endOfBlock(lines, from) : -1;
    if (to < 0) continue;
    units.push({ line: from + 1, code: lines.slice(from, to + 1).map((text, i) => ({ text, line: from + i + 1 })) });
    from = to;
  }
  return units;
}

/** The line that closes a block; -1 where none does. */
function endOfBlock(lines: readonly string[], from: number): number {
  let deep = 0;
  for (let i = from; i < Math.min(lines.length, from + LONGEST_BLOCK); i++) {
    const line = lines[i] ?? '';
    deep += line.split('{').length - line.split('}').length;
    if (deep === 0) return i;
  }
  return -1;
}
