import type { GameCard } from '../games/card';
import { isUnder, nameKey } from '../paths/paths';
import type { SettingsFile } from '../placement/settingsFiles';
import type { SettingsDocument } from '../settings/document';
import { keyOf, type PresentFile } from './finding';

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

/** Files of packs in a folder, with their path below it. */
export function within({ files }: BeforeInput, folder: string): { file: PresentFile; rest: string }[] {
  const key = nameKey(folder);
  return files.flatMap((file) =>
    file.layer !== undefined && isUnder(keyOf(file), key) && file.target.length > folder.length
      ? [{ file, rest: file.target.slice(folder.length + 1) }]
      : [],
  );
}
