import { OverlapTree, holdsAll, nameKey, relatedBy, searchWords, type Claimed, type Related } from '@/core';
import type { QueryOf, RelationRow } from '../contract';
import { mergeSources } from '../game/mergeSources';
import type { Picture } from '../game/picture';
import type { Session } from '../game/session';
import type { LazyRow } from '../game/stepRows';

/** Pictures of overlaps, made when they are asked for and kept for as long as the stack is as it is. */
const made = new WeakMap<Picture, Map<boolean, OverlapTree>>();

/** What layers claim, and with `all` the game's own files that no layer touches. */
function* targets({ resolution, ownFiles }: Picture, all: boolean): Iterable<Claimed> {
  yield* resolution.owned.claimed();
  if (all)
    for (const target of ownFiles)
      if (!resolution.owned.claim(nameKey(target)))
        yield { key: nameKey(target), target, claims: [], winner: undefined };
}

/** @param all also what only one layer brings, and what only the game has */
export function overlapTree(session: Session, all: boolean): OverlapTree {
  const { picture } = session;
  const known = made.get(picture) ?? new Map<boolean, OverlapTree>();
  made.set(picture, known);
  const tree = known.get(all) ?? new OverlapTree(targets(picture, all), mergeSources(session), all);
  known.set(all, tree);
  return tree;
}

export const overlapRows = (session: Session, { all, open, search }: QueryOf<'overlaps'>): readonly LazyRow[] =>
  overlapTree(session, all).rows(new Set(open), search);

/** How the files of one pack stand to those of others. */
export function relationRows(session: Session, query: QueryOf<'relations'>): (() => RelationRow)[] {
  const { layer, relation, search } = query;
  const words = searchWords(search);
  const tags = new Map(session.packLayers().map(({ id, tag }) => [id, tag]));
  const named = (id: string) => `“${session.nameOf(id)}”`;
  const says: Record<Related['how'], (one: Related) => string> = {
    'lies over': ({ others }) => `lies over ${others.map(named).join(', ')}`,
    'lies under': ({ others }) => `${others.map(named).join(', ')} lies over it`,
    'part of': ({ others }) => `part of ${others.map(named).join(', ')}`,
    'next would be used': ({ others }) => `${others.map(named).join(', ')} would be used`,
    'original would come back': () => 'the game’s own file would come back',
    'nothing would be left': () => 'there would be no such file',
  };
  const { ownKeys, resolution } = session.picture;
  const rows: (() => RelationRow)[] = [];
  const sources = mergeSources(session);
  for (const claimed of resolution.owned.claimed()) {
    if (!holdsAll(claimed.key, words)) continue;
    const found = relatedBy(claimed, layer, relation, { mergedFrom: sources, isOwn: (key) => ownKeys.has(key) });
    const { target } = claimed;
    const other = found?.others.at(-1);
    if (found)
      rows.push(() => ({
        path: target,
        target,
        says: says[found.how](found),
        tag: other === undefined ? undefined : tags.get(other),
      }));
  }
  return rows;
}
