import type { SharedCause } from './trouble';
import type { Names } from './wordsFor';

interface SharedSentences {
  /** {n}: how many there are. */
  title: string;
  /** Else the one of the first of them. */
  cause?: string;
}

type CauseOf<Kind extends SharedCause['kind']> = Extract<SharedCause, { kind: Kind }>;

/** What is said of troubles that have one cause, by its kind. */
const WORDS: { [Kind in SharedCause['kind']]: (cause: CauseOf<Kind>, names: Names) => SharedSentences } = {
  capitals: (cause, { nameOf }) => ({
    title: `{n} names of “${nameOf(cause.layer)}” are asked for with other capitals`,
    cause: 'The files are there; only capital and small letters differ.',
  }),
  shift: (cause, { shown, nameOf }) => ({
    title: `The game looks for {n} files of “${nameOf(cause.layer)}” in another folder`,
    cause: `They lie in ${shown(cause.from)}; the game looks for them in ${shown(cause.to)}.`,
  }),
  ending: (cause, { nameOf }) => ({
    title: `The game looks for {n} files of “${nameOf(cause.layer)}” with another ending`,
    cause: `They end in .${cause.from}; the game looks for names that end in .${cause.to}.`,
  }),
  asks: (cause, { nameOf }) => ({ title: `{n} files that “${nameOf(cause.layer)}” asks for are not there` }),
  own: () => ({
    title: 'The game has trouble with {n} of its own files',
    cause: 'They are the game’s own files. Let the game’s own program check them.',
  }),
  unusable: (cause, { nameOf }) => ({
    title: `The game has the same trouble with {n} files of “${nameOf(cause.layer)}”`,
    cause: `“${nameOf(cause.layer)}” brings all of them.`,
  }),
  'left out': (cause, { nameOf }) => ({
    title: `{n} files are missing that “${nameOf(cause.layer)}” has`,
    cause: `They were left out when “${nameOf(cause.layer)}” was placed.`,
  }),
  nobody: (cause, { shown, nameOf }) => ({
    title: `{n} files are missing ${cause.owner === undefined ? `in ${shown(cause.folder)}` : `where “${nameOf(cause.owner)}” lies`}`,
    cause: cause.standIn
      ? 'Nobody provides them. Copies of other files can stand in for them.'
      : 'Nobody provides them: no pack, and not the game itself.',
  }),
  named: (cause, { nameOf }) => ({
    title: `{n} messages name something of “${nameOf(cause.layer)}”`,
    cause: `The lines name something of “${nameOf(cause.layer)}”.`,
  }),
  warned: () => ({
    title: 'The game warns {n} times and names no pack',
    cause: 'Most games warn of things that do no harm.',
  }),
  more: () => ({ title: '{n} more messages of this kind' }),
  texts: () => ({ title: '{n} texts are missing', cause: 'No text file in the game has these keys.' }),
  lost: (cause) => ({ title: cause.dropped ? 'The game dropped {n} settings' : '{n} settings were changed since' }),
};

/** What is said of troubles that have one cause. */
export const sharedWords = (cause: SharedCause, names: Names): SharedSentences =>
  (WORDS[cause.kind] as (one: SharedCause, names: Names) => SharedSentences)(cause, names);
