import { computeMerge, type ComputedMerge, type DeployedState, type Layer, type MergeLayer } from '@/core';
import { dialectOf, originalOf } from './originals';
import type { Session } from './session';

/** What a merge comes to on these layers; remembered for as long as nothing that it is made of changes. */
export async function mergeNow(
  session: Session,
  note: MergeLayer,
  layers: readonly Layer[],
  state: DeployedState,
): Promise<ComputedMerge<MergeLayer>> {
  const computed = await computeMerge(
    note,
    layers,
    {
      original: await originalOf(session, note.target, state),
      dialect: dialectOf(session, note.target),
      read: async (packId, path) => (await session.openPack(packId)).pack.read(path),
    },
    session.seen.merges.get(note),
  );
  session.seen.merges.set(note, computed);
  return computed;
}
