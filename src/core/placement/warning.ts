import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import type { StatedFact } from '../inspect/stated';
import { withoutArchiveEnding } from '../media/archiveEndings';
import type { ImageInfo } from '../media/inspectImage';
import { nameKey } from '../paths/paths';
import type { Placement } from '../placed/placement';

/** Something to know before anything is written. */
export interface Warning {
  code:
    | 'wrong-region'
    | 'unknown-id'
    | 'texture-too-large'
    | 'texture-format'
    | 'patch-mismatch'
    | 'needs-pack'
    | 'needs-patch'
    | 'needs-contents'
    | 'program-inside'
    | 'hidden-extension'
    | 'case-differs'
    | 'one-file-twice'
    | 'id-taken'
    | 'other-edition';
  level: 'wrong' | 'note';
  says: string;
  /** What to do, in one sentence. */
  next: string;
  /** The files it is about, some of them where they are many. */
  paths: string[];
  files: number;
}

export interface WarningInput {
  card: GameCard;
  entries: readonly PackEntry[];
  placement: Placement;
  /** Every file of the game as a target, without what packs brought. */
  gameFiles: readonly string[];
  /** What is known of the pack's pictures, by path. */
  images: ReadonlyMap<string, ImageInfo>;
  facts: readonly StatedFact[];
  /** The other packs in the stack, with what they state. */
  others: readonly { name: string; facts: readonly StatedFact[] }[];
}

export const few = (files: readonly { path: string }[]): Pick<Warning, 'paths' | 'files'> => ({
  paths: files.slice(0, 5).map(({ path }) => path),
  files: files.length,
});

export const words = (text: string): string =>
  withoutArchiveEnding(nameKey(text))
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
