import { SatchelError } from '../errors';
import type { Folder } from '../folder';
import { splitTarget } from '../paths/paths';
import { megabytes } from '../words';
import type { Plan, PlanStep, Workshop } from './model';

/** A disk that is too full. */
export interface Shortage {
  disk: string;
  /** Bytes. */
  needed: number;
  left: number;
}

/** What is kept for a step: the file as it was, and what is written into it. */
const vaultNeeds = ({ before, made }: PlanStep): number =>
  (before?.size ?? 0) + (made?.bytes?.length ?? 0) + (made?.base?.length ?? 0);

/**
 * Disks on which there is not enough room for a plan. What is written counts in full, since the old file goes only when
 * the new one is whole; what is kept counts in full too.
 */
export async function shortages(plan: Plan, workshop: Workshop): Promise<Shortage[]> {
  const needs = new Map<Folder, number>();
  const need = (folder: Folder | undefined, bytes: number) =>
    folder && needs.set(folder, (needs.get(folder) ?? 0) + bytes);
  for (const step of plan.steps) {
    need(workshop.folders[splitTarget(step.target).root], step.size);
    need(workshop.vault, vaultNeeds(step));
    need(workshop.backup, step.before?.size ?? 0);
  }
  const disks = new Map<string, { left: number; needed: number }>();
  for (const [folder, bytes] of needs) {
    const room = await folder.room?.();
    if (!room) continue;
    const disk = disks.get(room.disk) ?? { left: room.left, needed: 0 };
    disks.set(room.disk, { left: Math.min(disk.left, room.left), needed: disk.needed + bytes });
  }
  return [...disks].flatMap(([disk, { left, needed }]) => (needed > left ? [{ disk, needed, left }] : []));
}

/**
 * Refuses a plan for which there is not enough room, before anything is written.
 *
 * @throws SatchelError `no-room-to-deploy`
 */
export async function checkRoom(plan: Plan, workshop: Workshop): Promise<void> {
  for (const { disk, needed, left } of await shortages(plan, workshop))
    throw new SatchelError('no-room-to-deploy', { disk, needed: megabytes(needed), left: megabytes(left, 'down') });
}
