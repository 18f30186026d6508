import type { Dialect } from './dialects';
import type { SettingsDocument } from './document';
import { blocksForm } from './blocks';
import { codesForm } from './codes';
import { openIni } from './ini';
import { jsonForm } from './json';
import { colonsForm, commandsForm, languageForm } from './lines';
import { openTree, type TreeForm } from './tree';
import { xmlForm } from './xml';
import { yamlForm } from './yaml';

/**
 * Opens a settings text for reading and lossless editing.
 *
 * @example openSettings('[Graphics]\nWide=0\n', 'ini').set(['Graphics', 'Wide'], '1').text // '[Graphics]\nWide=1\n'
 */
export function openSettings(text: string, dialect: Dialect): SettingsDocument {
  if (dialect === 'ini' || dialect === 'ini-comments') return openIni(text, { inlineComments: dialect === 'ini-comments' });
  return openTree(text, FORMS[dialect]);
}

const FORMS: Record<Exclude<Dialect, 'ini' | 'ini-comments'>, TreeForm> = { xml: xmlForm, json: jsonForm, commands: commandsForm, blocks: blocksForm, language: languageForm, codes: codesForm, yaml: yamlForm, colons: colonsForm };

/** Could all of a text be read in this form? What could not stays as it is written and belongs to no key. */
export const isWellFormed = (text: string, dialect: Dialect): boolean => dialect === 'ini' || dialect === 'ini-comments' || FORMS[dialect].parse(text).whole;
