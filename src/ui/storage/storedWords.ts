import type { StoredAt, StoredWhat } from '@/worker/contract';

export interface Words {
  title: string;
  means: string;
}

/** What lies somewhere, and what it is for. */
export const WHAT: Record<StoredWhat, Words> = {
  packs: { title: 'Packs', means: 'the downloads as you brought them in' },
  originals: { title: 'Originals', means: 'the game’s own files that packs stand in for' },
  copies: { title: 'Plain copies', means: 'the same originals as files that any program can read' },
  records: { title: 'Records', means: 'the ledger, what is deployed, and backups by name' },
  'set-ups': { title: 'Set-ups', means: 'what you decided, the last ten times' },
  folders: { title: 'The demo’s game folders', means: 'made up, and kept in this browser only' },
  others: { title: 'Packs of other games', means: 'choose that game to see them' },
};

/** Where it lies, what is left there, and what happens when that is full. */
export const AT: Record<StoredAt, { title: string; left: string; full: string }> = {
  browser: {
    title: 'in this browser',
    left: 'The browser still gives this app',
    full: 'When that is used up, no pack can be brought in; packs that you let go make room.',
  },
  vault: {
    title: 'beside the originals',
    left: 'The disk with the originals still has',
    full: 'When that is used up, nothing can be deployed, since no original could be kept.',
  },
  backup: { title: 'in the backup folder', left: 'The disk with the backup folder still has', full: '' },
};
