import { crc32Of } from '../hash';
import type { LogMessage } from './logMessage';
import type { LogReading } from './readLog';

/** How a log stood after a start, so that what a later one adds to it is told from what was there. */
export interface LogMark {
  lines: number;
  characters: number;
  /** CRC-32 of its text as UTF-8. */
  crc: number;
}

/** What is remembered of one start of the game. */
export interface Run {
  at: number;
  /** The deployment that was the latest then. */
  after: number;
  loaded?: number | undefined;
  counted: number;
  /** Messages that are warnings or errors, folded. */
  mark?: LogMark | undefined;
  messages: { rule: string; level: 'warning' | 'error'; says: string; count: number }[];
}

/** What became of a message from one run to the next. */
export interface MessageChange {
  says: string;
  rule: string;
  level: 'warning' | 'error';
  change: 'gone' | 'new' | 'fewer' | 'more' | 'still there';
  before: number;
  now: number;
}

const textCrc = (text: string): Promise<number> => crc32Of(new TextEncoder().encode(text));

/** How a log stands now. */
export const markOf = async (text: string, { lines }: LogReading): Promise<LogMark> => ({
  lines,
  characters: text.length,
  crc: await textCrc(text),
});

/**
 * How many lines of a log are of earlier starts: all that was there before, where the log goes on with exactly that. A
 * log whose lines say no time can be the same one written anew, so none of them is.
 */
export async function linesBefore(text: string, mark: LogMark | undefined): Promise<number> {
  if (!mark || mark.characters === 0 || text.length < mark.characters || !/\d:\d\d/.test(text.slice(0, 400))) return 0;
  return (await textCrc(text.slice(0, mark.characters))) === mark.crc ? mark.lines : 0;
}

/** What the last start wrote, of a log that keeps what earlier ones did. */
export const ofLastStart = (reading: LogReading, since: number): LogReading =>
  since === 0 ? reading : { ...reading, messages: reading.messages.filter(({ last }) => last > since) };

/** The warnings and errors of a log, as they are remembered. */
export const troublesOf = (messages: readonly LogMessage[]): Run['messages'] =>
  messages.flatMap(({ rule, level, says, count }) =>
    level === 'warning' || level === 'error' ? [{ rule, level, says, count }] : [],
  );

const ORDER: MessageChange['change'][] = ['new', 'more', 'still there', 'fewer', 'gone'];

/**
 * Compares two runs message by message: what is new first, what is gone last. Fewer lines after a fix is the sign of
 * success.
 */
export function compareRuns(before: Run, now: Run): MessageChange[] {
  const key = ({ rule, says }: { rule: string; says: string }) => `${rule}\n${says}`;
  const then = new Map(before.messages.map((one) => [key(one), one]));
  const after = new Map(now.messages.map((one) => [key(one), one]));
  const changes: MessageChange[] = [];
  for (const id of new Set([...then.keys(), ...after.keys()])) {
    const [a, b] = [then.get(id), after.get(id)];
    const one = b ?? a;
    if (!one) continue;
    const [was, is] = [a?.count ?? 0, b?.count ?? 0];
    changes.push({
      says: one.says,
      rule: one.rule,
      level: one.level,
      before: was,
      now: is,
      change: is === 0 ? 'gone' : was === 0 ? 'new' : is < was ? 'fewer' : is > was ? 'more' : 'still there',
    });
  }
  return changes.sort(
    (a, b) =>
      ORDER.indexOf(a.change) - ORDER.indexOf(b.change) ||
      b.now - a.now ||
      b.before - a.before ||
      (a.says < b.says ? -1 : 1),
  );
}
