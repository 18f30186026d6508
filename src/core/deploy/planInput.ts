import type { Resolution } from '../layers/layers';
import { type TargetPath } from '../paths/paths';
import type { WorkOptions } from '../progress';
import type { Dialect } from '../settings/dialects';
import type { GameIndex, IndexedFile } from './gameIndex';
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
  /** The game's files, where they were looked at a moment ago. */
  index?: GameIndex;
  /**
   * Checksums of files of the game, found out by earlier plans: a file with the same size and date is not read again.
   */
  checksums?: Map<string, number>;
}

/** The folders as they are. Knows how they spell their names, so that new files join folders that are there. */
export interface Actual {
  files: { get(key: string): IndexedFile | undefined };
  /** Keys of deployed files that somebody else changed since. */
  drifted: Set<string>;
  /** Links by key, as they are spelled. */
  links: ReadonlyMap<string, TargetPath>;
  spell(wanted: TargetPath): TargetPath;
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
