import type { ArchivePart } from '@/core';
import type {
  BaseChoice,
  ChecklistItem,
  Failure,
  FileKind,
  MadeFile,
  PackFormat,
  PackNotice,
  PlacedPart,
  Question,
  StatedFact,
  TargetPath,
  Warning,
} from '@/core';
import type { Tag } from './tag';

/** What is noted of a pack: where it came from, its version, what is to be remembered. */
interface PackNotes {
  origin?: string | undefined;
  version?: string | undefined;
  remember?: string | undefined;
  /** The player's own heading that it stands under in the stack. */
  heading?: string | undefined;
}

export interface PackView {
  layer: string;
  packId: string;
  name: string;
  file: string;
  archiveSize: number;
  tag: Tag;
  on: boolean;
  files: number;
  bytes: number;
  kinds: { kind: FileKind; files: number; bytes: number }[];
  notices: PackNotice[];
  readMe: string | undefined;
  pictures: string[];
  /** Folders to show open at first. */
  firstFolders: string[];
  format: PackFormat;
  facts: StatedFact[];
  /** Its read-me, and the page that it came from, as a list of steps. */
  steps: ChecklistItem[];
  page: string | undefined;
  notes: PackNotes;
  /** Pictures whose headers could be read, and the memory they take once loaded. */
  textures: { files: number; bytesInMemory: number; largest: number; formats: { format: string; files: number }[] };
  placement: {
    confidence: 'sure' | 'likely' | 'ask' | 'chosen';
    parts: PlacedPart[];
    questions: Question[];
    choices: BaseChoice[];
    warnings: Warning[];
    made: MadeFile[];
    placed: number;
    leftOut: number;
    fresh: number;
    replacing: number;
    /** Of those that replace: the same bytes as the game's own. */
    identical: number;
    /** Values that it brings to settings files. */
    edits: number;
    /** Folders put elsewhere by hand. */
    moves: { from: string; to: TargetPath }[];
    /** The folder of its own that it could share with others, where it has one. */
    ownFolder: TargetPath | undefined;
  };
  overlaps: { wins: number; loses: number };
  deployed: number;
  /** Names of the packs that it was merged out of. */
  mergedFrom: string[];
}

/** A pack that came in. */
export interface Brought {
  layer: string;
  /** It was here already. */
  known: boolean;
  /** Another release of it that is in the stack. */
  earlier?: { layer: string; name: string; newer: boolean; versions: string };
}

/** What came of downloads that were brought in together. */
export interface Intake {
  brought: Brought[];
  /** Downloads that did not come in, and why. */
  refused: { name: string; failure: Failure }[];
}

/** The downloads folder, sorted into what can be taken, the newest first. */
export interface DownloadsView {
  path: string;
  /** The folder is not there now. */
  gone?: true;
  downloads: {
    name: string;
    /** Its files: several where it came in parts. */
    parts: string[];
    size: number;
    modified: number;
    /** It is not all there yet: still being written, or a part is missing. */
    waits: { why: 'coming' } | { why: 'part'; name: string } | undefined;
    /** The pack that was taken from it. */
    taken: string | undefined;
  }[];
}

export interface BringInCommands {
  /** Files, volumes and folders that came together; a folder's files have paths. */
  'bring in'(message: { files: ArchivePart[]; password?: string }): Intake;
  /** Takes a download from the stand-in shelf. */
  'fetch from shelf'(message: { file: string; password?: string }): Intake;
  /**
   * Takes downloads in from the downloads folder, each set of parts as one. `copy`: from another disk they may be
   * copied.
   */
  'take downloads'(message: { names: string[]; password?: string; copy?: boolean }): Intake;
  'forget downloads'(): void;
  /** Brings in an archive that lies inside a pack. */
  'open inside'(message: { layer: string; path: string }): Intake;
  /** Puts a pack in the place of another release of it. */
  'replace release'(message: { layer: string; earlier: string }): void;
  /** A step of its read-me is done, or not, by the player's word. */
  'tick step'(message: { layer: string; step: string; done: boolean }): void;
  /** The text of the page that a pack came from: read like its read-me. */
  'paste page'(message: { layer: string; text: string }): void;
  /** What the player notes of a pack; an empty text takes it out. */
  'note pack'(message: { layer: string; notes: PackNotes }): void;
}

export interface BringInQuestions {
  /** The downloads folder as it is now: undefined where none was given, or there is no server to ask. */
  downloads(): DownloadsView | undefined;
  /** Opens this computer's own folder dialog for it. */
  'choose downloads'(): DownloadsView | undefined;
  'text in pack'(message: { layer: string; path: string }): string;
  /** One file of a pack, to be heard. */
  'sound in pack'(message: { layer: string; path: string }): Blob;
  /** A small picture of a picture in a pack; undefined where it cannot be drawn. */
  thumbnail(message: { layer: string; path: string }): Blob | undefined;
}
