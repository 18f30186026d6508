import type { Finding, Fix, HalvingStep, LogMessage, MessageChange, Run, TargetPath } from '@/core';

/** What the check page shows and asks for. */

/** A log as it is shown. */
export interface LogView {
  target: string;
  lines: number;
  /** So many of them are of earlier starts. */
  before: number;
  /** Its lines were read by the form that they have. */
  byForm: boolean;
  text: string;
  messages: LogMessage[];
  unknown: number;
  unknownLines: { line: number; text: string }[];
}

/** The culprit is being looked for by halves, or one pack is tried alone. */
export interface ApartView {
  why: 'halving' | 'alone';
  step: HalvingStep | undefined;
  starts: number;
  /** Packs that are in now. */
  on: { layer: string; name: string }[];
  culprits: { layer: string; name: string }[];
  /** Those that are in are not all deployed yet. */
  pending: boolean;
}

export interface CheckView {
  canTry: boolean;
  findings: Finding[];
  /** Findings that were set aside and would be shown otherwise. */
  aside: { id: string; says: string; note: string }[];
  counted: number;
  loaded: number | undefined;
  /** Is the log from after the latest deployment? */
  fresh: boolean;
  /** The last start left no log. */
  silent: boolean;
  log: LogView | undefined;
  runs: Run[];
  changes: MessageChange[];
  /** Pictures of the game that packs have replaced, the largest first, some of them where they are many. */
  pictures: { target: TargetPath; by: string }[];
  apart: ApartView | undefined;
}

/** A log that the player gave to the app. */
export interface GivenLog {
  name: string;
  /** Whose rules were used; empty where it was read by the form that its lines have. */
  rulesOf: string;
  log: LogView;
  findings: Finding[];
}

/** What is done to find out why something fails. */
export type CheckCommand =
  | { do: 'fix'; fix: Fix }
  | { do: 'set aside'; id: string; says: string; note: string }
  | { do: 'take up'; id: string }
  | { do: 'halve' }
  | { do: 'alone'; layer: string }
  | { do: 'answer'; failed: boolean }
  | { do: 'end apart'; without: string[] };
