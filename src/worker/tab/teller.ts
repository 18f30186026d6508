import type { Progress } from '@/core';
import type { Job } from '../contract';

/** Progress is passed on at most this often, in milliseconds. */
const PACE = 80;

/** Hands progress on, no oftener than a player can read it. */
export function teller(job: Pick<Job, 'title' | 'canCancel'>, tell: (job: Job) => void): (progress: Progress) => void {
  let last = { phase: '', at: 0 };
  return (progress) => {
    const now = Date.now();
    const ended = progress.total > 0 && progress.done >= progress.total;
    if (!ended && progress.phase === last.phase && now - last.at < PACE) return;
    last = { phase: progress.phase, at: now };
    tell({ ...job, ...progress });
  };
}
