import type { Finding, Fix, HalvingStep, LogMessage, LogRule, MessageChange, Run, TargetPath } from '@/core';

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
  /** Pictures and sounds of the game that packs have replaced, the largest first, some of them where they are many. */
  replaced: { target: TargetPath; by: string; what: 'picture' | 'sound' }[];
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

export interface CheckCommands {
  'trial run'(): void;
  /** Changes the layers as a finding proposes. */
  fix(message: { fix: Fix }): void;
  'set aside'(message: { id: string; says: string; note: string }): void;
  'take up'(message: { id: string }): void;
  /** Looks for the culprit by halves. */
  halve(): void;
  /** One pack and what it needs, without all others. */
  'try alone'(message: { layer: string }): void;
  'answer halving'(message: { failed: boolean }): void;
  'end apart'(message: { without: string[] }): void;
  /** Takes a rule for lines of the log into the game's card, before the others. */
  'add log rule'(message: { rule: LogRule }): void;
  /** Reads a log that the player dropped or pasted. */
  'read given log'(message: { name: string; log: Blob | string }): GivenLog;
}

export interface CheckQuestions {
  /** How many lines of the game's log a rule would know. */
  'test rule'(message: { pattern: string }): number;
  /** The report as Markdown. */
  report(): string;
}
