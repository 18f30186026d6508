import type { PackEntry } from '../archives/pack';
import { firstRoot } from '../games/card';
import { baseName, joinPath } from '../paths/paths';
import { emptyResult, slugOf, type Context, type PoolResult } from './context';
import { type BaseChoice } from './overTree';
import { sharedFolder } from '../placed/packFolders';

/** No idea: the whole pack into the first root, and the player is asked. */
export function nowhere(entries: readonly PackEntry[], { card, name }: Context): PoolResult {
  const root = firstRoot(card);
  const strip = sharedFolder(entries);
  const choices: BaseChoice[] = [
    { strip, base: root, matched: 0, exact: 0, reason: 'None of its folders is known to the game.' },
  ];
  for (const place of card.places) {
    if (place.mode === 'own-folder')
      choices.push({
        strip,
        base: joinPath(place.into, strip === '' ? slugOf(name) : baseName(strip)),
        matched: 0,
        exact: 0,
        reason: `${place.title}: ${place.why}`,
      });
    if (place.mode === 'loose')
      choices.push({
        strip,
        base: place.into,
        matched: 0,
        exact: 0,
        reason: `${place.title}: ${place.why}`,
      });
  }
  return {
    ...emptyResult(),
    confidence: 'ask',
    rules: [{ as: 'files', from: strip, to: root }],
    choices,
    nowhere: true,
  };
}
