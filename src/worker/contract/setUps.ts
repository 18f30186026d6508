import type { KitFolder, TargetPath } from '@/core';
import type { PlanView } from './deploy';

/** A way to play under a name, in a list. */
export interface SetUpView {
  id: string;
  name: string;
  at: number;
  /** Packs in use. */
  packs: number;
  /** It is how things are decided now. */
  current: boolean;
}

/** A way to play: how things are decided now, a set-up by its id, or as it was after a deployment. */
export type WayRef = 'now' | { setUp: string } | { deployment: number };

/** What two ways to play differ in; of long lists the first. */
export interface WaysCompared {
  /** Packs, their places and their order, merges and choices, in words. */
  says: string[];
  /** `own`: the game has a file of its own there, which counts where no pack does. */
  files: {
    total: number;
    some: { target: TargetPath; a: string | undefined; b: string | undefined; own: boolean }[];
  };
  keys: { total: number; some: { file: TargetPath; path: string; a: string | undefined; b: string | undefined }[] };
}

/** Another set-up lies beside the originals than the one in this browser. */
export interface ElsewhereView {
  /** When it was written. */
  at: number;
  /** Packs in use there. */
  packs: number;
  /** What would change here if it were taken, in words. */
  says: string[];
  /** Folders that it uses and that the app was not given: add them first. */
  missing: string[];
}

/** A pack whose files are not at hand. */
export interface WaitingView {
  layer: string;
  name: string;
  file: string;
  size: number;
  sha256: string;
}

/** A pack of a kit, and what becomes of it here. */
export interface KitPackView {
  name: string;
  file: string;
  size: number;
  sha256: string;
  /** The same pack is here already; its files come with the kit; they are to be brought. */
  state: 'here' | 'inside' | 'missing';
  /** Another release of it, by its name, that is here. */
  other: string | undefined;
}

/** A kit that was read and verified, and what taking it would mean. */
export interface KitView {
  /** Folders that it leads to, with the one here that is taken for each. */
  folders: KitFolder[];
  /** What it tells of the game fits here only where its folders have the same ids. */
  canTell: boolean;
  title: string;
  at: number;
  /** It is of a game of another name. */
  otherGame: boolean;
  packs: KitPackView[];
  setUps: string[];
  /** What would change here, in words. */
  says: string[];
  /** What it counts on and is otherwise here. */
  differs: string[];
}

export interface SetUpCommands {
  /** How the game is played here as one file, with the packs inside or only their hashes. */
  'save kit'(message: { withPacks: boolean }): { name: string; blob: Blob };
  /** Reads and verifies a kit; nothing is changed. */
  'read kit'(message: { name: string; file: Blob }): KitView;
  /**
   * Takes the kit that was read. Nothing is written to the game.
   *
   * @param message.knowledge what it was told of the game, too
   * @param message.folders the folders here, by those of the kit
   */
  'take kit'(message: { knowledge: boolean; folders: Record<string, string> }): void;
  /** Goes on from what lies beside the originals, or writes this browser's over it; the last ten are kept there. */
  'choose set-up'(message: { take: 'disk' | 'browser' }): void;
  /** Does without a pack that waits for its files. */
  'give up waiting'(message: { layer: string }): void;
  /** Keeps a way to play under a name. */
  'keep set-up'(message: { name: string; of: WayRef }): void;
  'rename set-up'(message: { id: string; name: string }): void;
  'remove set-up'(message: { id: string }): void;
  /**
   * Plays this way from now on, once it is deployed.
   *
   * @returns names of packs in use that are not at hand any more
   */
  'take set-up'(message: { id: string }): string[];
}

export interface SetUpQuestions {
  'set-ups'(): SetUpView[];
  /** What deploying a way to play would do to the game now. */
  'plan of way'(message: { of: WayRef }): PlanView;
  'compare ways'(message: { a: WayRef; b: WayRef }): WaysCompared;
}
