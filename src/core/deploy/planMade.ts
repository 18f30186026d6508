import { SatchelError, reasonOf } from '../errors';
import { sha256 } from '../hash';
import type { OwnFile } from '../layers/layer';
import type { TargetPath } from '../paths/paths';
import { hashOfTarget } from './lookUp';
import type { Made, Planning, Spot } from './planInput';

/** What cannot be made, since a pack is damaged or gone, stays as it is and says why; all else is planned. */
export async function orRefused(target: TargetPath, { plan }: Planning, make: () => Promise<void>): Promise<void> {
  try {
    await make();
  } catch (error) {
    if (!(error instanceof SatchelError) || error.code === 'cancelled') throw error;
    plan.refused.push({ target, why: reasonOf(error) });
  }
}

/** A content that lies in no pack. */
export async function planMade(
  { bytes, layer, reason, recipe }: Made,
  { key, wanted }: Spot,
  { input, actual, plan }: Planning,
): Promise<void> {
  const now = actual.files.get(key);
  const hash = await sha256(bytes);
  if (now && now.size === bytes.length && (await hashOfTarget(input.workshop, now.target)) === hash)
    return void plan.unchanged++;
  plan.steps.push({
    action: now ? 'replace' : 'add',
    target: actual.spell(wanted),
    layer,
    size: bytes.length,
    before: now && { size: now.size, modified: now.modified },
    reason,
    after: { kind: 'kept', sha256: hash, size: bytes.length },
    made: { bytes, ...(recipe === undefined ? {} : { recipe }) },
  });
}

/** A file of the player's own, which lies in the vault. */
export async function planKept(
  { sha256: hash, size, layer }: OwnFile & { layer: string },
  { key, wanted, record }: Spot,
  { input, actual, plan }: Planning,
): Promise<void> {
  const now = actual.files.get(key);
  const isThere =
    now &&
    now.size === size &&
    (record && !actual.drifted.has(key)
      ? record.sha256 === hash
      : (await hashOfTarget(input.workshop, now.target)) === hash);
  if (isThere) return void plan.unchanged++;
  plan.steps.push({
    action: now ? 'replace' : 'add',
    target: actual.spell(wanted),
    layer,
    size,
    before: now && { size: now.size, modified: now.modified },
    reason: 'It is a version of your own, kept in the app.',
    after: { kind: 'kept', sha256: hash, size },
  });
}
