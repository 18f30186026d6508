import { OverlapTree, nameKey, standingsOf, type Claimed, type TargetPath } from '@/core';
import type { Relation, RelationRow } from './api';
import type { Picture, Session } from './session';

/** Pictures of overlaps, made when they are asked for and kept for as long as the stack is as it is. */
const made = new WeakMap<Picture, Map<boolean, OverlapTree>>();

export const mergeSources = (session: Session) => {
  const sources = new Map(session.picture.merges.map(({ note, sources: from }) => [note.id, from]));
  return (layer: string) => sources.get(layer);
};

/** What layers claim, and with `all` the game's own files that no layer touches. */
function* targets({ resolution, ownFiles }: Picture, all: boolean): Iterable<Claimed> {
  yield* resolution.owned.claimed();
  if (all) for (const target of ownFiles) if (!resolution.owned.claim(nameKey(target))) yield { key: nameKey(target), target: target as TargetPath, claims: [], winner: undefined };
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

/** How the files of one pack stand to those of others. */
export function relationRows(session: Session, layer: string, relation: Relation, search: string): (() => RelationRow)[] {
  const words = nameKey(search).split(/\s+/).filter(Boolean);
  const tags = new Map(session.packLayers().map(({ id, tag }) => [id, tag]));
  const rows: (() => RelationRow)[] = [];
  const { ownKeys, resolution } = session.picture;
  for (const claimed of resolution.owned.claimed()) {
    const { key, target, claims, winner } = claimed;
    if (!claims.some((claim) => claim.layer === layer) || !words.every((word) => key.includes(word))) continue;
    const row = (says: string, other: string | undefined) => rows.push(() => ({ path: target, target, says, tag: other === undefined ? undefined : tags.get(other) }));
    const wins = winner?.layer === layer;
    if (relation === 'covers' && wins) {
      const hidden = standingsOf(claimed, mergeSources(session)).filter(({ standing }) => standing === 'hidden');
      const top = hidden.at(-1);
      if (top) row(`lies over ${hidden.map((one) => `“${session.nameOf(one.layer)}”`).join(', ')}`, top.layer);
    } else if (relation === 'covered' && winner && !wins) {
      const mine = standingsOf(claimed, mergeSources(session)).find((one) => one.layer === layer);
      if (mine?.standing === 'hidden') row(`“${session.nameOf(winner.layer)}” lies over it`, winner.layer);
      else if (mine?.standing === 'merged') row(`part of “${session.nameOf(winner.layer)}”`, winner.layer);
    } else if (relation === 'back' && wins) {
      const next = claims.filter((claim) => claim !== winner).at(-1);
      row(next ? `“${session.nameOf(next.layer)}” would be used` : ownKeys.has(key) ? 'the game’s own file would come back' : 'there would be no such file', next?.layer);
    }
  }
  return rows;
}
