import { SatchelError, reasonOf, throwIfAborted, type ErrorCode } from '../errors';
import type { OwnedTarget } from '../layers/layer';
import type { LivingTarget } from '../layers/layers';
import { byPath, nameKey, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel } from '../progress';
import { fetchChecksums } from './checksums';
import { deployedByKey } from './deployedByKey';
import { GameIndex } from './gameIndex';
import { hasDrifted, linkOf, listFolders, lookUp } from './lookUp';
import type { DeployedFile, Plan } from './model';
import { planEdited } from './planEdited';
import type { PlanInput, Planning, Spot } from './planInput';
import { planInside } from './planInside';
import { planLiving } from './planLiving';
import { planOwned, planReturn } from './planOwned';

/**
 * Computes what must be done so that the folders hold what the layers say: desired minus actual.
 * Reads the folders, writes nothing. The same input gives the same plan, in whatever order folders are listed.
 */
export async function planDeployment(given: PlanInput): Promise<Plan> {
  const input = { ...given, checksums: given.checksums ?? new Map<string, number>() };
  const { resolution, state, workshop, signal, onProgress } = input;
  const actual = lookUp(given.index ?? new GameIndex(await listFolders(workshop.folders, given)));
  const deployed = deployedByKey(state);
  const plan: Plan = { steps: [], unchanged: 0, forget: [], drifted: [], leftAlone: [], refused: [] };
  const total = resolution.owned.size + deployed.size;
  let done = 0;
  const tick = () => {
    throwIfAborted(signal);
    if (++done % 500 === 0) onProgress?.({ phase: 'Comparing with the folder', done, total, unit: 'files' });
  };

  const planning: Planning = { input, actual, plan };
  const orRefuse = (of: TargetPath, work: () => Promise<void>) => orRefused(of, work, planning);
  await findDrift(deployed, planning);
  for (const { target: of } of plan.drifted) actual.drifted.add(nameKey(of));

  await fetchChecksums(resolution, deployed, actual, input);
  // Files are read side by side; the steps are sorted at the end.
  await inParallel(resolution.owned, WIDTH, async ([key, owned]) => {
    tick();
    if (!resolution.inside.has(key))
      await orRefuse(owned.target, () =>
        planOwnedOrEdited(
          owned,
          resolution.living.get(key),
          { key, record: deployed.get(key), wanted: owned.target },
          planning,
        ),
      );
  });
  for (const [key, record] of deployed) {
    tick();
    const isPlanned = resolution.owned.has(key) || resolution.inside.has(key) || resolution.living.has(key);
    if (isPlanned || record.living) continue;
    await orRefuse(record.target, async () => planReturn(key, record, planning));
  }
  for (const [key, inside] of resolution.inside)
    await orRefuse(inside.target, () => {
      const spot = { key, record: deployed.get(key), wanted: inside.target, owned: resolution.owned.get(key) };
      return planInside(inside, spot, planning);
    });
  await planAllLiving(deployed, planning);

  plan.steps.sort((a, b) => byPath(a.target, b.target));
  plan.drifted.sort((a, b) => byPath(a.target, b.target));
  plan.forget.sort(byPath);
  plan.refused.sort((a, b) => byPath(a.target, b.target));
  return plan;
}

/** Deployed files that somebody else changed or deleted since. */
async function findDrift(
  deployed: ReadonlyMap<string, DeployedFile>,
  { input: { workshop }, actual, plan }: Planning,
): Promise<void> {
  for (const [key, record] of deployed) {
    if (record.living) continue;
    const now = actual.files.get(key);
    // Most are as they were written: no promise for each of thousands.
    if (now?.size === record.size && now.modified === record.modified) continue;
    const note = {
      target: now?.target ?? record.target,
      layer: record.layer,
      deployed: { size: record.size, modified: record.modified },
    };
    if (!now) plan.drifted.push({ ...note, how: 'deleted', now: undefined });
    // One that cannot be read has another date than it had: somebody else changed it.
    else if (await hasDrifted(record, now, workshop).catch(isRefusal))
      plan.drifted.push({ ...note, how: 'changed', now: { size: now.size, modified: now.modified } });
  }
}

/** A target that cannot be planned stays as it is, and keeps no other from being planned. */
async function orRefused(of: TargetPath, work: () => Promise<void>, { actual, plan }: Planning): Promise<void> {
  const link = linkOf(of, actual);
  if (link !== undefined) {
    const place = link.slice(link.indexOf('/') + 1);
    const why = `“${place}” is a link to another place; the app writes to real folders only, so put these files into the folder that it leads to`;
    return void plan.refused.push({ target: of, why });
  }
  try {
    await work();
  } catch (error) {
    if (!(error instanceof SatchelError) || !LEFT_OUT.has(error.code)) throw error;
    plan.refused.push({ target: of, why: reasonOf(error) });
  }
}

/** Edits that are wanted, or deployed and not wanted any more. */
async function planAllLiving(deployed: ReadonlyMap<string, DeployedFile>, planning: Planning): Promise<void> {
  const { living: wantedEdits, owned } = planning.input.resolution;
  const before = [...deployed].flatMap(([key, { living }]) => (living ? [key] : []));
  for (const key of new Set([...wantedEdits.keys(), ...before])) {
    const [living, record] = [wantedEdits.get(key), deployed.get(key)];
    const wanted = (living ?? record)?.target;
    // Edits in a file that a pack brings whole are planned with it.
    if (wanted === undefined || owned.has(key)) continue;
    await orRefused(wanted, () => planLiving(living, { key, record, wanted }, planning), planning);
  }
}

/** What layers bring, with the edits in it where it is a settings file. */
const planOwnedOrEdited = (
  owned: OwnedTarget,
  living: LivingTarget | undefined,
  spot: Spot,
  planning: Planning,
): Promise<void> => (living ? planEdited(owned, living, spot, planning) : planOwned(owned, spot, planning));

/** Failures about one file: it may not be read, or its original is damaged. */
const LEFT_OUT: ReadonlySet<ErrorCode> = new Set(['folder-refused', 'bad-memory']);

const isRefusal = (error: unknown): true => {
  if (error instanceof SatchelError && LEFT_OUT.has(error.code)) return true;
  throw error;
};
