import { nameKey, type PresentFile } from '@/core';
import type { Picture } from './picture';
import type { Session } from './session';

const own = ({ ownFiles }: Picture): Map<string, PresentFile> =>
  new Map(ownFiles.map((target) => [nameKey(target), { target }]));

const futures = new WeakMap<Picture, PresentFile[]>();

/**
 * The game as it will be after the next deployment, each file with the layer that brings it; put together once for a
 * picture.
 */
export function futureGame({ picture }: Session): PresentFile[] {
  const known = futures.get(picture);
  if (known) return known;
  const all = own(picture);
  for (const [key, { target }] of picture.resolution.living) if (!all.has(key)) all.set(key, { target });
  for (const [key, { target, providers }] of picture.resolution.owned)
    all.set(key, { target, layer: providers.at(-1)?.layer });
  const files = [...all.values()];
  futures.set(picture, files);
  return files;
}

/** The game as it is now. */
export function presentGame({ picture }: Session): PresentFile[] {
  const all = own(picture);
  for (const { target, layer, living } of picture.state.files) if (!living) all.set(nameKey(target), { target, layer });
  return [...all.values()];
}
