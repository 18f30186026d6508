import { SatchelError, parseTarget } from '@/core';
import { FarBlob } from '@/folders/farBlob';
import type { StackQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';
import { compareAt, fileStory, pictureAt, soundAt } from '../game/story';
import { mergedLines } from './fileMerges';
import { overlapTree } from './overlaps';
import { previewMerge } from './packMerging';

export const stackQuestions: QuestionsOf<StackQuestions> = {
  'story of file': ({ open }, { target }) => fileStory(open, parseTarget(target)),
  picture: ({ open }, { target, from }) => pictureAt(open, parseTarget(target), from),
  sound: ({ open }, { target, from }) => soundAt(open, parseTarget(target), from),
  'compare texts': ({ open }, { target, a, b }) => compareAt(open, parseTarget(target), a, b),
  'merged lines': ({ open }, { merge }) => mergedLines(open, merge),
  'preview merge': ({ open }, { layers, container }) => previewMerge(open, layers, container),
  'pack as zip': async ({ open }, { layer }) => {
    const { name, packId } = open.layer(layer);
    const found = await open.archive(packId);
    const blob = found instanceof FarBlob ? await found.here() : found;
    if (!blob) throw new SatchelError('source-missing', { name, path: name });
    return { name: `${name.replace(/[<>:"/\\|?*]+/g, ' ')}.zip`, blob };
  },
  'first overlaps': ({ open }) => {
    const tree = overlapTree(open, false);
    return { folders: tree.firstFolders(), layers: tree.layers };
  },
};
