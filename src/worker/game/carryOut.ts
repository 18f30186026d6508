import type { Layer, LedgerEntry, Plan } from '@/core';
import type { DeployWork } from './carrier';
import type { Session } from './session';

/** Deploys a plan, here or where the game's folders are. */
export function carryOut(
  session: Session,
  plan: Plan,
  title: string,
  { layers = session.picture.layers, ...options }: DeployWork & { layers?: readonly Layer[] },
): Promise<LedgerEntry> {
  session.seen.lookAtFilesAgain();
  return session.carrier.deploy(
    plan,
    { title, layers: layers.map(({ id, name, kind }) => ({ id, name, kind })) },
    options,
  );
}
