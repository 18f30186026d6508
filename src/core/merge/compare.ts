import { LineNumbers, diffLines, splitLines, type Change } from './lineDiff';

/** One line of a comparison; `a` and `b` count lines from 1 where the line stands in that side. */
export interface DiffLine {
  kind: 'same' | 'only a' | 'only b' | 'gap';
  text: string;
  a?: number;
  b?: number;
}

/** How many lines that are the same are shown around each difference. */
const CONTEXT = 3;

/**
 * Compares two texts line by line for being shown: differences with a few lines around them, `gap` where others are
 * left out.
 *
 * @param most lines after which the rest is left out
 */
export function compareTexts(a: string, b: string, most = 2000): DiffLine[] {
  const [left, right] = [splitLines(a), splitLines(b)];
  const numbers = new LineNumbers();
  const changes = diffLines(numbers.of(left), numbers.of(right));
  const lines: DiffLine[] = [];
  let at = 0;
  for (const [i, change] of changes.entries()) {
    const from = Math.max(at, change.a - CONTEXT);
    if (from > at) lines.push({ kind: 'gap', text: '' });
    const shift = change.b - change.a;
    for (let line = from; line < change.a; line++)
      lines.push({ kind: 'same', text: left[line] as string, a: line + 1, b: line + shift + 1 });
    for (let line = change.a; line < change.a + change.aCount; line++)
      lines.push({ kind: 'only a', text: left[line] as string, a: line + 1 });
    for (let line = change.b; line < change.b + change.bCount; line++)
      lines.push({ kind: 'only b', text: right[line] as string, b: line + 1 });
    at = change.a + change.aCount;
    const after = change.b + change.bCount - at;
    const until = Math.min(left.length, at + CONTEXT, changes[i + 1]?.a ?? Infinity);
    for (; at < until; at++) lines.push({ kind: 'same', text: left[at] as string, a: at + 1, b: at + after + 1 });
    if (lines.length > most) return [...lines.slice(0, most), { kind: 'gap', text: '' }];
  }
  if (changes.length > 0 && at < left.length) lines.push({ kind: 'gap', text: '' });
  return lines;
}

/** The differences as a unified diff (POSIX `diff -u`): `patch` makes the second text of the first. */
export function unifiedDiff(a: string, b: string, names: [a: string, b: string]): string {
  const [left, right] = [splitLines(a), splitLines(b)];
  const numbers = new LineNumbers();
  const changes = diffLines(numbers.of(left), numbers.of(right));
  if (changes.length === 0) return '';
  const hunks = groupsOf(changes).map((some) => hunkOf(some, left, right));
  return `--- ${names[0]}\n+++ ${names[1]}\n${hunks.join('')}`;
}

/** Changes whose surroundings touch are one hunk. */
function groupsOf(changes: readonly Change[]): Change[][] {
  const groups: Change[][] = [];
  let end = -Infinity;
  for (const change of changes) {
    if (change.a - end <= 2 * CONTEXT) groups.at(-1)?.push(change);
    else groups.push([change]);
    end = change.a + change.aCount;
  }
  return groups;
}

function hunkOf(changes: readonly Change[], left: readonly string[], right: readonly string[]): string {
  const [first, last] = [changes[0] as Change, changes.at(-1) as Change];
  const show = (mark: string, line: string) =>
    `${mark}${line}${line.endsWith('\n') ? '' : '\n\\ No newline at end of file\n'}`;
  const fromA = Math.max(0, first.a - CONTEXT);
  const toA = Math.min(left.length, last.a + last.aCount + CONTEXT);
  const fromB = first.b - (first.a - fromA);
  let body = '';
  let at = fromA;
  for (const change of changes) {
    for (; at < change.a; at++) body += show(' ', left[at] as string);
    for (; at < change.a + change.aCount; at++) body += show('-', left[at] as string);
    for (let line = change.b; line < change.b + change.bCount; line++) body += show('+', right[line] as string);
  }
  for (; at < toA; at++) body += show(' ', left[at] as string);
  const toB = last.b + last.bCount + (toA - last.a - last.aCount);
  const range = (from: number, to: number) => `${to === from ? from : from + 1},${to - from}`;
  return `@@ -${range(fromA, toA)} +${range(fromB, toB)} @@\n${body}`;
}

/** One line of a merged text, and which of the versions have it there, by their numbers. */
export interface MergedLine {
  text: string;
  from: number[];
}

const bare = (line: string): string => line.replace(/[\r\n]+$/, '');

/** A line as values see it: without blanks, which a merge by key takes from the file it edits. */
const packed = (line: string): string => line.replace(/\s+/g, '');

/**
 * Says of each line of a merged text which versions it comes from: those that have this line at this place, compared
 * line by line; where none has it there, those that have it anywhere but for its blanks. A line of none was written by
 * hand or put together out of several.
 *
 * @param versions the texts that it was merged out of; line ends and byte order marks do not matter
 */
export function lineOrigins(merged: string, versions: readonly string[]): MergedLine[] {
  const lines = splitLines(merged.replace(/^\ufeff/, '')).map(bare);
  const found = lines.map((text): MergedLine => ({ text, from: [] }));
  const numbers = new LineNumbers();
  const own = numbers.of(lines);
  const anywhere: Set<string>[] = [];
  for (const [version, text] of versions.entries()) {
    const theirs = splitLines(text.replace(/^\ufeff/, '')).map(bare);
    anywhere.push(new Set(theirs.map(packed)));
    const isNew = new Uint8Array(lines.length);
    for (const { b, bCount } of diffLines(numbers.of(theirs), own)) isNew.fill(1, b, b + bCount);
    for (const [i, line] of found.entries()) if (!isNew[i]) line.from.push(version);
  }
  for (const line of found) {
    if (line.from.length > 0 || packed(line.text) === '') continue;
    for (const [version, all] of anywhere.entries()) if (all.has(packed(line.text))) line.from.push(version);
  }
  return found;
}
