import type { PresentRow as CorePresentRow, Presence, StepAction } from '@/core';
import type { FileStory } from './stack';
import type { Tag } from './tag';

/** A file or folder of the game as it lies there. */
export interface PresentRow extends CorePresentRow {
  /** The name of what put it there. */
  by: string | undefined;
  tag: Tag | undefined;
}

/** The game's folders as they are, counted. */
export interface PresentView {
  counts: Record<Presence, number>;
  /** Folders that are shown open at first. */
  first: Record<'all' | 'touched', string[]>;
}

/** One file of the game's folders, and all that is known of it. */
export interface FileNow {
  presence: Presence;
  by: string | undefined;
  story: FileStory;
  /** Deployments that had to do with it, the latest first. */
  history: { number: number; at: number; title: string; action: StepAction; by: string | undefined }[];
}

export interface InGameQuestions {
  'present files'(): PresentView;
  'file now'(message: { target: string }): FileNow;
}
