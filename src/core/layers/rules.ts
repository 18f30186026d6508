import { z } from 'zod';
import { kindOf, type FileKind } from '../media/kinds';
import { nameKey, parentOf } from '../paths/paths';

/** Stands for the game's own file where a pick names a layer. */
export const ORIGINAL = 'original';

/**
 * The player lets one layer win against the order: for one target, a folder of the game with all in it, or a kind of
 * file.
 */
export const pickSchema = z.object({
  scope: z.enum(['file', 'folder', 'kind']),
  /** A target, a folder as a target, or a kind of file. */
  at: z.string().min(1),
  /** The layer that wins where it has the file; `original`: no layer does. */
  layer: z.string().min(1),
});
export type Pick = z.infer<typeof pickSchema>;

/** `upper` lies above `lower`, whatever is added or moved. */
export const orderRuleSchema = z.object({
  lower: z.string().min(1),
  upper: z.string().min(1),
  /** Where it does not come from the player: why. */
  why: z.string().optional(),
});
export type OrderRule = z.infer<typeof orderRuleSchema>;

/** Picks prepared for being asked: the narrowest that holds counts. */
export class PickBook {
  private readonly files = new Map<string, string>();
  private readonly folders = new Map<string, string>();
  private readonly kinds = new Map<FileKind, string>();

  constructor(readonly picks: readonly Pick[]) {
    for (const { scope, at, layer } of picks) {
      if (scope === 'kind') this.kinds.set(at as FileKind, layer);
      else (scope === 'file' ? this.files : this.folders).set(nameKey(at), layer);
    }
  }

  /** The layers that should win a target, the narrowest pick's first. One that does not have the file says nothing. */
  find(key: string): string[] {
    if (this.picks.length === 0) return NONE;
    const found: string[] = [];
    const file = this.files.get(key);
    if (file !== undefined) found.push(file);
    if (this.folders.size > 0)
      for (let folder = parentOf(key); folder !== ''; folder = parentOf(folder)) {
        const layer = this.folders.get(folder);
        if (layer !== undefined) found.push(layer);
      }
    const kind = this.kinds.size > 0 ? this.kinds.get(kindOf(key)) : undefined;
    if (kind !== undefined) found.push(kind);
    return found;
  }
}
const NONE: string[] = [];

/** The picks with one more; a pick for the same place gives way, and `layer` undefined only takes that away. */
export const pick = (
  picks: readonly Pick[],
  scope: Pick['scope'],
  at: Pick['at'],
  layer: string | undefined,
): Pick[] => [
  ...picks.filter((one) => one.scope !== scope || nameKey(one.at) !== nameKey(at)),
  ...(layer === undefined ? [] : [{ scope, at, layer }]),
];

export type Ordered = { ok: true; order: string[] } | { ok: false; cycle: string[] };

/**
 * An order near to the wanted one in which every rule holds, lowest first: a layer is pulled down only where something
 * below its place has to lie above it. Rules about layers that are not there say nothing.
 *
 * @returns the order, or the layers of one cycle, each below the next and the last below the first
 */
export function orderLayers(wanted: readonly string[], rules: readonly OrderRule[]): Ordered {
  const place = new Map(wanted.map((id, i) => [id, i]));
  const below = new Map<string, string[]>();
  for (const { lower, upper } of rules)
    if (place.has(lower) && place.has(upper)) below.set(upper, [...(below.get(upper) ?? []), lower]);
  const order: string[] = [];
  const state = new Map<string, 'on the way' | 'placed'>();
  // What must lie below a layer is placed before it, in the wanted order; without recursion, for long chains.
  for (const id of wanted) {
    const way: { id: string; next: number }[] = [];
    const enter = (one: string) => {
      state.set(one, 'on the way');
      below.get(one)?.sort((a, b) => (place.get(a) ?? 0) - (place.get(b) ?? 0));
      way.push({ id: one, next: 0 });
    };
    if (!state.has(id)) enter(id);
    for (let top = way.at(-1); top; top = way.at(-1)) {
      const under = below.get(top.id)?.[top.next++];
      if (under === undefined) {
        state.set(top.id, 'placed');
        order.push(top.id);
        way.pop();
      } else if (!state.has(under)) enter(under);
      else if (state.get(under) === 'on the way') {
        const ids = way.map((step) => step.id);
        return { ok: false, cycle: ids.slice(ids.indexOf(under)).reverse() };
      }
    }
  }
  return { ok: true, order };
}
