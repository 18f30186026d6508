import type { Drift, LedgerEntry, StepAction, StepSum, TargetPath } from '@/core';
import type { Tag } from './tag';

export interface PlanView {
  counts: Record<StepAction, number>;
  bytes: number;
  total: number;
  unchanged: number;
  /** Deployed files that somebody else changed: how many, and the first of them. */
  drifted: { total: number; some: (Drift & { name: string })[]; effects: string[] };
  leftAlone: { target: TargetPath; path: string[] }[];
  refused: { target: TargetPath; why: string }[];
}

export interface StepRow {
  path: string;
  action: StepAction;
  target: string;
  reason: string;
  size: number;
  tag: Tag | undefined;
}

export interface DeployCommands {
  deploy(): LedgerEntry;
  'put all back'(): LedgerEntry;
  /** Deployed files that somebody changed: those versions are the player's own from now on. */
  'take as mine'(message: { targets: string[] }): void;
  /** Deployed files that somebody changed: the game's own are these from now on. */
  'take as original'(message: { targets: string[] }): void;
  /** The plan as a ZIP to unpack over the game's folders, and the one that takes it back. */
  'pack by hand'(): { name: string; blob: Blob }[];
  'pack folders'(): Blob;
}

/** What becomes of the files of one layer, summed up. */
export interface StepGroupView {
  layer: string;
  name: string;
  tag: Tag | undefined;
  files: number;
  /** The lines with the most files; `more` are not listed. */
  sums: StepSum[];
  more: number;
}

export interface DeployQuestions {
  /** The steps of a deployment that was, by its number, or of the plan. */
  'step groups'(message: { number: number | undefined }): StepGroupView[];
  'plan as text'(message: { form: 'csv' | 'json' }): string;
}
