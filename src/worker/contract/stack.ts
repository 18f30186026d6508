import type {
  Decision,
  DiffLine,
  FileKind,
  MergeConflict,
  ModelInfo,
  Pick,
  Standing,
  TargetPath,
  Warning,
} from '@/core';
import type { Tag } from './tag';

/** A file that is put together out of what several packs make of it. */
export interface MergeView {
  id: string;
  target: TargetPath;
  name: string;
  sources: { layer: string; name: string }[];
  /** Why it cannot be computed, where it cannot. */
  why: string | undefined;
  way: 'keys' | 'lines' | undefined;
  conflicts: MergeConflict[];
  /** Conflicts in all; the first ones are listed. */
  total: number;
  open: number;
  /** Decisions that no longer fit, since what they were about has changed. */
  stale: Decision[];
  notices: string[];
}

/** Where a content of a target comes from: a layer's id, the game as it was, or the folder as it is. */
export type ContentFrom = string;

export interface StoryVersion {
  from: ContentFrom;
  name: string;
  tag: Tag | undefined;
  standing: Standing | undefined;
  /** In the pack. */
  path: string;
  size: number;
  /** When the pack was brought in, or the file last changed. */
  date: number | undefined;
  sha256: string | undefined;
  picture: { width: number; height: number; format: string } | undefined;
  /** What a model says about itself. */
  model: ModelInfo | undefined;
  text: boolean;
}

/** Everything about one target. */
export interface FileStory {
  target: TargetPath;
  kind: FileKind;
  /** The topmost layer first. */
  versions: StoryVersion[];
  original: StoryVersion | undefined;
  winner: string | undefined;
  /** What is in the folder now, and which layer put it there. */
  now: { size: number; date: number; by: string | undefined } | undefined;
  picks: Pick[];
  merge: string | undefined;
  isText: boolean;
}

/** What merging packs would give. */
export interface MergePreview {
  name: string;
  files: number;
  duplicates: { path: string; identical: boolean; from: string[] }[];
  warnings: Warning[];
  /** All of them have folders of their own, which could be one. */
  canShareFolder: boolean;
}

/** One file of a pack and how it stands to others. */
export interface RelationRow {
  path: string;
  target: string;
  says: string;
  tag: Tag | undefined;
}

export interface StackCommands {
  'switch packs'(message: { layers: string[]; on: boolean }): void;
  'take out'(message: { layers: string[] }): void;
  /** Together to a place counted from the bottom among the others; they keep their order. */
  'move packs'(message: { layers: string[]; place: number }): void;
  /** Puts packs under a heading of the player's own; without one they stand under none. */
  'head packs'(message: { layers: string[]; heading: string }): void;
  'add rule'(message: { lower: string; upper: string }): void;
  'drop rule'(message: { lower: string; upper: string }): void;
  /** Lets a layer win one file, folder or kind; without one the order decides again. */
  pick(message: { scope: Pick['scope']; at: string; layer: string | undefined }): void;
  'leave out'(message: { layer: string; target: string }): void;
  'drop own file'(message: { target: string }): void;
  /** @returns the id of the merge */
  'merge file'(message: { target: string }): string;
  'decide conflict'(message: { merge: string; at: string; was: string; take: Decision['take'] | undefined }): void;
  'decide rest'(message: { merge: string; take: 'lower' | 'upper' }): void;
  'forget stale'(message: { merge: string }): void;
  'drop merge'(message: { merge: string }): void;
  /** @returns the layer that was made */
  'merge packs'(message: { layers: string[]; container?: string }): string;
  'take apart'(message: { layer: string }): void;
}

/** One line of a merged file: the packs that it comes from, none where it is the game's own or the player's. */
export interface MergedLine {
  text: string;
  whose: 'game' | 'packs' | 'player';
  from: string[];
}

export interface StackQuestions {
  /** Who brings a file, who wins, and what was there before. */
  'story of file'(message: { target: string }): FileStory;
  picture(message: { target: string; from: ContentFrom }): Blob | undefined;
  /** For being played; undefined where it is no sound, or is not there. */
  sound(message: { target: string; from: ContentFrom }): Blob | undefined;
  'compare texts'(message: { target: string; a: ContentFrom; b: ContentFrom }): DiffLine[];
  /** A merged file as a whole, line by line; the first lines where it is very long. */
  'merged lines'(message: { merge: string }): { lines: MergedLine[]; total: number };
  'preview merge'(message: { layers: string[]; container?: string }): MergePreview;
  /** A pack as a ZIP. */
  'pack as zip'(message: { layer: string }): { name: string; blob: Blob };
  /** Folders of the overlap picture that are open at first, and the layers that take part in an overlap at all. */
  'first overlaps'(): { folders: string[]; layers: string[] };
}
