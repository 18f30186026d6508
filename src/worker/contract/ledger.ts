import type { PlanView } from './deploy';
import type { BackupComparison, Minded, Progress, RestoreScope, Room } from '@/core';

/** Where the originals lie, and how safely. */
export interface SafetyView {
  /** In this browser, for the demo or for real folders; or on the disk, beside the game. */
  place: 'demo' | 'browser' | 'disk';
  /** Name or path of the folder with plain copies. */
  backup: string | undefined;
  /** Room left for originals. */
  room: Room | undefined;
  /**
   * Until when there are plain copies, what was found about the originals, and how far a look at them is that goes on
   * now.
   */
  copies: Minded & { progress: Progress | undefined };
  /** The browser has promised not to clear what it keeps. */
  persisted: boolean;
}

export interface LedgerCommands {
  /** @returns what came of it, in words */
  'check deployed'(): string;
  restore(message: { scope: RestoreScope }): void;
  'make backup'(message: { name: string; targets: string[] }): void;
  'restore backup'(message: { id: string }): void;
  'forget backup'(message: { id: string }): void;
  /** @returns what came of it, in words */
  'copy originals'(): string;
  /**
   * Takes a folder for plain copies of the originals, and copies those there are.
   *
   * @returns what came of it, in words
   */
  'set backup folder'(message: { handle: FileSystemDirectoryHandle }): string;
  /** Takes the stack as it was at an earlier deployment. @returns names of packs that are not here any more */
  'go back'(message: { number: number }): string[];
  /** The originals of everything that is deployed, as a backup bag. */
  'export bag'(): { name: string; blob: Blob };
  /** Takes a backup bag in, for a game whose originals this browser does not know. */
  'import bag'(message: { file: File }): { originals: number; title: string };
}

export interface LedgerQuestions {
  'preview restore'(message: { scope: RestoreScope }): PlanView;
  'compare backup'(message: { id: string }): BackupComparison[];
  /** Deployed files and their folders, to choose from. */
  'deployed places'(): { files: string[]; folders: string[] };
}
