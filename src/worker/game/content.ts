import { ORIGINAL, nameKey, readBytes, readKept, splitTarget, type Claimed, type TargetPath } from '@/core';
import type { ContentFrom } from '../contract';
import { originalOf } from './originals';
import type { Session } from './session';

/** What a layer has at a target. */
export type Provider = NonNullable<Claimed['winner']>;

export const claimedOf = (session: Session, target: string): Claimed | undefined =>
  session.picture.resolution.owned.claim(nameKey(target));

/** The bytes that a layer, the game before anything was changed, or the folder as it is now has at a target. */
export async function contentAt(
  session: Session,
  target: TargetPath,
  from: ContentFrom,
): Promise<Uint8Array<ArrayBuffer> | undefined> {
  if (from === ORIGINAL) return originalOf(session, target, session.picture.state);
  if (from === 'now') {
    const { root, path } = splitTarget(target);
    const folder = session.workshop.folders[root];
    return folder && (await folder.stat(path)) ? readBytes(folder, path) : undefined;
  }
  const claim = claimedOf(session, target)?.claims.find(({ layer }) => layer === from);
  if (!claim) return undefined;
  if (claim.kept) return readKept(session.workshop.vault, claim.kept);
  return claim.made ?? (await session.openPack(claim.packId)).pack.read(claim.file.path);
}
