import { emptyResolution } from '../layers/layers';
import type { Dialect } from '../settings/dialects';
import type { TargetPath } from '../paths/paths';
import { deploy, type DeployOptions } from './deploy';
import type { LedgerEntry, Workshop } from './model';
import { planDeployment } from './plan';
import { readState } from './vault';

/**
 * Puts everything back: deploys no layers at all, so that every original resurfaces. The layers themselves are not
 * touched and can be deployed again.
 *
 * @returns the line of the ledger; its counts are zero where nothing was deployed
 * @throws as `deploy`
 */
export async function restore(
  workshop: Workshop,
  options: Pick<DeployOptions, 'signal' | 'onProgress' | 'onStuck'> & {
    dialectOf(target: TargetPath): Dialect | undefined;
    nameOf?(layer: string): string;
    title?: string;
  },
): Promise<LedgerEntry> {
  const plan = await planDeployment({
    ...options,
    workshop,
    resolution: emptyResolution(),
    state: await readState(workshop.vault),
    nameOf: options.nameOf ?? ((layer) => layer),
  });
  return deploy(plan, workshop, { ...options, title: options.title ?? 'Put everything back', layers: [] });
}
