import { parentOf, placeMap } from '@/core';
import type { PlaceQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';
import { firstPlaced } from '../game/treeRows';

export const placeQuestions: QuestionsOf<PlaceQuestions> = {
  'first placed': ({ open }, { layer }) => firstPlaced(open, layer),
  'place map': async ({ open }, { layer }) => {
    const { packId, placement } = open.layer(layer);
    const { pack } = await open.openPack(packId);
    return placeMap(pack.entries, placement, open.picture.ownKeys);
  },
  'folders of game': ({ open }) => {
    const roots = open.game.card.roots.map(({ id }) => id);
    return foldersAbove(open.picture.ownFiles, ['', ...roots]).filter((folder) => folder !== '');
  },
  'folders of pack': async ({ open }, { layer }) => {
    const { pack } = await open.openPack(open.layer(layer).packId);
    return foldersAbove(
      pack.entries.map(({ path }) => path),
      [''],
    );
  },
};

/** Every folder that files lie in, and those that are there anyway. */
function foldersAbove(paths: readonly string[], there: readonly string[]): string[] {
  const folders = new Set(there);
  for (const path of paths)
    for (let folder = parentOf(path); !folders.has(folder); folder = parentOf(folder)) folders.add(folder);
  return [...folders].sort();
}
