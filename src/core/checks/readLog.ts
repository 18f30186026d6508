import type { LogRule } from '../games/card';

/** A line of a log that a rule knows. */
export interface LogEvent {
  /** Counted from 1. */
  line: number;
  text: string;
  rule: string;
  level: LogRule['level'];
  /** The rule's sentence with the fields filled in. */
  says: string;
  fields: Record<string, string>;
}

export interface LogReading {
  lines: number;
  events: LogEvent[];
  /** Lines that no rule knows. */
  unknown: number;
}

/** Reads a log by a card's rules; the first rule that fits a line counts. Longer lines than this (characters) are cut first. */
const LONGEST_LINE = 4096;

export function readLog(text: string, rules: readonly LogRule[]): LogReading {
  const compiled = rules.map((rule) => ({ rule, pattern: new RegExp(rule.pattern) }));
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/);
  if (lines.at(-1) === '') lines.pop();
  const events: LogEvent[] = [];
  let unknown = 0;
  lines.forEach((whole, i) => {
    const line = whole.slice(0, LONGEST_LINE);
    for (const { rule, pattern } of compiled) {
      const match = pattern.exec(line);
      if (!match) continue;
      const fields: Record<string, string> = { ...match.groups };
      events.push({ line: i + 1, text: line, rule: rule.id, level: rule.level, says: rule.says.replace(/\{(\w+)\}/g, (all, name: string) => fields[name] ?? all), fields });
      return;
    }
    if (line.trim() !== '') unknown++;
  });
  return { lines: lines.length, events, unknown };
}
