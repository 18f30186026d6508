import type { Need } from '@/core';

/** Where something lies: in this browser, on the disk beside the originals, or in the backup folder. */
export type StoredAt = 'browser' | 'vault' | 'backup';

/** What takes room. `folders`: game folders that are kept in this browser; `others`: packs of other games. */
export type StoredWhat = 'packs' | 'originals' | 'copies' | 'records' | 'set-ups' | 'folders' | 'others';

export interface StoredPart {
  what: StoredWhat;
  at: StoredAt;
  files: number;
  bytes: number;
}

/** A pack that is kept, and what needs it. */
export interface StoredPack {
  id: string;
  name: string;
  file: string;
  bytes: number;
  at: StoredAt;
  needs: Need[];
  /** Nothing but a way back needs it. */
  spare: boolean;
}

export interface StorageView {
  parts: StoredPart[];
  /** The largest first. */
  packs: StoredPack[];
  /** Bytes that are left where, as far as that can be known. */
  rooms: { at: StoredAt; left: number }[];
  /** The path or name of the folder where each lies. */
  names: Partial<Record<StoredAt, string>>;
}

export interface StorageCommands {
  /** Lets packs go that nothing needs but a way back, which then begins later. */
  'let packs go'(message: { ids: string[] }): void;
}

export interface StorageQuestions {
  storage(): StorageView;
}
