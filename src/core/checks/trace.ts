import { figure } from '../words';
import type { Finding } from './finding';
import { GameAround } from './gameAround';
import { timesSaid, type LogMessage } from './logMessage';
import { traceFile } from './traceFile';
import type { TraceInput } from './traceInput';
import { traceKeys } from './traceKeys';

/** Messages of one kind that are traced one by one; further ones are folded into one finding. */
const MOST_SINGLE = 25;

/**
 * Leads messages of a log back to the file or key that they name, and to the layer that provides, hides or lacks it.
 */
export function traceMessages(messages: readonly LogMessage[], input: TraceInput): Finding[] {
  const byRule = new Map(input.rules.map((rule) => [rule.id, rule]));
  const around = new GameAround(input);
  const found: Finding[] = [];
  const keys: { message: LogMessage; key: string }[] = [];
  const singles = new Map<string, number>();
  for (const message of messages) {
    if (message.level !== 'warning' && message.level !== 'error') continue;
    const about = message.about ?? byRule.get(message.rule)?.about;
    const value = about && message.fields[about.field];
    if (value === undefined || !about)
      found.push(message.rule === 'plain' ? spoken(message, input, around) : said(message));
    else if (about.kind === 'key') keys.push({ message, key: value });
    else {
      const seen = (singles.get(message.rule) ?? 0) + 1;
      singles.set(message.rule, seen);
      if (seen <= MOST_SINGLE) found.push(traceFile({ message, value, under: about.under }, around, input.nameOf));
      else if (message.rule === 'plain') found.push(spoken(message, input, around));
    }
  }
  return [...found, ...traceKeys(keys, input, around, MOST_SINGLE)];
}

/** A message that names nothing. */
const said = (message: LogMessage): Finding => ({
  id: `log:${message.rule}:${message.says}`,
  level: 'wrong',
  title: message.says,
  evidence: `Line ${message.first} of the log${timesSaid(message)}.`,
  cause: 'The game said so itself.',
  fixes: [],
});

/** A message as it stands, with the pack whose name or folder it names. */
function spoken(message: LogMessage, { nameOf }: TraceInput, around: GameAround): Finding {
  const layer = around.packNamedIn([message.text, ...message.trace].join(' '));
  const finding = { ...said(message), evidence: `Line ${figure(message.first)} of the log${timesSaid(message)}.` };
  if (layer === undefined) return finding;
  return {
    ...finding,
    layer,
    cause: `The line names something of “${nameOf(layer)}”.`,
    fixes: [{ kind: 'take out', label: `Take “${nameOf(layer)}” out`, layer }],
  };
}
