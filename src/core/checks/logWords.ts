import { figure } from '../words';
import { timesSaid, type LogMessage } from './logMessage';
import type { TroubleOf } from './trouble';
import { NEAR_SAYS, type Names, type WordsFor } from './wordsFor';

/** Keys that are named in the evidence. */
const NAMED = 3;

const lineOf = (message: LogMessage): string => `Line ${figure(message.first)} of the log${timesSaid(message)}`;

/** The line itself, for what it names. */
const quoted = (message: LogMessage): string => `${lineOf(message)}: ${message.text.trim().slice(0, 200)}`;

function whyMissing(
  { wanted, first, brings, meant, leftOut, standIn }: TroubleOf<'missing'>,
  { shown, nameOf }: Names,
): string {
  if (first && brings !== undefined && meant && first.kind === 'folder')
    return `The game looks for it at ${shown(wanted)}; “${nameOf(brings)}” has it at ${shown(first.path)}. Move it there.`;
  if (first) return `There is ${shown(first.path)}: ${NEAR_SAYS[first.kind]}.`;
  if (leftOut) return `“${nameOf(leftOut.layer)}” has it, and it was left out.`;
  return standIn === undefined
    ? 'Nobody provides it: no pack, and not the game itself.'
    : 'Nobody provides it. A copy of another file can stand in for it.';
}

/** What each finding out of a log says. */
export const LOG_WORDS: WordsFor<
  | 'said'
  | 'one more'
  | 'names a pack'
  | 'own file'
  | 'capitals'
  | 'unusable'
  | 'missing'
  | 'missing text'
  | 'texts hidden'
> = {
  said: ({ message }) => ({
    title: message.says,
    evidence: `${lineOf(message)}.`,
    cause: 'The game said so itself.',
  }),
  'one more': ({ message }) => ({
    title: message.says,
    evidence: `${lineOf(message)}.`,
    cause: 'The game said so itself.',
  }),
  'names a pack': ({ layer, message }, { nameOf }) => ({
    title: message.says,
    evidence: `${lineOf(message)}.`,
    cause: `The line names something of “${nameOf(layer)}”.`,
  }),
  'own file': ({ message }) => ({
    title: message.says,
    evidence: quoted(message),
    cause: 'It is the game’s own file. Let the game’s own program check its files.',
  }),
  capitals: ({ message, there }, { shown }) => ({
    title: message.says,
    evidence: quoted(message),
    cause: `There is ${shown(there)}: ${NEAR_SAYS.case}.`,
  }),
  unusable: ({ message, layer }, { nameOf }) => ({
    title: message.says,
    evidence: quoted(message),
    cause: `“${nameOf(layer)}” brings this file.`,
  }),
  missing: (trouble, names) => ({
    title: trouble.message.says,
    evidence: quoted(trouble.message),
    cause: whyMissing(trouble, names),
  }),
  'missing text': ({ message }) => ({
    title: message.says,
    evidence: `${lineOf(message)}.`,
    cause: 'No text file in the game has this key.',
  }),
  'texts hidden': ({ layer, target, hidden, why }, { shown, nameOf }) => {
    const named = hidden
      .slice(0, NAMED)
      .map((key) => `“${key}”`)
      .join(', ');
    const more = hidden.length > NAMED ? ` and ${hidden.length - NAMED} more` : '';
    return {
      title: `${hidden.length === 1 ? 'A text is' : `${hidden.length} texts are`} missing, all for one reason`,
      evidence: `The log misses ${named}${more}; the game’s own ${shown(target)} has them, and “${nameOf(layer)}” replaces that file.`,
      cause: why,
    };
  },
};
