import {
  dialectByName,
  nameKey,
  readBytes,
  readKept,
  splitTarget,
  type DeployedState,
  type Dialect,
  type TargetPath,
} from '@/core';
import type { Session } from './session';

/** The form of a file, by the card where it knows it, else by its name. */
export const dialectOf = (session: Session, target: TargetPath): Dialect | undefined =>
  session.dialectOf(target) ?? dialectByName(target);

/** The game's own file as it was before anything touched it; undefined where it had none. */
export async function originalOf(
  session: Session,
  target: TargetPath,
  state: DeployedState,
): Promise<Uint8Array<ArrayBuffer> | undefined> {
  const record = state.files.find((file) => nameKey(file.target) === nameKey(target));
  if (record) return record.original.kind === 'kept' ? readKept(session.workshop.vault, record.original) : undefined;
  const { root, path } = splitTarget(target);
  const folder = session.workshop.folders[root];
  return folder && (await folder.stat(path)) ? readBytes(folder, path) : undefined;
}
