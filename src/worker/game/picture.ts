import type {
  ComputedMerge,
  DeployedState,
  GameIndex,
  Layer,
  LedgerEntry,
  Plan,
  Resolution,
  SettingsDocument,
  SettingsFile,
  SwitchState,
  Tally,
  TargetPath,
  WinnerChange,
  MergeLayer,
} from '@/core';
import type { ReadLog } from './seen';

/** A settings file as a layer brings it. */
export interface Coming {
  document: SettingsDocument;
  layer: string;
}

/** Everything known about the game at one moment. Made anew after each change, out of what is kept and mended. */
export interface Picture {
  layers: Layer[];
  resolution: Resolution;
  state: DeployedState;
  plan: Plan;
  putBack: Plan;
  ledger: LedgerEntry[];
  switches: SwitchState[];
  settings: Map<string, SettingsDocument>;
  /** Settings files that a layer puts in the place of those that are there, by target. */
  coming: ReadonlyMap<string, Coming>;
  /** The card's settings files, one for each profile where there are several. */
  settingsFiles: SettingsFile[];
  /** Settings files with edits that the game has only put into another order since. */
  sorted: TargetPath[];
  /** Settings files that the disk says are read-only. */
  readOnly: ReadonlySet<string>;
  log: ReadLog | undefined;
  overlaps: ReadonlyMap<string, Tally>;
  /** Deployments whose state can be gone back to. */
  snapshots: number[];
  /** Targets that another layer wins than before the latest change; empty after the first look. */
  changed: WinnerChange[];
  merges: ComputedMerge<MergeLayer>[];
  /** Everything in the game's folders. */
  index: GameIndex;
  /** Every file of the game as it was without packs, as targets; the same list while none of them comes or goes. */
  ownFiles: readonly TargetPath[];
  /** Keys of the same. */
  ownKeys: { has(key: string): boolean };
}
