import { isSame, wayToPlay, type Json } from '@/core';
import type { SetUpQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';
import { planWith } from '../game/stackLayers';
import { planView } from '../game/planView';
import { compareWays, stackOf, wayOf } from './ways';

export const setUpQuestions: QuestionsOf<SetUpQuestions> = {
  'set-ups': ({ open }) =>
    open.setUps.map(({ id, name, at, stack }) => ({
      id,
      name,
      at,
      packs: stack.layers.filter((layer) => layer.kind === 'pack' && layer.on).length,
      current: isSame(
        wayToPlay(stackOf(open, stack).stack) as unknown as Json,
        wayToPlay(open.stack) as unknown as Json,
      ),
    })),
  'plan of way': async ({ open }, { of }) =>
    planView(open, await planWith(open, stackOf(open, await wayOf(open, of)).stack)),
  'compare ways': ({ open }, { a, b }) => compareWays(open, a, b),
};
