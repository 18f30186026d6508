import { nameKey, type TargetPath } from '../paths/paths';
import type { Edit } from '../settings/edits';

/**
 * A change to the layers that a finding proposes: shown in the plan before anything is written, and undone like
 * everything else.
 */
export type Cure =
  | { kind: 'edit'; file: TargetPath; edit: Edit }
  /** One more item of a list in a settings file. */
  | { kind: 'list'; file: TargetPath; path: string[]; item: string }
  /** Files of packs go to other targets: renamed, or put a level up or down. */
  | { kind: 'move'; moves: { from: TargetPath; to: TargetPath }[] }
  /** Files of packs stay out, so that what lies below shows. */
  | { kind: 'leave out'; targets: TargetPath[] }
  /** Copies of the game's own files in the place of those that are missing. */
  | { kind: 'stand-in'; copies: { copy: TargetPath; to: TargetPath }[] }
  /** A small text file that is missing, a manifest for instance. */
  | { kind: 'add file'; to: TargetPath; text: string }
  /** What lies in an archive of the game, put beside it as files of the player's own. */
  | { kind: 'unpack'; archive: TargetPath; to: TargetPath }
  /** The pack's text file with what it lacks of the game's own, as a file of the player's own. */
  | { kind: 'fill'; target: TargetPath }
  | { kind: 'take in'; files: { layer: string; path: string }[] }
  | { kind: 'take out'; layer: string }
  | { kind: 'deploy' }
  /** Something only the player can decide, on that step. */
  | { kind: 'go'; step: 'place' | 'stack' | 'settings' };

/** The same with what stands on its button. */
export type Fix = { label: string } & Cure;

/** Something wrong or notable. */
export interface Finding {
  id: string;
  level: 'wrong' | 'good' | 'note';
  /** Of what is wrong: it stops the game, or the game says it and goes on. */
  weight?: 'stops' | 'light' | undefined;
  title: string;
  /** What was seen, where. */
  evidence: string;
  cause: string;
  /** The best one first. */
  fixes: Fix[];
  /** The file or key that is the cause, where there is one. */
  about?: string;
  /** The layer it comes from. */
  layer?: string;
  /** What it has in common with others of the same cause: together they are one, under this title ({n}: how many). */
  shared?: { key: string; title: string; cause?: string } | undefined;
  /** Those that are folded into it. */
  seen?: { id: string; title: string; evidence: string }[];
}

/** A file that will be in the game, and the layer that brings it; undefined for the game's own. */
export interface PresentFile {
  target: TargetPath;
  /** The key of its target, where it is known already. */
  key?: string;
  layer?: string | undefined;
}

/** The key of a file's target. */
export const keyOf = ({ key, target }: PresentFile): string => key ?? nameKey(target);

/** Moves in one fix; more are not shown and not made. */
export const MOST_MOVES = 2000;
