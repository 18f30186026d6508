import type { PlaceMap, TreeRow } from '@/core';

export interface PlaceRow extends TreeRow {
  /** For pictures: "512 × 512, BC1, 10 levels". */
  picture: string | undefined;
  /** Where it goes; for folders the place of the folder itself. */
  goesTo: string | undefined;
  leftOut: string | undefined;
  /** Files of a folder that go in. */
  placed: number;
  effect: 'new' | 'replaces' | 'inside' | 'edits' | undefined;
}

export interface PlaceCommands {
  'answer question'(message: { layer: string; question: string; answer: string[] }): void;
  /** Puts a folder or file of the pack under a folder of the game; without `to` it goes back. */
  'move in pack'(message: { layer: string; from: string; to: string | undefined }): void;
  /** Forgets what was decided about the place and proposes anew. */
  'propose again'(message: { layer: string }): void;
  /** Places the pack as a whole: what lies under `strip` goes to `base`. */
  'place at'(message: { layer: string; strip: string; base: string }): void;
  /** Takes one file of the pack in, or leaves it out. */
  'take file'(message: { layer: string; path: string; takeIn: boolean }): void;
}

export interface PlaceQuestions {
  /** Folders of a pack to open at first: where something of the game is replaced or edited, or files are left out. */
  'first placed'(message: { layer: string }): string[];
  'place map'(message: { layer: string }): PlaceMap;
  'folders of game'(): string[];
  'folders of pack'(message: { layer: string }): string[];
}
