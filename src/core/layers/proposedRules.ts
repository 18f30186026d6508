import type { StatedFact } from '../inspect/stated';
import { packBase } from '../placement/needWarnings';
import { orderLayers, type OrderRule } from './rules';

/** A pack of the stack, and what it says of itself. */
export interface SpeakingPack {
  id: string;
  name: string;
  facts: readonly StatedFact[];
}

/**
 * Rules of order that follow from what packs say: one that says it is a patch for another lies above it.
 *
 * @param packs all of the stack, the lowest first
 * @param id the pack that is new
 * @param rules those there are; they count for more, and come back first
 */
export function proposedRules(
  packs: readonly SpeakingPack[],
  id: string,
  rules: readonly OrderRule[],
): readonly OrderRule[] {
  const mine = packs.find((pack) => pack.id === id);
  if (!mine) return rules;
  const order = packs.map((pack) => pack.id);
  const found = [...rules];
  for (const other of packs) {
    if (other === mine || !(saysNeeds(mine) || saysNeeds(other))) continue;
    for (const [patch, base] of [
      [mine, other],
      [other, mine],
    ] as const) {
      if (!packBase(patch.facts, [base]) || found.some((rule) => isBetween(rule, patch.id, base.id))) continue;
      const why = `“${patch.name}” says that it needs “${base.name}”, so it lies above it.`;
      const rule = { lower: base.id, upper: patch.id, why };
      // What the player has ruled before counts for more.
      if (orderLayers(order, [...found, rule]).ok) found.push(rule);
    }
  }
  return found;
}

/** Only what says that it needs something can be a patch. */
const saysNeeds = ({ facts }: SpeakingPack): boolean => facts.some(({ kind }) => kind === 'needs');

const isBetween = ({ lower, upper }: OrderRule, a: string, b: string): boolean =>
  (lower === a && upper === b) || (lower === b && upper === a);
