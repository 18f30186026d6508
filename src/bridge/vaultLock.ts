import { readFileSync, rmSync, unlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { SatchelError } from '@/core';
import { isRunning } from './diskCalls';

const NAME = 'running.pid';

/**
 * Takes a vault for this process: a second app that was started with the same folder must not finish or take back what the
 * first is doing. One that was left by a process that is gone counts for nothing.
 *
 * @returns to be called at the end
 * @throws SatchelError `journal-open` where another process works in it
 */
export function lockVault(vault: string): () => void {
  const file = path.join(vault, NAME);
  const take = () => writeFileSync(file, String(process.pid), { flag: 'wx' });
  try {
    take();
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'EEXIST')) throw error;
    const holder = Number(readFileSync(file, 'utf8'));
    if (holder !== process.pid && Number.isSafeInteger(holder) && holder > 0 && isRunning(holder)) throw new SatchelError('journal-open', {}, { cause: error });
    unlinkSync(file);
    take();
  }
  return () => rmSync(file, { force: true });
}
