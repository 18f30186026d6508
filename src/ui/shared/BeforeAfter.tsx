'use client';

import { ComparePictures } from './ComparePictures';
import { CompareSounds } from './CompareSounds';
import type { TwoVersions } from './useContent';

/** Two versions of a picture or a sound, each as it is. */
export const BeforeAfter = ({ what, ...two }: TwoVersions & { what: 'picture' | 'sound' }) =>
  what === 'picture' ? <ComparePictures {...two} /> : <CompareSounds {...two} />;
