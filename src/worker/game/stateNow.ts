import { STATE, readState, type DeployedState } from '@/core';
import type { Session } from './session';

/** What is deployed; read anew only where it was written since. */
export async function stateNow({ seen, workshop: { vault } }: Session): Promise<DeployedState> {
  const stat = await vault.stat(STATE);
  const before = seen.state;
  if (before && stat && before.size === stat.size && before.modified === stat.modified) return before.state;
  const state = await readState(vault);
  // Written between the two, it is read once more the next time.
  seen.state = stat && { size: stat.size, modified: stat.modified, state };
  return state;
}
