import type { Statement } from '../games/statement';
import type { Step } from '../inspect/step';
import type { GameTree } from '../names/gameTree';
import type { Knowledge } from '../names/knowledge';
import type { Evidence } from './evidence';
import type { MissedFile } from './missedFile';
import type { PlacementMode } from './modes';

/** What a competition is held with. */
export interface Arena {
  tree: GameTree;
  /** What the game's folders teach, without what the player refused. */
  knowledge: Knowledge;
  steps: readonly Step[];
  inside: ReadonlyMap<string, readonly string[]>;
  roots: readonly { id: string; title: string }[];
  title: string;
  /** Learnt places are among them. */
  statements: readonly Statement[];
  /** Parts whose place the player or the card has said. */
  forced: readonly { node: string; to: string; mode: PlacementMode; inside?: string; evidence: Evidence[] }[];
  /** Files that the game's log misses. */
  missed: readonly MissedFile[];
  /** Folders of the pack whose names only say what is chosen. */
  wrappers: readonly string[];
  /** Keys of the game's settings files: a read-me speaks of those for their values. */
  settings: ReadonlySet<string>;
  /** The read-me. */
  said: string;
  /** The download's name as a folder would be called. */
  packFolder: string;
}
