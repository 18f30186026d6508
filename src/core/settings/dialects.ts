import { extensionOf } from '../paths/paths';
import { blocksForm } from './blocks';
import { codesForm } from './codes';
import type { SettingsDocument } from './document';
import { openIni } from './ini';
import { jsonForm } from './json';
import { colonsForm, commandsForm, languageForm, namesForm } from './lines';
import { openTree, type TreeForm } from './tree';
import { xmlForm } from './xml';
import { yamlForm } from './yaml';

/** What is to be known of a form of settings files: everything that reads, writes, merges or shows one goes by this. */
export interface DialectFacts {
  /** Opens a text for reading and lossless editing. */
  open(text: string): SettingsDocument;
  /** Could all of a text be read? What could not stays as it is written and belongs to no key. */
  isWhole(text: string): boolean;
  /** Endings of names that speak for it. */
  endings?: readonly string[];
  /** What an editor of texts colours it like. */
  colours: 'properties' | 'xml' | 'json' | 'yaml' | 'words';
  /** Where each line stands for itself: how lines are looked through that may not work. */
  lines?: {
    /** What is wrong with a line that is neither a key nor a comment. */
    stray: string;
    /** Keys may stand further in. */
    indented?: true;
    /** Lines that are no keys and belong there all the same. */
    heading?: RegExp;
  };
  /** Sections bear numbers: where two texts are merged, a number that both use is given anew. */
  numbered?: true;
}

const tree = (form: TreeForm): Pick<DialectFacts, 'open' | 'isWhole'> => ({
  open: (text) => openTree(text, form),
  isWhole: (text) => form.parse(text).whole,
});

const ini = (inlineComments: boolean): Omit<DialectFacts, 'endings'> => ({
  open: (text) => openIni(text, { inlineComments }),
  isWhole: () => true,
  colours: 'properties',
  lines: { stray: 'This is neither a key with a value nor a comment; the game passes over it.' },
  numbered: true,
});

const NOT_UNDERSTOOD = 'The game would not understand this line.';

/** The forms of settings files that can be read and edited: a new one is a file and a line here. */
const TABLE = {
  ini: { ...ini(false), endings: ['ini', 'cfg', 'conf'] },
  // A comment can stand behind a value.
  'ini-comments': ini(true),
  xml: { ...tree(xmlForm), endings: ['xml'], colours: 'xml' },
  json: { ...tree(jsonForm), endings: ['json'], colours: 'json' },
  commands: { ...tree(commandsForm), colours: 'words', lines: { stray: NOT_UNDERSTOOD } },
  blocks: { ...tree(blocksForm), colours: 'words' },
  language: {
    ...tree(languageForm),
    endings: ['lang', 'loc'],
    colours: 'words',
    lines: { stray: NOT_UNDERSTOOD, indented: true, heading: /^\s*[\w-]+:\s*$/ },
  },
  codes: { ...tree(codesForm), endings: ['codes'], colours: 'words' },
  yaml: { ...tree(yamlForm), endings: ['yml', 'yaml'], colours: 'yaml' },
  colons: { ...tree(colonsForm), colours: 'words' },
  names: { ...tree(namesForm), colours: 'words' },
} satisfies Record<string, DialectFacts>;

export type Dialect = keyof typeof TABLE;

export const dialects: Record<Dialect, DialectFacts> = TABLE;
export const DIALECTS = Object.keys(TABLE) as [Dialect, ...Dialect[]];

/** The form that a file's name speaks for, where nothing better is known. */
export const dialectByName = (path: string): Dialect | undefined => {
  const ending = extensionOf(path);
  return (Object.keys(dialects) as Dialect[]).find((one) => dialects[one].endings?.includes(ending));
};
