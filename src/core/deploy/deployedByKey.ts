import { nameKey } from '../paths/paths';
import type { DeployedFile, DeployedState } from './model';

const known = new WeakMap<DeployedState, ReadonlyMap<string, DeployedFile>>();

/** What is deployed, by the key of its target; put together once for a state, which is never changed but replaced. */
export function deployedByKey(state: DeployedState): ReadonlyMap<string, DeployedFile> {
  const byKey = known.get(state) ?? new Map(state.files.map((file) => [nameKey(file.target), file]));
  known.set(state, byKey);
  return byKey;
}
