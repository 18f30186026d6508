import picomatch from 'picomatch';
import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import { baseName, extensionOf, isUnder, nameKey, parentOf } from '../paths/paths';
import {
  forTheReader,
  isProgram,
  isResultFolder,
  programFolders,
  showsTheResult,
  type LeftOutReason,
} from '../placed/baggage';
import type { Context, PoolResult } from './context';
import { packFolders } from '../placed/packFolders';

/** Why a file of a pack is not for the game, judged with what the game and its card know; undefined where it may be. */
export function packBaggage(
  path: string,
  { tree, knowledge, card }: Context,
  inResultFolder = isResultFolder(parentOf(path)),
): LeftOutReason | undefined {
  const reader = forTheReader(path);
  // Pages of the web among the game's own ones are its contents.
  if (reader && !(reader === 'web link' && isAtHome(path, { tree, knowledge }))) return reader;
  if (isProgram(path) && !areData(extensionOf(path), knowledge)) return 'a program';
  // Pictures of the result stand in folders that neither the game nor its card knows.
  return showsTheResult(path, inResultFolder) && !isAtHome(path, { tree, knowledge }) && !namedByCard(path, card)
    ? 'picture of the result'
    : undefined;
}

/** Has the game several files of an ending beside each other, below its top? Then `.scr` is a kind of its own files. */
const areData = (ending: string, { homes }: Context['knowledge']): boolean =>
  ['scr', 'com'].includes(ending) &&
  [...(homes.get(ending) ?? [])].some(([folder, count]) => count > 1 && folder.includes('/'));

/** Has the game a file of this name in a folder of this name? */
export const isOfTheGame = (path: string, tree: Context['tree']): boolean =>
  (tree.foldersByName.get(nameKey(baseName(parentOf(path)))) ?? []).some((folder) =>
    tree.files.get(folder)?.has(nameKey(baseName(path))),
  );

/** Has the game a folder called like one that it lies in, with files of this ending in it or below it? */
function isAtHome(path: string, { tree, knowledge }: Pick<Context, 'tree' | 'knowledge'>): boolean {
  const homes = [...(knowledge.homes.get(extensionOf(path))?.keys() ?? [])];
  const names = nameKey(parentOf(path)).split('/');
  return names.some((name) =>
    (tree.foldersByName.get(name) ?? []).some((folder) => homes.some((home) => isUnder(home, folder))),
  );
}

/** Does the card speak of such files: as contents of an archive, or as what a recipe moves? */
function namedByCard(path: string, card: GameCard): boolean {
  const names = path.split('/');
  const moved = new Set(card.recipes.flatMap(({ moves }) => moves.map(({ from }) => nameKey(from))));
  if (names.some((name) => moved.has(nameKey(name)))) return true;
  return card.places.some(
    (place) =>
      place.mode === 'into-archive' &&
      names.some((_, i) => picomatch.isMatch(names.slice(i).join('/'), place.entries, { nocase: true })),
  );
}

/**
 * Sorts out what is not for the game: it goes to `leftOut` with the reason.
 *
 * @param before a reason that is known better, or `null` where the file is for the game whatever it looks like
 * @returns the rest; the same list where nothing is missing from it, so that what was prepared for it holds on
 */
export function withoutBaggage(
  entries: readonly PackEntry[],
  context: Context,
  leftOut: PoolResult['leftOut'],
  before?: (path: string) => LeftOutReason | null | undefined,
): readonly PackEntry[] {
  const programs = programFolders(entries, context.tree);
  const useful: PackEntry[] = [];
  for (const { path: folder, files } of packFolders(entries)) {
    const ofProgram = programs.some((one) => isUnder(folder, one));
    const shows = isResultFolder(folder);
    for (const entry of files) {
      const known = ofProgram ? 'a program' : before?.(entry.path);
      const why = known === undefined ? packBaggage(entry.path, context, shows) : known;
      if (why) leftOut.push({ path: entry.path, why });
      else useful.push(entry);
    }
  }
  return leftOut.length === 0 ? entries : useful;
}
