import { byPath, nameKey, type TargetPath } from '../paths/paths';
import type { Content, JournalStep } from './model';

/** What differs between two states of the game's folders. */
export interface Difference {
  target: TargetPath;
  before: Content;
  after: Content;
  /** The layer of the last step that touched it. */
  layer: string;
}

const isSame = (a: Content, b: Content): boolean =>
  a.kind === b.kind &&
  (a.kind === 'absent' ||
    (a.kind === 'kept' && b.kind === 'kept' && a.sha256 === b.sha256) ||
    (a.kind === 'pack' && b.kind === 'pack' && a.packId === b.packId && a.path === b.path));

/**
 * Several deployments squashed into what they come to together: the first `before` and the last `after` of each target
 * that ends up different. An example: a file added and removed again is not in it.
 *
 * @param deployments the steps of each, the earliest first
 */
export function squashSteps(deployments: readonly (readonly JournalStep[])[]): Difference[] {
  const found = new Map<string, Difference>();
  for (const steps of deployments)
    for (const { target, before, after, layer } of steps) {
      const known = found.get(nameKey(target));
      found.set(nameKey(target), { target, before: known?.before ?? before, after, layer });
    }
  return [...found.values()]
    .filter(({ before, after }) => !isSame(before, after))
    .sort((a, b) => byPath(a.target, b.target));
}

/** The same differences seen from the other side. */
export const reverseDifferences = (differences: readonly Difference[]): Difference[] =>
  differences.map(({ target, before, after, layer }) => ({ target, before: after, after: before, layer }));
