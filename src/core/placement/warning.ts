import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import type { StatedFact } from '../inspect/stated';
import { withoutArchiveEnding } from '../media/archiveEndings';
import type { ImageInfo } from '../media/inspectImage';
import { nameKey } from '../paths/paths';
import type { Placement } from '../placed/placement';

/** What was found out about a pack's place, by kind. */
type Known =
  /** An id of a title that the player does not have, or that nobody knows. */
  | { code: 'wrong-region'; id: string; title: string; region: string }
  | { code: 'unknown-id'; id: string }
  /** Textures beyond what the installed edition reads, in pixels a side. */
  | { code: 'texture-too-large'; edition: string; most: number; limit: number }
  | { code: 'texture-format'; edition: string; formats: string[]; reads: readonly string[] }
  /** A patch and its base: two resolutions, or two versions. */
  | { code: 'patch-mismatch'; of: 'resolution' | 'version'; wanted: string; base: string; has: string }
  | { code: 'needs-pack'; needed: string }
  | { code: 'needs-patch'; needed: string }
  /** A set of the game's contents that is not installed. */
  | { code: 'needs-contents'; set: string }
  /** Of the programs in it, so many go into the game. */
  | { code: 'program-inside'; running: number }
  | { code: 'hidden-extension'; name: string }
  | { code: 'case-differs' }
  | { code: 'one-file-twice' }
  /** Another pack has the same id. */
  | { code: 'id-taken'; id: string; other: string }
  | { code: 'other-edition'; stated: string[]; edition: string };

/** Something to know before anything is written: what it is, without words for it (see `warningWords`). */
export type WarningFact = Known & {
  level: 'wrong' | 'note';
  /** The files it is about, some of them where they are many. */
  paths: string[];
  files: number;
};

/** The same with its sentences. */
export interface Warning extends Pick<WarningFact, 'code' | 'level' | 'paths' | 'files'> {
  says: string;
  /** What to do, in one sentence. */
  next: string;
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

export const few = (files: readonly { path: string }[]): Pick<WarningFact, 'paths' | 'files'> => ({
  paths: files.slice(0, 5).map(({ path }) => path),
  files: files.length,
});

/** About one place in the pack alone. */
export const one = (path: string): Pick<WarningFact, 'paths' | 'files'> => ({ paths: [path], files: 1 });

export const words = (text: string): string =>
  withoutArchiveEnding(nameKey(text))
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
