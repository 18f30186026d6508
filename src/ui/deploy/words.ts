import type { StepAction } from '@/core';

/** What a step of a plan is called. */
export const ACTION_WORDS: Record<StepAction, { verb: string; does: string }> = {
  add: { verb: 'add', does: 'new files added' },
  replace: { verb: 'replace', does: 'files replaced' },
  edit: { verb: 'edit', does: 'settings files edited' },
  restore: { verb: 'bring back', does: 'originals brought back' },
  remove: { verb: 'remove', does: 'added files removed' },
};
