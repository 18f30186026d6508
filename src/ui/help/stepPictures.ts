/// <reference types="next/image-types/global" />
import type { StaticImageData } from 'next/image';
import type { StepId } from '@/core';
import bringIn from '../../../docs/screenshots/bring-in.png';
import check from '../../../docs/screenshots/check.png';
import deploy from '../../../docs/screenshots/deploy.png';
import ledger from '../../../docs/screenshots/ledger.png';
import place from '../../../docs/screenshots/place.png';
import settings from '../../../docs/screenshots/settings.png';
import stack from '../../../docs/screenshots/stack.png';

/** The pictures of the README, drawn from the demo data by `npm run shots`. */
export const PICTURES: Record<StepId, StaticImageData> = {
  'bring-in': bringIn,
  place,
  stack,
  settings,
  deploy,
  check,
  ledger,
};
