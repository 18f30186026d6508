import { figure } from '../words';
import type { Finding } from './finding';
import { GameAround } from './gameAround';
import { timesSaid, type LogMessage } from './logMessage';
import { traceFile } from './traceFile';
import type { TraceInput } from './traceInput';
import { traceKeys } from './traceKeys';

/** Messages that are led back to files; further ones are told as they stand. */
const MOST_TRACED = 500;

/**
 * Leads messages of a log back to the file or key that they name, and to the layer that provides, hides or lacks it.
 * Every message is a finding of its own; `foldByCause` puts those of one cause together.
 */
export function traceMessages(messages: readonly LogMessage[], input: TraceInput): Finding[] {
  const byRule = new Map(input.rules.map((rule) => [rule.id, rule]));
  const around = new GameAround(input);
  const found: Finding[] = [];
  const keys: { message: LogMessage; key: string }[] = [];
  let traced = 0;
  for (const message of messages) {
    if (message.level !== 'warning' && message.level !== 'error') continue;
    const about = message.about ?? byRule.get(message.rule)?.about;
    const value = about && message.fields[about.field];
    if (value === undefined || !about)
      found.push(message.rule === 'plain' ? spoken(message, input, around) : said(message));
    else if (about.kind === 'key') keys.push({ message, key: value });
    else if (traced++ < MOST_TRACED) found.push(traceFile({ message, value, under: about.under }, around));
    else found.push(oneMore(message));
  }
  return [...found, ...traceKeys(keys, input, around)];
}

/** What the game warns of in words of its own, and names nothing, weighs little: it goes on. */
const lightly = ({ level, rule }: LogMessage): Pick<Finding, 'weight' | 'shared'> =>
  level === 'warning' && rule === 'plain'
    ? {
        weight: 'light',
        shared: {
          key: 'warned',
          title: 'The game warns {n} times and names no pack',
          cause: 'Most games warn of things that do no harm.',
        },
      }
    : {};

/** A message that names nothing. */
const said = (message: LogMessage): Finding => ({
  id: `log:${message.rule}:${message.says}`,
  level: 'wrong',
  ...lightly(message),
  title: message.says,
  evidence: `Line ${message.first} of the log${timesSaid(message)}.`,
  cause: 'The game said so itself.',
  fixes: [],
});

/** One of more messages than are looked into. */
const oneMore = (message: LogMessage): Finding => ({
  ...said(message),
  weight: undefined,
  shared: { key: `more:${message.rule}`, title: '{n} more messages of this kind' },
});

/** A message as it stands, with the pack whose name or folder it names. */
function spoken(message: LogMessage, { nameOf }: TraceInput, around: GameAround): Finding {
  const layer = around.packNamedIn([message.text, ...message.trace].join(' '));
  const finding = { ...said(message), evidence: `Line ${figure(message.first)} of the log${timesSaid(message)}.` };
  if (layer === undefined) return finding;
  return {
    ...finding,
    weight: undefined,
    layer,
    cause: `The line names something of “${nameOf(layer)}”.`,
    fixes: [{ kind: 'take out', label: `Take “${nameOf(layer)}” out`, layer }],
    shared: {
      key: `named:${layer}`,
      title: `{n} messages name something of “${nameOf(layer)}”`,
      cause: `The lines name something of “${nameOf(layer)}”.`,
    },
  };
}
