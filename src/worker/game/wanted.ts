import { nameKey, pathId, type LivingTarget } from '@/core';
import type { Session } from './session';

/** What layers want in one file, by key, the lowest first. */
export function wantedIn(session: Session, file: string): Map<string, LivingTarget['edits']> {
  const found = new Map<string, LivingTarget['edits']>();
  for (const edit of session.picture.resolution.living.get(nameKey(file))?.edits ?? [])
    found.set(pathId(edit.path), [...(found.get(pathId(edit.path)) ?? []), edit]);
  return found;
}
