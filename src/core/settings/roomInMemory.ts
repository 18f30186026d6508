import { sizeOf } from '../words';

/** What to do with a setting that costs memory. */
export interface RoomAdvice {
  advice: 'on' | 'off';
  why: string;
}

/**
 * A game needs memory for itself, and so does everything else that runs: textures should take no more than this part.
 */
const SHARE = 0.5;

/**
 * Whether reading all textures at the start fits the machine.
 *
 * @param need bytes that all deployed textures take once loaded
 * @param has bytes of memory that the machine has; undefined where nobody knows
 */
export function adviseOnPreload(need: number, has: number | undefined): RoomAdvice | undefined {
  if (has === undefined) return undefined;
  if (need <= has * SHARE)
    return {
      advice: 'on',
      why: `All textures take ${sizeOf(need)} once loaded, no more than half of the ${sizeOf(has)} that this machine has: reading them at the start avoids stutter later.`,
    };
  return {
    advice: 'off',
    why: `All textures take ${sizeOf(need)} once loaded, more than half of the ${sizeOf(has)} that this machine has: read them as they are needed, or the game may stop for lack of memory.`,
  };
}
