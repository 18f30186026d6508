import type { AboutKey, Dialect, DiffLine, EditFate, KeyRule, MasterSwitch, SnippetPlace, TargetPath } from '@/core';
import type { Tag } from './tag';

/** What the settings page shows and asks for. */

export interface SwitchView {
  id: string;
  title: string;
  file: TargetPath;
  path: string[];
  value: string | undefined;
  wanted: string;
  on: boolean;
  /** The switch without which this one does nothing. */
  after: string | undefined;
  /** An edit that turns it on is in the stack, deployed or waiting. */
  edited: boolean;
  /** The player's own edit is among those. */
  mine: boolean;
  /** The edit waits for the next deployment. */
  pending: boolean;
  neededBy: number;
  /** Layers of the packs that need it. */
  packs: string[];
  why: string;
}

export interface SettingsFileView {
  target: TargetPath;
  title: string;
  /** Is the file there? */
  there: boolean;
  /** Values that layers want in it. */
  edits: number;
  known: number;
  /** All keys in the file. */
  total: number;
  dialect: Dialect;
  readOnly: boolean;
  /** The layer whose own file takes its place at the next deployment. */
  coming: string | undefined;
  /** The file that it stands over, and those that stand over it. */
  over: string | undefined;
  narrower: { target: TargetPath; title: string }[];
  numbered: NumberedView | undefined;
  search: SearchView | undefined;
  /** One that the player made; switched off, its lines are not deployed. */
  own: { on: boolean } | undefined;
}

/** The numbered sections of a file as they will be. */
export interface NumberedView {
  section: string;
  next: number;
  gaps: boolean;
  /** The key that names a folder, the folders there are, and those that no section names. */
  folderKey: string | undefined;
  inside: string | undefined;
  free: string[];
  sections: {
    number: number;
    section: string;
    keys: { key: string; value: string }[];
    /** What is wrong with the folder it names. */ trouble: string | undefined;
  }[];
}

/** A search order as it will be. */
export interface SearchView {
  each: string | undefined;
  entries: { folder: string; each: boolean; containers: { folder: string; files: number }[] }[];
}

/** The launch line as it will be. */
export interface LaunchView {
  line: string;
  /** It is kept in a file; else the player copies it. */
  file: TargetPath | undefined;
  pending: boolean;
  options: { name: string; values: string[]; meaning: string | undefined; trouble: string | undefined }[];
  known: { option: string; meaning: string; takes: boolean }[];
}

/** A folder of packs that a list in a settings file has to name. */
export interface ListNeed {
  file: TargetPath;
  path: string[];
  item: string;
  pack: string;
  tag: Tag | undefined;
}

/** A launch option, or a section with the next number, that a pack's read-me names. */
export type PackAsk = { layer: string; pack: string; line: number } & (
  | { kind: 'option'; option: string; value: string }
  | { kind: 'number'; file: TargetPath; section: string; keys: { key: string; value: string }[] }
);

/** What textures take once loaded, by pack, against what the machine has. */
export interface MemoryView {
  packs: { layer: string; name: string; tag: Tag; bytes: number; files: number }[];
  total: number;
  machine: number | undefined;
  advice: {
    file: TargetPath;
    path: string[];
    now: string | undefined;
    advice: 'on' | 'off';
    why: string;
    meaning: string;
  }[];
}

/** What the settings page shows beyond files and keys. */
export interface BeyondKeys {
  launch: LaunchView | undefined;
  needs: ListNeed[];
  /** What read-mes ask for beyond single keys. */
  asks: PackAsk[];
  /** Deployed edits that stand no more. */
  lost: (EditFate & { by: string; times: number })[];
  stayed: number;
  /** Files that the game has only put into another order. */
  sorted: TargetPath[];
  sets: {
    id: string;
    name: string;
    at: number;
    edits: number;
    /** Already what the player has. */ current: boolean;
    differences: string[];
  }[];
  ownFiles: { ending: string; why: string } | undefined;
  memory: MemoryView;
}

/** A settings file as text, to be edited. */
export interface SettingsText {
  text: string;
  /** Too long to be edited as text. */
  tooLong: boolean;
  /** What the card knows, by path joined with line breaks in small letters. */
  known: [string, KeyRule][];
}

/** One key of a settings file. */
export interface SettingRow {
  /** The settings file that it stands in. */
  file: TargetPath;
  title: string;
  path: string;
  keys: string[];
  /** In the file now; undefined where the key is not there. */
  value: string | undefined;
  /** After the next deployment, where that is something else. */
  wanted: string | undefined;
  /** Who wants it, where somebody does. */
  by: string | undefined;
  /** The player's own edit is among those. */
  mine: boolean;
  /** Others that want another value. */
  against: string[];
  /** What it does, by the card, else by the comment in its file. */
  meaning: string | undefined;
  rule: KeyRule | undefined;
  /** What the game uses without the key. */
  standard: string | undefined;
  /** Another file's value counts: one that stands over this one, or, where the key is not here, the one below. */
  elsewhere: { title: string; value: string; counts: boolean }[];
  /** What stands between the items, where the value is a list, and the folders that can be named. */
  list: { separator: string; folders: string[] } | undefined;
  /** Values that were tried, the latest first. */
  tried: { value: string; note: string; at: number }[];
}

/** A setting that a pack's read-me names. */
export interface ProposalView {
  file: TargetPath;
  path: string[];
  value: string;
  /** What the file holds now, or as a pack brings it. */
  now: string | undefined;
  /** The line of the read-me, and what it says. */
  line: number;
  text: string;
  /** It turns something on or off that is otherwise now. */
  flag: boolean;
  /** It is so, or will be after the next deployment; only what stands before it is not. */
  set: boolean;
  /** A switch beside it that is off, without which it may do nothing. */
  after?: MasterSwitch;
  layer: string;
  pack: string;
}

export interface SettingsCommands {
  /** Without a value the key is to go. */
  'set edits'(message: { file: string; edits: { path: string[]; value?: string | undefined }[] }): void;
  'drop edit'(message: { file: string; path: string[] }): void;
  'list item'(message: { file: string; path: string[]; item: string; on: boolean }): void;
  'number add'(message: { file: string; keys: { key: string; value: string }[] }): void;
  'number remove'(message: { file: string; section: string }): void;
  renumber(message: { file: string }): void;
  'search move'(message: { file: string; from: number; to: number }): void;
  'search add'(message: { file: string; folder: string; each: boolean }): void;
  'launch line'(message: { line: string }): void;
  'take text'(message: { file: string; text: string }): void;
  'new file'(message: { name: string }): void;
  'switch file'(message: { file: string; on: boolean }): void;
  'drop file'(message: { file: string }): void;
  'save set'(message: { name: string }): void;
  'use set'(message: { id: string }): void;
  'forget set'(message: { id: string }): void;
  'note value'(message: { file: string; path: string[]; value: string; note: string }): void;
  /** How much memory the machine has for textures, in bytes. */
  'machine memory'(message: { memory: number | undefined }): void;
  /** A switch of the card and those that it waits for. */
  'turn on'(message: { switch: string }): void;
}

export interface SettingsQuestions {
  /** What is said of a key beyond the game's card. */
  'about key'(message: { file: string; path: string[] }): AboutKey;
  /** One key by its path as it is shown. */
  'setting row'(message: { file: string; path: string }): SettingRow | undefined;
  /** A settings file as it will be after the next deployment. */
  'settings text'(message: { file: string }): SettingsText;
  /** What a changed text comes to, before it is taken. */
  'preview text'(message: { file: string; text: string }): { edits: number; lines: DiffLine[]; other: boolean };
  /** Every container that has a file, the one that wins first. */
  'find in search'(message: { file: string; name: string }): { folder: string; file: string }[];
  /** Where lines that were copied from somewhere belong, the likeliest file first. */
  'read snippet'(message: { text: string }): SnippetPlace[];
  /** Files of the game that could be settings or logs, as targets. */
  'files of game'(): string[];
}
