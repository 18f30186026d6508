import type { Claimed } from './claim';
import { standingsOf } from './overlapTree';

/** How a layer stands to others: what it covers, what covers it, or what would be there without it. */
export type Relation = 'covers' | 'covered' | 'back';

/** One file of a layer, and how it stands to those of others. */
export interface Related {
  how:
    | 'lies over'
    | 'lies under'
    | 'part of'
    | 'next would be used'
    | 'original would come back'
    | 'nothing would be left';
  /** The other layers, the lowest first. */
  others: string[];
}

/** What has to be known beside the claims. */
export interface Around {
  /** The layers that a merge is made of. */
  mergedFrom: (layer: string) => readonly string[] | undefined;
  /** Does the game have a file there of its own? By the target's key. */
  isOwn: (key: string) => boolean;
}

/** How a layer's file at one target stands to others; undefined where it has none there, or does not stand so. */
export function relatedBy(
  claimed: Claimed,
  layer: string,
  relation: Relation,
  { mergedFrom, isOwn }: Around,
): Related | undefined {
  const { key, claims, winner } = claimed;
  if (!winner || !claims.some((claim) => claim.layer === layer)) return undefined;
  const wins = winner.layer === layer;
  if (relation === 'covered') {
    const mine = standingsOf(claimed, mergedFrom).find((one) => one.layer === layer);
    if (mine?.standing === 'hidden') return { how: 'lies under', others: [winner.layer] };
    return mine?.standing === 'merged' ? { how: 'part of', others: [winner.layer] } : undefined;
  }
  if (!wins) return undefined;
  if (relation === 'covers') {
    const hidden = standingsOf(claimed, mergedFrom).filter(({ standing }) => standing === 'hidden');
    return hidden.length === 0 ? undefined : { how: 'lies over', others: hidden.map((one) => one.layer) };
  }
  const next = claims.filter((claim) => claim !== winner).at(-1);
  if (next) return { how: 'next would be used', others: [next.layer] };
  return { how: isOwn(key) ? 'original would come back' : 'nothing would be left', others: [] };
}
