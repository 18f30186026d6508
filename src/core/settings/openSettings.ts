import { dialects, type Dialect } from './dialects';
import type { SettingsDocument } from './document';

/**
 * Opens a settings text for reading and lossless editing.
 *
 * @example openSettings('[Graphics]\nWide=0\n', 'ini').set(['Graphics', 'Wide'], '1').text // '[Graphics]\nWide=1\n'
 */
export const openSettings = (text: string, dialect: Dialect): SettingsDocument => dialects[dialect].open(text);

/** Could all of a text be read in this form? What could not stays as it is written and belongs to no key. */
export const isWellFormed = (text: string, dialect: Dialect): boolean => dialects[dialect].isWhole(text);
