import type {
  BaseChoice, Failure, FileKind, Finding, Guide, LedgerEntry, LogEvent, PackNotice, Progress, Recovery, StepAction, TargetPath, TreeRow,
} from '@/core';

/** A pack's luggage tag. */
export interface Tag {
  monogram: string;
  colour: number;
}

export interface PackView {
  layer: string;
  packId: string;
  name: string;
  file: string;
  archiveSize: number;
  tag: Tag;
  on: boolean;
  files: number;
  bytes: number;
  kinds: { kind: FileKind; files: number; bytes: number }[];
  notices: PackNotice[];
  readMe: string | undefined;
  pictures: string[];
  /** Folders to show open at first. */
  firstFolders: string[];
  placement: { strip: string; base: TargetPath; confidence: 'sure' | 'likely' | 'ask' | 'chosen'; reason: string; choices: BaseChoice[]; placed: number; leftOut: number; fresh: number; replacing: number };
  overlaps: { wins: number; loses: number };
  deployed: number;
}

export interface SwitchView {
  id: string;
  title: string;
  file: TargetPath;
  path: string[];
  value: string | undefined;
  wanted: string;
  on: boolean;
  /** An edit that turns it on is in the stack, deployed or waiting. */
  edited: boolean;
  /** The edit waits for the next deployment. */
  pending: boolean;
  neededBy: number;
  why: string;
}

export interface SettingsFileView {
  target: TargetPath;
  title: string;
  /** Keys that the card knows, with their values as they are and as they will be. */
  keys: { path: string[]; meaning: string; value: string | undefined; wanted: string | undefined }[];
  known: number;
  /** All keys in the file. */
  total: number;
}

export interface PlanView {
  counts: Record<StepAction, number>;
  bytes: number;
  total: number;
  unchanged: number;
  drifted: TargetPath[];
  leftAlone: { target: TargetPath; path: string[] }[];
  refused: { target: TargetPath; why: string }[];
}

export interface CheckView {
  canTry: boolean;
  findings: Finding[];
  counted: number;
  loaded: number | undefined;
  /** Is the log from after the latest deployment? */
  fresh: boolean;
  log: { target: string; lines: number; events: LogEvent[]; text: string } | undefined;
}

export interface GameView {
  id: string;
  title: string;
  demo: boolean;
  roots: { id: string; title: string; files: number; where: string }[];
  /** The browser wants the player's permission again. */
  needsPermission: boolean;
  packs: PackView[];
  guide: Guide;
  deployed: { packs: number; files: number; originals: number; edits: number };
  plan: PlanView;
  /** What taking everything out would do. */
  putBack: PlanView;
  switches: SwitchView[];
  settings: SettingsFileView[];
  check: CheckView;
  ledger: LedgerEntry[];
}

export interface Snapshot {
  ready: boolean;
  /** Another tab holds the game; this one can only look. */
  readOnly: boolean;
  games: { id: string; title: string; demo: boolean }[];
  game: GameView | undefined;
  /** Counts up with every change; rows shown from an earlier one are asked for again. */
  revision: number;
  recovery: Recovery | undefined;
  /** Things that could not be remembered, or the reason why the game cannot be opened. */
  trouble: Failure[];
}

/** Work under way. */
export interface Job extends Progress {
  title: string;
  canCancel: boolean;
}

export type RowsQuery =
  | { view: 'pack' | 'place'; layer: string; open: string[]; search: string }
  | { view: 'plan'; action: StepAction | 'all'; search: string }
  | { view: 'ledger'; number: number; search: string };

export interface PlaceRow extends TreeRow {
  /** Where it goes; for folders the place of the folder itself. */
  goesTo: string | undefined;
  leftOut: string | undefined;
  /** Files of a folder that go in. */
  placed: number;
  effect: 'new' | 'replaces' | undefined;
}

export interface StepRow {
  path: string;
  action: StepAction;
  target: string;
  reason: string;
  size: number;
  tag: Tag | undefined;
}

export type Row = PlaceRow | StepRow;

/** Everything the interface can ask of the worker. Failures are thrown as `{ failure }`. */
export interface EngineApi {
  start(onSnapshot: (snapshot: Snapshot) => void, onJob: (job: Job | undefined) => void): Promise<void>;
  openDemo(): Promise<void>;
  resetDemo(): Promise<void>;
  addGame(title: string, handle: FileSystemDirectoryHandle): Promise<void>;
  chooseGame(id: string): Promise<void>;
  removeGame(id: string): Promise<void>;
  handles(): Promise<FileSystemDirectoryHandle[]>;
  /** Looks at the folders again. */
  refresh(): Promise<void>;
  cancel(): Promise<void>;
  /** @returns the layer made of it, and whether it was here already */
  bringIn(file: Blob, name: string): Promise<{ layer: string; known: boolean }>;
  /** Takes a download from the stand-in shelf. */
  fetchFromShelf(file: string): Promise<{ layer: string; known: boolean }>;
  setBase(layer: string, strip: string, base: string): Promise<void>;
  decide(layer: string, path: string, takeIn: boolean): Promise<void>;
  setOn(layer: string, on: boolean): Promise<void>;
  move(layer: string, by: 1 | -1): Promise<void>;
  takeOut(layer: string): Promise<void>;
  setEdit(file: string, path: string[], value: string | undefined): Promise<void>;
  dropEdit(file: string, path: string[]): Promise<void>;
  deploy(): Promise<LedgerEntry>;
  putBack(): Promise<LedgerEntry>;
  trialRun(): Promise<void>;
  rows(query: RowsQuery, offset: number, limit: number): Promise<{ total: number; rows: Row[] }>;
  gameFolders(): Promise<string[]>;
  packFolders(layer: string): Promise<string[]>;
  readText(layer: string, path: string): Promise<string>;
  /** A small picture of a picture in a pack; undefined where it cannot be drawn. */
  thumbnail(layer: string, path: string): Promise<Blob | undefined>;
  exportFolders(): Promise<Blob>;
}
