import type { FileStat } from '../folder';
import type { Resolution } from '../layers/layers';
import { type TargetPath } from '../paths/paths';
import type { WorkOptions } from '../progress';
import type { Dialect } from '../settings/dialects';
import type { DeployedFile, DeployedState, Plan, Workshop } from './model';

export interface PlanInput extends WorkOptions {
  resolution: Resolution;
  /** What the app itself put there, from the vault. */
  state: DeployedState;
  workshop: Workshop;
  /** The form of a living file. */
  dialectOf(target: TargetPath): Dialect | undefined;
  /** A layer's name, for reasons. */
  nameOf(layer: string): string;
  /** The game's files, where they were listed a moment ago. */
  listing?: Listing;
  /**
   * Checksums of files of the game, found out by earlier plans: a file with the same size and date is not read again.
   */
  checksums?: Map<string, number>;
}

/** The folders as they are. Knows how they spell their names, so that new files join folders that are there. */
export interface Actual {
  files: Map<string, FileStat & { target: TargetPath }>;
  /** Keys of deployed files that somebody else changed since. */
  drifted: Set<string>;
  /** Links by key, as they are spelled. */
  links: ReadonlyMap<string, TargetPath>;
  spell(wanted: TargetPath): TargetPath;
}

/** The game's folders as they are. */
export interface Listing {
  /** Every file, by root. */
  files: Readonly<Record<string, readonly FileStat[]>>;
  /** Links to folders, and those that lead nowhere or out. */
  links: readonly TargetPath[];
}

/** A content that lies in no pack: written where the file does not hold it yet. */
export interface Made {
  bytes: Uint8Array<ArrayBuffer>;
  layer: string;
  reason: string;
  /** What it was made of, where making it costs much. */
  recipe?: string;
}

/** A plan that is being made: what goes in, what is there, and what has come out so far. */
export interface Planning {
  input: PlanInput;
  actual: Actual;
  plan: Plan;
}

/** One target that is planned: its key, what is deployed there, and how it is to be spelled. */
export interface Spot {
  key: string;
  record: DeployedFile | undefined;
  wanted: TargetPath;
}
