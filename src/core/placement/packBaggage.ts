import picomatch from 'picomatch';
import type { GameCard } from '../games/card';
import { baseName, nameKey, parentOf } from '../paths/paths';
import { forTheReader, isProgram, isResultFolder, showsTheResult, type LeftOutReason } from './baggage';
import type { Context } from './context';

/** Why a file of a pack is not for the game, judged with what the game and its card know; undefined where it may be. */
export function packBaggage(path: string, { tree, card }: Context, inResultFolder = isResultFolder(parentOf(path))): LeftOutReason | undefined {
  const reader = forTheReader(path);
  if (reader) return reader;
  if (isProgram(path)) return 'a program';
  // Pictures of the result stand in folders that neither the game nor its card knows.
  return showsTheResult(path, inResultFolder) && !tree.foldersByName.has(nameKey(baseName(parentOf(path)))) && !namedByCard(path, card) ? 'picture of the result' : undefined;
}

/** Does the card speak of such files: as contents of an archive, or as what a recipe moves? */
function namedByCard(path: string, card: GameCard): boolean {
  const names = path.split('/');
  const moved = new Set(card.recipes.flatMap(({ moves }) => moves.map(({ from }) => nameKey(from))));
  if (names.some((name) => moved.has(nameKey(name)))) return true;
  return card.places.some((place) => place.mode === 'into-archive' && names.some((_, i) => picomatch.isMatch(names.slice(i).join('/'), place.entries, { nocase: true })));
}
