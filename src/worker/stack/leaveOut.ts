import { decide, nameKey, placeFiles } from '@/core';
import type { Session } from '../game/session';

/** Leaves what a pack brings to one target out, so that what lies below shows through. */
export async function leaveOut(session: Session, id: string, target: string): Promise<void> {
  const layer = session.layer(id);
  const { pack } = await session.openPack(layer.packId);
  const paths = placeFiles(pack.entries, layer.placement)
    .filter((file) => nameKey(file.target) === nameKey(target) && file.inside === undefined)
    .map(({ path }) => path);
  await session.replaceLayer(id, (one) => ({
    ...one,
    placement: paths.reduce((placement, path) => decide(placement, pack.entries, path, false), one.placement),
  }));
}
