import { foldersAbove, placeMap } from '@/core';
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
    return [...new Set([...roots, ...foldersAbove(open.picture.ownFiles)])].sort();
  },
  'folders of pack': async ({ open }, { layer }) => {
    const { pack } = await open.openPack(open.layer(layer).packId);
    return ['', ...[...foldersAbove(pack.entries.map(({ path }) => path))].sort()];
  },
};
