import { openSettings, proposePlacements, proposeSettings, setStanding, settingsTargets } from '@/core';
import { entriesOf, study } from './mill';

/**
 * What read-mes ask for in a game of which nobody has said what its settings are, written `file: path = value`.
 *
 * @param files of the game, with their texts
 * @param refused the statement to which the player says no
 * @returns takes a read-me, and the paths of the pack beside it
 */
export const askedOf =
  (files: Readonly<Record<string, string>>, refused?: string) =>
  async (text: string, ...paths: string[]): Promise<string[]> => {
    const studied = await study(files);
    const { card } = studied;
    const statements = refused === undefined ? studied.statements : setStanding(studied.statements, refused, 'refused');
    const gameFiles = Object.keys(files).map((path) => `game/${path}`);
    const documents = settingsTargets(card, gameFiles).map(({ target, dialect }) => ({
      target,
      document: openSettings(files[target.slice(5)] ?? '', dialect),
    }));
    const entries = entriesOf('readme.txt', ...paths);
    const readMe = { path: 'readme.txt', text };
    const { placement } = proposePlacements({ card, statements, entries, gameFiles, readMe, name: 'pack.zip' });
    const found = proposeSettings({ card, statements, documents, entries, placement, readMe });
    return found.flatMap((one) =>
      one.kind === 'key'
        ? [`${one.file.slice(5)}: ${one.path.join(' › ')}${one.value === '' ? '' : ` = ${one.value}`}`]
        : [],
    );
  };
