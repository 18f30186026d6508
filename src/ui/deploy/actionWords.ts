import type { StepAction } from '@/core';

/** What a step of a plan is called. */
export const ACTION_WORDS: Record<StepAction, { verb: string; one: string; more: string }> = {
  add: { verb: 'add', one: 'new file added', more: 'new files added' },
  replace: { verb: 'replace', one: 'file replaced', more: 'files replaced' },
  edit: { verb: 'edit', one: 'settings file edited', more: 'settings files edited' },
  restore: { verb: 'bring back', one: 'original brought back', more: 'originals brought back' },
  remove: { verb: 'remove', one: 'added file removed', more: 'added files removed' },
};
