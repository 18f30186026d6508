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
  const size = (bytes: number) =>
    bytes < 1024 ** 3
      ? `${Math.max(1, Math.round(bytes / 1024 ** 2)).toLocaleString('en')} MB`
      : `${(bytes / 1024 ** 3).toLocaleString('en', { maximumFractionDigits: 1 })} GB`;
  if (need <= has * SHARE)
    return {
      advice: 'on',
      why: `All textures take ${size(need)} once loaded, no more than half of the ${size(has)} that this machine has: reading them at the start avoids stutter later.`,
    };
  return {
    advice: 'off',
    why: `All textures take ${size(need)} once loaded, more than half of the ${size(has)} that this machine has: read them as they are needed, or the game may stop for lack of memory.`,
  };
}
