import type { Finding } from './finding';
import { findingOf } from './findingOf';
import { GameAround } from './gameAround';
import type { LogMessage } from './logMessage';
import { traceFile } from './traceFile';
import type { TraceInput } from './traceInput';
import { traceKeys } from './traceKeys';
import type { Trouble } from './trouble';
import { namesIn } from './wordsFor';

/** Messages that are led back to files; further ones are told as they stand. */
const MOST_TRACED = 500;

/**
 * Leads messages of a log back to the file or key that they name, and to the layer that provides, hides or lacks it.
 * Every message is a finding of its own; `foldByCause` puts those of one cause together.
 */
export function traceMessages(messages: readonly LogMessage[], input: TraceInput): Finding[] {
  const names = namesIn(input.card, input.nameOf);
  return tracedTroubles(messages, input).map((trouble) => findingOf(trouble, names));
}

function tracedTroubles(messages: readonly LogMessage[], input: TraceInput): Trouble[] {
  const byRule = new Map(input.rules.map((rule) => [rule.id, rule]));
  const around = new GameAround(input);
  const found: Trouble[] = [];
  const keys: { message: LogMessage; key: string }[] = [];
  let traced = 0;
  for (const message of messages) {
    if (message.level !== 'warning' && message.level !== 'error') continue;
    const about = message.about ?? byRule.get(message.rule)?.about;
    const value = about && message.fields[about.field];
    if (value === undefined || !about) found.push(message.rule === 'plain' ? spoken(message, around) : said(message));
    else if (about.kind === 'key') keys.push({ message, key: value });
    else if (traced++ < MOST_TRACED) found.push(traceFile({ message, value, under: about.under }, around));
    else found.push(oneMore(message));
  }
  return [...found, ...traceKeys(keys, input, around)];
}

const base = (message: LogMessage) => ({
  id: `log:${message.rule}:${message.says}`,
  level: 'wrong' as const,
  message,
});

/** A message that names nothing. What the game warns of in words of its own weighs little: it goes on. */
const said = (message: LogMessage): Trouble =>
  message.level === 'warning' && message.rule === 'plain'
    ? { kind: 'said', ...base(message), weight: 'light', shared: { kind: 'warned', key: 'warned' } }
    : { kind: 'said', ...base(message) };

/** One of more messages than are looked into. */
const oneMore = (message: LogMessage): Trouble => ({
  kind: 'one more',
  ...base(message),
  shared: { kind: 'more', key: `more:${message.rule}` },
});

/** A message as it stands, with the pack whose name or folder it names. */
function spoken(message: LogMessage, around: GameAround): Trouble {
  const layer = around.packNamedIn([message.text, ...message.trace].join(' '));
  if (layer === undefined) return said(message);
  return { kind: 'names a pack', ...base(message), layer, shared: { kind: 'named', key: `named:${layer}`, layer } };
}
