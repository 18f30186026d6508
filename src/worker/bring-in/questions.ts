import { chooseDownloads } from '@/folders/bridge';
import type { BringInQuestions } from '../contract';
import { drawThumbnail } from '../game/drawing';
import type { QuestionsOf } from '../game/handlers';
import { downloadsView, lookAtDownloads } from './downloadsView';
import { readSound, readText } from './packFiles';

export const bringInQuestions: QuestionsOf<BringInQuestions> = {
  downloads: ({ opened }) => lookAtDownloads(opened),
  'choose downloads': async ({ opened }) => {
    const list = await chooseDownloads();
    return list && downloadsView(list, opened);
  },
  'text in pack': ({ open }, { layer, path }) => readText(open, layer, path),
  'sound in pack': ({ open }, { layer, path }) => readSound(open, layer, path),
  thumbnail: async ({ open }, { layer, path }) => {
    const { pack } = await open.openPack(open.layer(layer).packId);
    return drawThumbnail(pack, path);
  },
};
