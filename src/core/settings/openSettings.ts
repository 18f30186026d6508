import type { Dialect } from './dialects';
import type { SettingsDocument } from './document';
import { openIni } from './ini';

/**
 * Opens a settings text for reading and lossless editing.
 *
 * @example openSettings('[Graphics]\nWide=0\n', 'ini').set(['Graphics', 'Wide'], '1').text // '[Graphics]\nWide=1\n'
 */
export function openSettings(text: string, dialect: Dialect): SettingsDocument {
  switch (dialect) {
    case 'ini':
      return openIni(text);
  }
}
