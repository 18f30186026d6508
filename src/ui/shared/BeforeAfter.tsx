'use client';

import { ComparePictures } from './ComparePictures';
import { CompareSounds } from './CompareSounds';

interface Props {
  what: 'picture' | 'sound';
  target: string;
  a: string;
  b: string;
  names: [string, string];
  revision: number | undefined;
}

/** Two versions of a picture or a sound, each as it is. */
export const BeforeAfter = ({ what, ...two }: Props) =>
  what === 'picture' ? <ComparePictures {...two} /> : <CompareSounds {...two} />;
