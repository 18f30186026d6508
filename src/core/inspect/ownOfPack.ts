import type { PackEntry } from '../archives/pack';
import { baseName, extensionOf, nameKey, parentOf, stemOf } from '../paths/paths';
import { forTheGame, ownFolderOf } from '../placed/baggage';
import { placeFiles } from '../placed/placement';
import type { SettingsInput } from './settingProposal';

/* What a pack brings, by its name. */

/** The name of a pack that stays one file. */
export function wholeOf({ placement }: SettingsInput): string | undefined {
  const whole = placement?.rules.find(({ as }) => as === 'whole');
  return whole && baseName(whole.to);
}

/** The folder that something goes into by its name: as a folder, or as files without their endings. */
export function placeOf(own: string, entries: readonly PackEntry[], { placement }: SettingsInput): string | undefined {
  const name = nameKey(own);
  const [first] = placement ? placeFiles(forTheGame(entries), placement) : [];
  if (!first) return undefined;
  const parts = first.target.split('/');
  const at = parts.findIndex(
    (part, i) => i > 0 && (nameKey(part) === name || nameKey(stemOf(part)) === nameKey(stemOf(own))),
  );
  return at > 0 ? parts.slice(0, at).join('/') : undefined;
}

/** Files that lie in the one folder of a pack, where that goes into the game as such. */
export function partNamesOf(entries: readonly PackEntry[], { placement }: SettingsInput): ReadonlySet<string> {
  const folder = ownFolderOf(entries);
  const inside = folder === '' ? [] : forTheGame(entries).filter(({ path }) => parentOf(path) === folder);
  const parts =
    placement && inside.length > 0
      ? placeFiles(inside, placement).filter(
          ({ target }) => nameKey(baseName(parentOf(target))) === nameKey(baseName(folder)),
        )
      : [];
  return new Set(parts.map(({ path }) => nameKey(stemOf(baseName(path)))));
}

/** The one folder of a pack, or its one file, but for what is for the reader. */
export function ownOf(entries: readonly PackEntry[]): string | undefined {
  const folder = ownFolderOf(entries);
  if (folder !== '') return baseName(folder);
  const files = forTheGame(entries).map(({ path }) => baseName(path));
  const [only, other] = files;
  if (only === undefined || other === undefined) return only;
  // Files that differ in their endings alone are one thing: `cloth.ldg`, `cloth.png`.
  return files.every((file) => nameKey(stemOf(file)) === nameKey(stemOf(only))) ? stemOf(only) : undefined;
}

const MOST_OF_A_KIND = 50;

/** Files of one ending, where these are all that a pack brings. */
export function severalOf(entries: readonly PackEntry[]): string[] | undefined {
  const files = forTheGame(entries).map(({ path }) => baseName(path));
  const isKind = files.every((file) => extensionOf(file) === extensionOf(files[0] ?? ''));
  return files.length > 1 && files.length <= MOST_OF_A_KIND && isKind ? files : undefined;
}
