import { onceFor } from '../once';
import { nameKey, stemOf } from '../paths/paths';
import type { GameTree } from './gameTree';

/** Names of so many files are looked at. */
const MOST = 200_000;

const TAILED = /^(.*\S) ?[([][^()[\]]{1,30}[)\]]$/;

/** `Otter Bay (North)` without what stands in brackets; undefined where nothing does. */
export const withoutTail = (stem: string): string | undefined => TAILED.exec(stem)?.[1];

/**
 * What files of a game are called that have something in brackets behind their names, by what stands before it: the
 * editions of one thing.
 */
export const tailedNames = onceFor((tree: GameTree): ReadonlyMap<string, ReadonlySet<string>> => {
  const found = new Map<string, Set<string>>();
  let seen = 0;
  for (const files of tree.files.values())
    for (const [name, target] of files) {
      if (++seen > MOST) return found;
      if (!/[)\]]\.[^.]*$/.test(name)) continue;
      const stem = stemOf(target);
      const base = withoutTail(stem);
      if (base === undefined) continue;
      const key = nameKey(base);
      found.set(key, (found.get(key) ?? new Set()).add(stem));
    }
  return found;
});
