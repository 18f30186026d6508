import type { LogRule } from '../games/card';
import { figure } from '../words';

/** Lines that say the same, folded. */
export interface LogMessage {
  /** The rule that knows them; undefined for lines that no rule knows. */
  rule: string;
  level: LogRule['level'];
  /** The rule's sentence with the fields filled in. */
  says: string;
  fields: Record<string, string>;
  count: number;
  /** Lines counted from 1. */
  first: number;
  last: number;
  /** The first of the lines, without colours. */
  text: string;
  /** Lines below the first one that belong to it: where in the program it happened. */
  trace: string[];
  /** What the line names, where no rule says so. */
  about?: LogRule['about'];
}

/** How often a message stands in the log, where that is more than once. */
export const timesSaid = ({ count }: LogMessage): string => (count === 1 ? '' : `, ${figure(count)} times`);
