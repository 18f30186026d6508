import { pathId, type TargetPath } from '@/core';
import type { Session } from '../game/session';

/** Tried values that are remembered. */
const MOST_TRIED = 200;

/** A value that was tried, and what the player wrote down about it. */
export interface Tried {
  file: TargetPath;
  path: readonly string[];
  value: string;
  note?: string;
}

export async function noteTried(session: Session, { file, path, value, note = '' }: Tried): Promise<void> {
  const isSame = (one: Tried) => one.file === file && pathId(one.path) === pathId(path) && one.value === value;
  const { tried } = session.stack;
  const now = { file, path: [...path], value, note: note || (tried.find(isSame)?.note ?? ''), at: Date.now() };
  await session.saveStack({ tried: [...tried.filter((one) => !isSame(one)), now].slice(-MOST_TRIED) });
}
