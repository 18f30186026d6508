import { canBeDrawn, pathId, shortages, soundType, type KnownFacts } from '@/core';
import type { CheckView } from '../contract';
import type { Session } from '../game/session';

/** So many pictures and sounds are compared. */
const MOST_REPLACED = 12;

/** Keys that packs want different values for. What the player wants is no quarrel: it is the last word. */
export function foughtOver({ picture, nameOf }: Session): KnownFacts['fought'] {
  return [...picture.resolution.living.values()].flatMap(({ target, edits }) => {
    const byKey = new Map<string, typeof edits>();
    for (const edit of edits) byKey.set(pathId(edit.path), [...(byKey.get(pathId(edit.path)) ?? []), edit]);
    return [...byKey.values()].flatMap((wants) => {
      const [first] = wants;
      const settled = wants.some(({ kind }) => kind === 'edits') || wants.every(({ value }) => value === first?.value);
      return first === undefined || settled
        ? []
        : [
            {
              file: target,
              path: [...first.path],
              wants: wants.map(({ layer, value }) => ({ by: nameOf(layer), value })),
            },
          ];
    });
  });
}

/** Disks too full for what waits, with the packs that bring most of it. */
export async function shortOfRoom({ picture, workshop, nameOf }: Session): Promise<KnownFacts['short']> {
  const short = await shortages(picture.plan, workshop);
  if (short.length === 0) return [];
  const bytes = new Map<string, number>();
  for (const { after, layer, size } of picture.plan.steps)
    if (after.kind === 'pack' && layer !== undefined) bytes.set(layer, (bytes.get(layer) ?? 0) + size);
  const packs = [...bytes]
    .map(([layer, sum]) => ({ layer, name: nameOf(layer), bytes: sum }))
    .sort((a, b) => b.bytes - a.bytes);
  return short.map((one) => ({ ...one, packs }));
}

/** What can be looked at or heard. */
const whatOf = (target: string): 'picture' | 'sound' | undefined =>
  canBeDrawn(target) ? 'picture' : soundType(target) === undefined ? undefined : 'sound';

/** Pictures and sounds that were there before and are another's now: what a player looks for after the start. */
export const replacedFiles = ({ picture, nameOf }: Session): CheckView['replaced'] =>
  picture.state.files
    .filter(({ target, original, living }) => !living && original.kind === 'kept' && whatOf(target) !== undefined)
    .sort((a, b) => b.size - a.size)
    .slice(0, MOST_REPLACED)
    .flatMap(({ target, layer }) => {
      const what = whatOf(target);
      return what === undefined ? [] : [{ target, by: nameOf(layer), what }];
    });
