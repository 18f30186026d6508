import type { LogRule } from '../games/card';

/** A part of a line that changes from line to line. */
export interface ChangingPart {
  start: number;
  end: number;
  /** What it is called in the sentence: letters and digits. */
  name: string;
}

const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
/** Numbers that stand for themselves, such as times, change too. */
const withNumbers = (text: string): string => escape(text).replace(/\d+/g, '\\d+');

/**
 * A rule out of one line of a log, in which the player has marked what changes. Numbers elsewhere in it may change,
 * too.
 *
 * @example ruleFromLine('12 missing a.png', [{ start: 11, end: 16, name: 'file' }], { id: 'own-1', level: 'warning',
 * says: 'Missing: {file}' }).pattern // '^\\d+ missing (?<file>.+?)$'
 */
export function ruleFromLine(
  line: string,
  parts: readonly ChangingPart[],
  about: Pick<LogRule, 'id' | 'level' | 'says'>,
): LogRule {
  let pattern = '^';
  let at = 0;
  for (const { start, end, name } of [...parts].sort((a, b) => a.start - b.start)) {
    if (start < at || end <= start || !/^[a-z]\w{0,30}$/i.test(name)) continue;
    pattern += `${withNumbers(line.slice(at, start))}(?<${name}>.+?)`;
    at = end;
  }
  const file = parts.find(({ name, start, end }) => name === 'file' || /\.\w{2,5}$/.test(line.slice(start, end)));
  return {
    ...about,
    pattern: `${pattern}${withNumbers(line.slice(at))}$`,
    ...(file ? { about: { kind: 'file' as const, field: file.name } } : {}),
  };
}
