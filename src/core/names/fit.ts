import type { Family } from './families';
import type { Features } from './features';
import type { Knowledge } from './knowledge';

const WEIGHT: Record<string, number> = { F: 1.5, E: 1, D: 0.75, G: 0.5 };

const weightOf = (feature: string): number => WEIGHT[feature[0] as string] ?? 1;

/** How well a folder of a pack fits a family. */
export interface Fit {
  /** 0 to 1: how much of the folder the members have too, and how much of what they share it has. */
  fit: number;
  /** 0 to 1: how much what they share is found in this family alone. */
  special: number;
  /** A file that most members have, and this one too. */
  marker: string | undefined;
  /** 0 to 1: how much of what members share it has. */
  whole: number;
}

/** Compares a pack's folder with a family of the game. */
export function fitOf(features: Features, family: Family, { everywhere }: Knowledge): Fit {
  const size = family.members.size;
  let total = 0,
    held = 0,
    wanted = 0,
    had = 0,
    special = 0;
  let marker: string | undefined;
  for (const [feature] of features) {
    const weight = weightOf(feature);
    const count = family.counts.get(feature) ?? 0;
    // A file's own name need not be among the others': its ending speaks for it.
    if (feature.startsWith('F:') && count === 0) continue;
    total += weight;
    held += weight * Math.sqrt(count / size);
    if (!family.core.has(feature)) continue;
    special = Math.max(special, count / Math.max(count, everywhere.get(feature) ?? count));
    if (feature.startsWith('F:')) marker = feature.slice(2);
  }
  for (const feature of family.core) {
    const weight = weightOf(feature) * ((family.counts.get(feature) ?? 0) / size);
    wanted += weight;
    if (features.has(feature)) had += weight;
  }
  if (total === 0 || wanted === 0 || had === 0) return { fit: 0, special: 0, marker: undefined, whole: 0 };
  return { fit: Math.sqrt(held / total) * (had / wanted) ** 0.75, special, marker, whole: had / wanted };
}
