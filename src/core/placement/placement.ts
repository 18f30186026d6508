import { z } from 'zod';
import type { PackEntry } from '../archives/pack';
import { isUnder, joinPath, target, type PackPath, type TargetPath } from '../paths/paths';
import type { LeftOutReason } from './baggage';

/** Where a pack's files go: one rule, and the files that it does not hold for. */
export interface Placement {
  /** The folder of the pack whose contents are placed; '' for the whole pack. */
  strip: string;
  base: TargetPath;
  leftOut: { path: PackPath; why: LeftOutReason }[];
  /** What the player decided against the proposal. */
  decisions: { out: PackPath[]; in: PackPath[] };
}

/** A file of a pack with its target. */
export interface PlacedFile extends PackEntry {
  target: TargetPath;
}

/** What the app remembers of a placement, checked on the way in. */
export const placementSchema = z.object({
  strip: z.string(),
  base: z.string().min(1).transform((base) => base as TargetPath),
  leftOut: z.array(z.object({ path: z.string().transform((path) => path as PackPath), why: z.string().transform((why) => why as LeftOutReason) })),
  decisions: z.object({
    out: z.array(z.string().transform((path) => path as PackPath)),
    in: z.array(z.string().transform((path) => path as PackPath)),
  }),
});

/** Why each file that is left out is left out, the player's decisions included. */
export function leftOutOf({ strip, leftOut, decisions }: Placement, entries: readonly PackEntry[]): Map<PackPath, LeftOutReason> {
  const out = new Map(leftOut.map(({ path, why }) => [path, why]));
  for (const path of decisions.out) out.set(path, 'your choice');
  for (const path of decisions.in) out.delete(path);
  // A file outside the placed folder has no target, whatever was decided before the folder changed.
  for (const { path } of entries) if (!isUnder(path, strip) && !out.has(path)) out.set(path, 'outside the placed folder');
  return out;
}

/** Every file that goes into the game, with its target, in the pack's order. */
export function placeFiles(entries: readonly PackEntry[], placement: Placement): PlacedFile[] {
  const out = leftOutOf(placement, entries);
  return entries.filter((entry) => !out.has(entry.path)).map((entry) => ({ ...entry, target: targetOf(entry.path, placement) }));
}

/** The target of one file under a placement. The file must lie inside the placed folder. */
export function targetOf(path: PackPath, { strip, base }: Placement): TargetPath {
  const inside = strip === '' ? path : path.slice(strip.length + 1);
  const [root = '', ...rest] = base.split('/');
  return target(root, joinPath(...rest, inside));
}

/** The placement with one file, or all files of one folder of the pack, left out or taken in. */
export function decide(placement: Placement, entries: readonly PackEntry[], pathOrFolder: string, takeIn: boolean): Placement {
  const touched = new Set(entries.filter(({ path }) => isUnder(path, pathOrFolder)).map(({ path }) => path));
  const out = new Set(placement.decisions.out.filter((path) => !touched.has(path)));
  const taken = new Set(placement.decisions.in.filter((path) => !touched.has(path)));
  const byDefault = new Set(placement.leftOut.map(({ path }) => path));
  for (const path of touched) {
    if (takeIn && byDefault.has(path)) taken.add(path);
    if (!takeIn && !byDefault.has(path)) out.add(path);
  }
  return { ...placement, decisions: { out: [...out], in: [...taken] } };
}
