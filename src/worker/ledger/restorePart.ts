import {
  ORIGINAL,
  liesIn,
  onlyConcerning,
  pick,
  type Plan,
  type RestoreScope,
  type WorkOptions,
  type Stack,
} from '@/core';
import type { DeployWork } from '../game/carrier';
import { carryOut } from '../game/carryOut';
import { planWith } from '../game/stackLayers';
import { look } from '../game/look';
import type { Picture } from '../game/picture';
import type { Session } from '../game/session';

/** The stack in which a part of the game is as it was without packs. */
function stackWithout(session: Session, scope: RestoreScope): Partial<Stack> {
  const { layers, picks } = session.stack;
  if (scope.what === 'pack')
    return { layers: layers.map((layer) => (layer.id === scope.layer ? { ...layer, on: false } : layer)) };
  const within = (target: string) => liesIn(target, scope);
  const own = session.ownLayer().files.filter(({ target }) => !within(target));
  // What the player decided for a part of it would win over the wider decision.
  const wider = picks.filter(({ scope: kind, at }) => kind === 'kind' || !within(at));
  return {
    picks: pick(wider, scope.what, scope.at, ORIGINAL),
    layers: session.withOwn(
      own,
      layers.filter((layer) => layer.kind !== 'edits' || !within(layer.file)),
    ),
  };
}

/** Plans that were looked at, for as long as the stack and the folders are as they are. */
const previewed = new WeakMap<Picture, Map<string, Promise<Plan>>>();

/** What putting back one file, one folder or one pack would do, and nothing else that is waiting. */
export function restorePlan(session: Session, scope: RestoreScope): Promise<Plan> {
  const known = previewed.get(session.picture) ?? new Map<string, Promise<Plan>>();
  previewed.set(session.picture, known);
  const key = JSON.stringify(scope);
  const plan = known.get(key) ?? computeRestore(session, scope);
  known.set(key, plan);
  return plan;
}

async function computeRestore(session: Session, scope: RestoreScope, options: WorkOptions = {}): Promise<Plan> {
  const plan = await planWith(session, stackWithout(session, scope), options);
  const { state, plan: waiting } = session.picture;
  return onlyConcerning(plan, scope, { state, waiting });
}

export async function restoreScope(session: Session, scope: RestoreScope, options: DeployWork): Promise<void> {
  session.seen.lookAtFilesAgain();
  const plan = await computeRestore(session, scope, options);
  const title = scope.what === 'pack' ? `Put back “${session.nameOf(scope.layer)}”` : `Put back ${scope.at}`;
  await session.saveStack(stackWithout(session, scope));
  await look(session);
  await carryOut(session, plan, title, options);
}
