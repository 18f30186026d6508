import { groupSteps, planAsCsv, planAsJson, readLedgerSteps } from '@/core';
import type { DeployQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';

/** Lines that are told of one layer. */
const MOST_SUMS = 12;

export const deployQuestions: QuestionsOf<DeployQuestions> = {
  'step groups': async ({ open }, { number }) => {
    const steps = number === undefined ? open.picture.plan.steps : await readLedgerSteps(open.workshop.vault, number);
    const tags = new Map(open.packLayers().map(({ id, tag }) => [id, tag]));
    return groupSteps(steps).map(({ layer, files, sums }) => ({
      layer,
      name: open.nameOf(layer),
      tag: tags.get(layer),
      files,
      sums: sums.slice(0, MOST_SUMS),
      more: Math.max(0, sums.length - MOST_SUMS),
    }));
  },
  'plan as text': ({ open: { picture, nameOf } }, { form }) =>
    form === 'csv' ? planAsCsv(picture.plan, nameOf) : planAsJson(picture.plan, nameOf),
};
