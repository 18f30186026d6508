import { onceFor } from '../once';
import { nameKey } from '../paths/paths';
import type { DeployedFile, DeployedState } from './model';

/** What is deployed, by the key of its target; put together once for a state. */
export const deployedByKey = onceFor(
  ({ files }: DeployedState): ReadonlyMap<string, DeployedFile> =>
    new Map(files.map((file) => [nameKey(file.target), file])),
);
