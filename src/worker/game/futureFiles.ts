import { nameKey, onceFor, type PresentFile, type TargetPath } from '@/core';
import type { Picture } from './picture';
import type { Session } from './session';

/** The game's own files; put together once for as long as they are the same. */
const ownPresent = onceFor((ownFiles: readonly TargetPath[]): readonly (PresentFile & { key: string })[] =>
  ownFiles.map((target) => ({ target, key: nameKey(target) })),
);

/** The game's own files with others in their place, and with those that come. */
function withOthers({ ownFiles }: Picture, others: ReadonlyMap<string, PresentFile>): PresentFile[] {
  const files: PresentFile[] = ownPresent(ownFiles).filter(({ key }) => !others.has(key));
  for (const file of others.values()) files.push(file);
  return files;
}

const futureOf = onceFor((picture: Picture): PresentFile[] => {
  const others = new Map<string, PresentFile>();
  for (const [key, { target }] of picture.resolution.living)
    if (!picture.ownKeys.has(key)) others.set(key, { target, key });
  for (const [key, { target, providers }] of picture.resolution.owned)
    others.set(key, { target, key, layer: providers.at(-1)?.layer });
  return withOthers(picture, others);
});

/**
 * The game as it will be after the next deployment, each file with the layer that brings it; put together once for a
 * picture.
 */
export const futureGame = ({ picture }: Session): PresentFile[] => futureOf(picture);

/** The game as it is now. */
export function presentGame({ picture }: Session): PresentFile[] {
  const others = new Map<string, PresentFile>();
  for (const { target, layer, living } of picture.state.files) {
    const key = nameKey(target);
    if (!living) others.set(key, { target, key, layer });
  }
  return withOthers(picture, others);
}
