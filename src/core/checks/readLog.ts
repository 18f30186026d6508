import type { LogRule } from '../games/card';
import type { LogMessage } from './logMessage';
import { PlainReading } from './plainLog';
import { throwIfAborted } from '../errors';
import { joinPath } from '../paths/paths';
import type { WorkOptions } from '../progress';

export interface LogReading {
  lines: number;
  /** What no rule knew was read by the form that the lines have. */
  byForm: boolean;
  messages: LogMessage[];
  /** Lines that no rule knows. */
  unknown: number;
  /** The first of them, with their numbers. */
  unknownLines: { line: number; text: string }[];
}

/** What is cut: longer lines (characters), further lines of a trace, further unknown lines and different messages. */
const LONGEST_LINE = 4096;
const MOST_TRACE = 20;
const MOST_UNKNOWN = 200;
const MOST_MESSAGES = 20_000;
/** Progress and the wish to stop are looked at after so many lines. */
const AT_ONCE = 20_000;

/** What colours are written as (ECMA-48, control sequences). */
const COLOURS = /\u001b\[[0-9;?]*[ -/]*[@-~]/g;
/** A line that only goes on with the one before: indented, or "at …" as programs print where they were. */
const GOES_ON = /^(\s+\S|at\s+[\w.$<]|caused by[: ])/i;

interface Reader {
  rule: LogRule;
  pattern: RegExp;
}

/** A line as it is read: no longer than any sensible one, and without colours. */
function plainText(whole: string): string {
  const line = whole.length > LONGEST_LINE ? whole.slice(0, LONGEST_LINE) : whole;
  return line.includes('\u001b') ? line.replace(COLOURS, '') : line;
}

/** Reads lines one after the other, so that a log need never be split as a whole. */
class Reading {
  private readonly messages = new Map<string, LogMessage>();
  private readonly bySameText = new Map<string, LogMessage | null>();
  private readonly readers: Reader[];
  private readonly goesOn: RegExp;
  private before: LogMessage | undefined;
  lines = 0;
  private unknown = 0;
  private readonly unknownLines: { line: number; text: string }[] = [];

  constructor(
    rules: readonly LogRule[],
    trace: string | undefined,
    private readonly plain?: PlainReading,
  ) {
    this.readers = rules.map((rule) => ({ rule, pattern: new RegExp(rule.pattern) }));
    this.goesOn = trace === undefined ? GOES_ON : new RegExp(trace);
  }

  take(whole: string): void {
    this.lines++;
    const line = plainText(whole);
    const known = this.bySameText.get(line);
    if (known !== undefined && (known !== null || !this.plain)) return this.again(known, line);
    const found = known === null ? undefined : this.find(line);
    if (this.bySameText.size < MOST_MESSAGES) this.bySameText.set(line, found ?? null);
    if (!found && this.before && this.isMoreOf(line)) {
      if (this.before.count === 1 && this.before.trace.length < MOST_TRACE) this.before.trace.push(line);
      return;
    }
    this.again(found ?? null, line);
  }

  /** Does a line go on with the message before it? */
  private isMoreOf(line: string): boolean {
    return line.trim() !== '' && this.goesOn.test(line);
  }

  private again(message: LogMessage | null, line: string): void {
    this.before = message ?? undefined;
    if (this.plain) {
      if (!message) return this.plain.take(line, this.lines);
      this.plain.end();
    }
    if (message) {
      message.count++;
      message.last = this.lines;
    } else if (line.trim() !== '') {
      this.unknown++;
      if (this.unknownLines.length < MOST_UNKNOWN) this.unknownLines.push({ line: this.lines, text: line });
    }
  }

  private find(line: string): LogMessage | undefined {
    for (const { rule, pattern } of this.readers) {
      const match = pattern.exec(line);
      if (!match) continue;
      const fields: Record<string, string> = {};
      for (const [name, value] of Object.entries(match.groups ?? {})) if (value !== undefined) fields[name] = value;
      const says = rule.says.replace(/\{(\w+)\}/g, (all, name: string) =>
        Object.hasOwn(fields, name) ? (fields[name] as string) : all,
      );
      const key = `${rule.id}\n${says}`;
      let message = this.messages.get(key);
      if (!message) {
        message = {
          rule: rule.id,
          level: rule.level,
          says,
          fields,
          count: 0,
          first: this.lines,
          last: this.lines,
          text: line,
          trace: [],
        };
        if (this.messages.size < MOST_MESSAGES) this.messages.set(key, message);
      }
      return message;
    }
    return undefined;
  }

  result(): LogReading {
    const messages = [...this.messages.values(), ...(this.plain?.result() ?? [])];
    return {
      lines: this.lines,
      byForm: this.plain !== undefined,
      messages: this.plain ? messages.sort((a, b) => a.first - b.first) : messages,
      unknown: this.unknown,
      unknownLines: this.unknownLines,
    };
  }
}

/** Is a log read by its own form? Where the card has no rules for it but those that the player made. */
export const readsByForm = ({ rules }: { rules: readonly LogRule[] }): boolean =>
  rules.every(({ id }) => id.startsWith('own-'));

export interface LogOptions {
  /** A regular expression for lines that belong to the one before; without it indented ones do. */
  trace?: string | undefined;
  /**
   * What no rule knows is read by the form that the log itself has. The endings of the game's files and the packs', in
   * small letters.
   */
  plain?: { endings?: ReadonlySet<string> } | undefined;
}

/**
 * Reads a log by rules; the first rule that fits a line counts. Lines that say the same are folded, CRLF and lone CR
 * are line ends, colours are taken out (ECMA-48), what goes on with a line is kept with it.
 */
export function readLog(text: string, rules: readonly LogRule[], { trace, plain }: LogOptions = {}): LogReading {
  const reading = new Reading(rules, trace, plain && new PlainReading(text, plain.endings));
  for (const line of linesOf(text)) reading.take(line);
  return reading.result();
}

/** The files that a log misses: what its lines of trouble name as a file. */
export function missedFiles({ messages }: LogReading, rules: readonly LogRule[]): { path: string; line: number }[] {
  const byId = new Map(rules.map((rule) => [rule.id, rule]));
  return messages.flatMap(({ rule, level, fields, first, about: own }) => {
    const about = own ?? byId.get(rule)?.about;
    const path = about?.kind === 'file' && (level === 'warning' || level === 'error') ? fields[about.field] : undefined;
    return path === undefined
      ? []
      : [
          {
            path: about?.kind === 'file' && about.under !== undefined ? joinPath(about.under, path) : path,
            line: first,
          },
        ];
  });
}

/** The same for a log of a million lines: tells how far it is and stops when asked to. */
export async function readLongLog(
  text: string,
  rules: readonly LogRule[],
  { trace, plain, signal, onProgress }: WorkOptions & LogOptions = {},
): Promise<LogReading> {
  const reading = new Reading(rules, trace, plain && new PlainReading(text, plain.endings));
  let done = 0;
  for (const line of linesOf(text)) {
    reading.take(line);
    done += line.length + 1;
    if (reading.lines % AT_ONCE !== 0) continue;
    throwIfAborted(signal);
    onProgress?.({ phase: 'Reading the log', done, total: text.length, unit: 'bytes' });
    await new Promise((next) => setTimeout(next, 0));
  }
  return reading.result();
}

function* linesOf(text: string): Iterable<string> {
  let start = text.startsWith('\ufeff') ? 1 : 0;
  const lone = /\r(?!\n)/.test(text);
  while (start < text.length) {
    let end = text.indexOf('\n', start);
    if (end < 0) end = text.length;
    const line = text.slice(start, text[end - 1] === '\r' && end > start ? end - 1 : end);
    if (lone && line.includes('\r')) yield* line.split('\r');
    else yield line;
    start = end + 1;
  }
}

/** The rules that know most of a text: which game a log is from. `sets` are tried on its first lines. */
export function fittingRules<T extends { rules: readonly LogRule[] }>(text: string, sets: readonly T[]): T | undefined {
  const head = text.slice(0, 400_000);
  let best: { set: T; known: number } | undefined;
  for (const set of sets) {
    if (set.rules.length === 0) continue;
    const { messages } = readLog(head, set.rules);
    const known = messages.reduce((sum, { count }) => sum + count, 0);
    if (known > (best?.known ?? 0)) best = { set, known };
  }
  return best?.set;
}
