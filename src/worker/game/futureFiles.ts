import { nameKey, type PresentFile, type TargetPath } from '@/core';
import type { Picture } from './picture';
import type { Session } from './session';

const owns = new WeakMap<readonly TargetPath[], readonly (PresentFile & { key: string })[]>();

/** The game's own files; put together once for as long as they are the same. */
function own({ ownFiles }: Picture): readonly (PresentFile & { key: string })[] {
  const known = owns.get(ownFiles) ?? ownFiles.map((target) => ({ target, key: nameKey(target) }));
  owns.set(ownFiles, known);
  return known;
}

/** The game's own files with others in their place, and with those that come. */
function withOthers(picture: Picture, others: ReadonlyMap<string, PresentFile>): PresentFile[] {
  const files: PresentFile[] =
    others.size === 0 ? [...own(picture)] : own(picture).filter(({ key }) => !others.has(key));
  for (const file of others.values()) files.push(file);
  return files;
}

const futures = new WeakMap<Picture, PresentFile[]>();

/**
 * The game as it will be after the next deployment, each file with the layer that brings it; put together once for a
 * picture.
 */
export function futureGame({ picture }: Session): PresentFile[] {
  const known = futures.get(picture);
  if (known) return known;
  const others = new Map<string, PresentFile>();
  for (const [key, { target }] of picture.resolution.living)
    if (!picture.ownKeys.has(key)) others.set(key, { target, key });
  for (const [key, { target, providers }] of picture.resolution.owned)
    others.set(key, { target, key, layer: providers.at(-1)?.layer });
  const files = withOthers(picture, others);
  futures.set(picture, files);
  return files;
}

/** The game as it is now. */
export function presentGame({ picture }: Session): PresentFile[] {
  const others = new Map<string, PresentFile>();
  for (const { target, layer, living } of picture.state.files) {
    const key = nameKey(target);
    if (!living) others.set(key, { target, key, layer });
  }
  return withOthers(picture, others);
}
