import type { LogMessage } from './readLog';

/** What is remembered of one start of the game. */
export interface Run {
  at: number;
  /** The deployment that was the latest then. */
  after: number;
  loaded?: number | undefined;
  counted: number;
  /** Messages that are warnings or errors, folded. */
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

/** The warnings and errors of a log, as they are remembered. */
export const troublesOf = (messages: readonly LogMessage[]): Run['messages'] =>
  messages.flatMap(({ rule, level, says, count }) => (level === 'warning' || level === 'error' ? [{ rule, level, says, count }] : []));

const ORDER: MessageChange['change'][] = ['new', 'more', 'still there', 'fewer', 'gone'];

/** Compares two runs message by message: what is new first, what is gone last. Fewer lines after a fix is the sign of success. */
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
    changes.push({ says: one.says, rule: one.rule, level: one.level, before: was, now: is, change: is === 0 ? 'gone' : was === 0 ? 'new' : is < was ? 'fewer' : is > was ? 'more' : 'still there' });
  }
  return changes.sort((a, b) => ORDER.indexOf(a.change) - ORDER.indexOf(b.change) || b.now - a.now || b.before - a.before || (a.says < b.says ? -1 : 1));
}
