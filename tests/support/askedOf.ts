import { openSettings, proposeSettings, settingsTargets } from '@/core';
import { entriesOf, study } from './mill';

/**
 * What read-mes ask for in a game of which nobody has said what its settings are, written `file: path = value`.
 *
 * @param files of the game, with their texts
 * @returns takes a read-me, and the paths of the pack beside it
 */
export const askedOf =
  (files: Readonly<Record<string, string>>) =>
  async (text: string, ...paths: string[]): Promise<string[]> => {
    const { card, statements } = await study(files);
    const documents = settingsTargets(
      card,
      Object.keys(files).map((path) => `game/${path}`),
    ).map(({ target, dialect }) => ({ target, document: openSettings(files[target.slice(5)] ?? '', dialect) }));
    const entries = entriesOf('readme.txt', ...paths);
    const found = proposeSettings({ card, statements, documents, entries, readMe: { path: 'readme.txt', text } });
    return found.flatMap((one) =>
      one.kind === 'key'
        ? [`${one.file.slice(5)}: ${one.path.join(' › ')}${one.value === '' ? '' : ` = ${one.value}`}`]
        : [],
    );
  };
