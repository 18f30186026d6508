import { isUnder, nameKey, type TargetPath } from '../paths/paths';
import type { DeployedState, Plan } from './model';

/** A part of the game that is to be as it was without packs. */
export type RestoreScope = { what: 'file' | 'folder'; at: string } | { what: 'pack'; layer: string };

/** Does a target lie in the file or folder? */
export const liesIn = (target: string, { what, at }: { what: 'file' | 'folder'; at: string }): boolean =>
  what === 'file' ? nameKey(target) === nameKey(at) : isUnder(nameKey(target), nameKey(at));

/**
 * Of a plan for the game without a part, what concerns that part: nothing else that waits is carried out with it.
 *
 * @param plan what is to be done where the part is left out
 * @param waiting what is to be done anyway
 */
export function onlyConcerning(
  plan: Plan,
  scope: RestoreScope,
  { state, waiting }: { state: DeployedState; waiting: Plan },
): Plan {
  const concerns =
    scope.what === 'pack' ? ofPack(plan, scope.layer, state, waiting) : (at: TargetPath) => liesIn(at, scope);
  return {
    ...plan,
    steps: plan.steps.filter(({ target }) => concerns(target)),
    forget: plan.forget.filter(concerns),
    drifted: plan.drifted.filter(({ target }) => concerns(target)),
    refused: [],
  };
}

/** What a pack has brought or edited, and merges that it was part of: those come out differently, too. */
function ofPack(plan: Plan, id: string, state: DeployedState, waiting: Plan): (target: TargetPath) => boolean {
  const mine = new Set(
    state.files
      .filter(({ layer, living }) => layer === id || living?.edits.some((edit) => edit.layer === id))
      .map(({ target }) => nameKey(target)),
  );
  const anyway = new Map(waiting.steps.map(({ target, after }) => [target, JSON.stringify(after)]));
  for (const { target, after } of plan.steps)
    if (anyway.get(target) !== JSON.stringify(after)) mine.add(nameKey(target));
  return (target) => mine.has(nameKey(target));
}
