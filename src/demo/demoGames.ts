import type { GameCard } from '@/core';
import type { Files } from './filesByPath';
import { gullwickFolders } from './gullwick';
import { gullwickCard } from './gullwickCard';
import { hedgerowCard, hedgerowFolders } from './hedgerow';
import { tinplateCard, tinplateFolders } from './tinplate';

/** The made-up games of the demo: their cards, and their folders as they were before anybody touched them. */
export const DEMO_GAMES: { card: GameCard; folders(): Record<string, Files> }[] = [
  { card: gullwickCard, folders: gullwickFolders },
  { card: tinplateCard, folders: tinplateFolders },
  { card: hedgerowCard, folders: hedgerowFolders },
];
