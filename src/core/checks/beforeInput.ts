import type { GameCard } from '../games/card';
import { isUnder, joinPath, nameKey, type TargetPath } from '../paths/paths';
import { shownPlace } from '../paths/search';
import type { SettingsFile } from '../placement/settingsFiles';
import type { SettingsDocument } from '../settings/document';
import { MOST_MOVES, type Fix, type PresentFile } from './finding';

/** What is looked at before the game starts: the game as it will be after the next deployment. */
export interface BeforeInput {
  card: GameCard;
  files: readonly PresentFile[];
  /** Texts of manifests, of files that refer to others and of text files, by `nameKey` of their target. */
  texts: ReadonlyMap<string, string>;
  /** The game's own text files that a pack's file replaces, by `nameKey`. */
  originals: ReadonlyMap<string, string>;
  settings: readonly { file: SettingsFile; document: SettingsDocument }[];
  nameOf(layer: string): string;
}

export const list = (names: readonly string[], most = 3): string =>
  `${names
    .slice(0, most)
    .map((name) => `“${name}”`)
    .join(', ')}${names.length > most ? ` and ${names.length - most} more` : ''}`;

export const move = (label: string, moves: { from: TargetPath; to: TargetPath }[]): Fix[] =>
  moves.length === 0 || moves.length > MOST_MOVES ? [] : [{ kind: 'move', label, moves }];

export const at: (of: TargetPath, ...parts: string[]) => TargetPath = joinPath;

/** Names targets and folders as people read them. */
export const placeNamer =
  ({ card }: { card: Pick<GameCard, 'roots'> }) =>
  (target: string): string =>
    shownPlace(target, card.roots);

/** Files of packs in a folder, with their path below it. */
export function within({ files }: BeforeInput, folder: string): { file: PresentFile; rest: string }[] {
  const key = nameKey(folder);
  return files.flatMap((file) =>
    file.layer !== undefined && isUnder(nameKey(file.target), key) && file.target.length > folder.length
      ? [{ file, rest: file.target.slice(folder.length + 1) }]
      : [],
  );
}
