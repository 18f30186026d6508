import type { OwnedTarget, Provider } from '../layers/layer';
import { baseName } from '../paths/paths';
import { checksum } from './checksums';
import type { DeployedFile, Workshop } from './model';
import type { Planning, Spot } from './planInput';
import { planKept, planMade } from './planMade';
import { hashInPack } from './takeBack';

/** A target that layers bring: what the topmost one has is to lie there. */
export async function planOwned({ providers }: OwnedTarget, spot: Spot, planning: Planning): Promise<void> {
  const winner = providers.at(-1);
  if (!winner) return;
  const { input, actual, plan } = planning;
  const { made, kept, layer, packId, file } = winner;
  const name = input.nameOf(layer);
  if (made) {
    const reason =
      packId === ''
        ? `“${name}” holds what several packs change in it.`
        : `Written for “${name}”, since the game needs it.`;
    return planMade({ bytes: made, layer, reason }, spot, planning);
  }
  if (kept) return planKept({ ...kept, layer }, spot, planning);
  const { key, wanted, record } = spot;
  const now = actual.files.get(key);
  // On disks that do not tell capitals apart a file keeps its old spelling when it is written again.
  const respelled =
    now && record?.original.kind === 'absent' && !actual.drifted.has(key) && baseName(now.target) !== baseName(wanted);
  if (respelled)
    return void plan.steps.push({
      action: 'remove',
      target: now.target,
      reason: `Its name is to be spelled “${baseName(wanted)}”: it is taken out, and put in again at once.`,
      layer,
      size: 0,
      before: { size: now.size, modified: now.modified },
      after: record.original,
      again: true,
    });
  const reason = await whyWritten(winner, spot, planning);
  if (reason === undefined) return void plan.unchanged++;
  const { path, size, crc32 } = file;
  plan.steps.push({
    action: now ? 'replace' : 'add',
    target: actual.spell(wanted),
    reason,
    layer,
    size,
    before: now && { size: now.size, modified: now.modified },
    after: { kind: 'pack', packId, path, size, ...(crc32 === undefined ? {} : { crc32 }) },
  });
}

/** Why a pack's file is written to a target; undefined where it lies there already. */
async function whyWritten(
  { layer, packId, file }: Provider,
  { key, record }: Omit<Spot, 'wanted'>,
  { input, actual }: Planning,
): Promise<string | undefined> {
  const now = actual.files.get(key);
  const name = input.nameOf(layer);
  if (!now)
    return record
      ? `“${name}” brings it; the deployed one was deleted by another program.`
      : `“${name}” brings it; the game has no such file.`;
  if (!record) {
    const isSame = now.size === file.size && file.crc32 !== undefined && (await checksum(now, input)) === file.crc32;
    return isSame ? undefined : `“${name}” replaces the game’s own file, which is kept first.`;
  }
  if (actual.drifted.has(key))
    return `“${name}” brings it; another program has changed the deployed file since, and its version is kept first.`;
  return (await sameAsDeployed(record, packId, file, input.workshop))
    ? undefined
    : `“${name}” now lies above “${input.nameOf(record.layer)}” for this file.`;
}

/**
 * Is what a layer wants the very content that was deployed? Another pack's checksum is a hint only, so its bytes are
 * hashed.
 */
async function sameAsDeployed(
  record: DeployedFile,
  packId: string,
  file: { path: string; size: number; crc32?: number },
  workshop: Workshop,
): Promise<boolean> {
  if (record.from.kind === 'pack' && record.from.packId === packId && record.from.path === file.path) return true;
  if (record.size !== file.size || (record.from.kind === 'pack' && record.from.crc32 !== file.crc32)) return false;
  return (await hashInPack({ packId, ...file }, workshop)) === record.sha256;
}

/** A deployed file that no layer wants any more: what was there before comes back. */
export function planReturn(key: string, record: DeployedFile, { input, actual, plan }: Planning): void {
  const now = actual.files.get(key);
  const place = now?.target ?? record.target;
  const before = now && { size: now.size, modified: now.modified };
  const name = input.nameOf(record.layer);
  if (record.original.kind === 'kept')
    plan.steps.push({
      action: 'restore',
      target: place,
      reason: `“${name}” no longer brings it; the game’s own file comes back.`,
      layer: record.layer,
      size: record.original.size,
      before,
      after: record.original,
    });
  else if (now)
    plan.steps.push({
      action: 'remove',
      target: place,
      reason: `“${name}” no longer brings it, and the game had no such file.`,
      layer: record.layer,
      size: 0,
      before,
      after: record.original,
    });
  else plan.forget.push(record.target);
}
