import type { GameTree } from '../names/gameTree';
import type { Family } from '../names/families';
import type { Knowledge } from '../names/knowledge';
import type { GameNote } from './gameNotes';
import type { IdName } from './idNames';
import type { LogForm } from './logForm';
import type { FoundSettings } from './settingsStudy';

/** What a study works on: names and sizes of all folders, and the texts that were read. */
export interface Studied {
  tree: GameTree;
  knowledge: Knowledge;
  roots: { id: string; title: string }[];
  sizes: { target: string; size: number }[];
  /** What ids are called, by key. */
  idNames: ReadonlyMap<string, IdName>;
  /** What the game's own notes say of the folders they lie in. */
  notes: readonly GameNote[];
  settings: FoundSettings[];
  profiles: { folder: string; names: string[]; family: Family } | undefined;
  logs: string[];
  programs: string[];
  /** A file beside the program that keeps the player's files in the game's own folder. */
  portable: string | undefined;
  textures: { largest: string; bytes: number; files: number } | undefined;
  inside: ReadonlyMap<string, readonly string[]>;
  logForm: LogForm | undefined;
  /** Names of files of which read-mes speak: the pack and the line. */
  spoken: ReadonlyMap<string, { pack: string; line: number; text: string }>;
}
