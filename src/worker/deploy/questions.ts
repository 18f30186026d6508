import { planAsCsv, planAsJson } from '@/core';
import type { DeployQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';

export const deployQuestions: QuestionsOf<DeployQuestions> = {
  'plan as text': ({ open: { picture, nameOf } }, { form }) =>
    form === 'csv' ? planAsCsv(picture.plan, nameOf) : planAsJson(picture.plan, nameOf),
};
