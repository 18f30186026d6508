import { compareBackup, foldersAbove } from '@/core';
import type { LedgerQuestions } from '../contract';
import type { QuestionsOf } from '../game/handlers';
import { planView } from '../game/planView';
import { backupOf } from './backups';
import { restorePlan } from './restorePart';

/** Files that are offered to choose from. */
const MOST_FILES = 2000;

export const ledgerQuestions: QuestionsOf<LedgerQuestions> = {
  'preview restore': async ({ open }, { scope }) => planView(open, await restorePlan(open, scope)),
  'compare backup': async ({ open }, { id }) => compareBackup(open.workshop, await backupOf(open, id)),
  'deployed places': ({ open }) => {
    const files = open.picture.state.files.map(({ target }): string => target);
    return { files: files.slice(0, MOST_FILES), folders: [...foldersAbove(files)].sort() };
  },
};
