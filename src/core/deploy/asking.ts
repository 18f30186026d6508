import type { TargetPath } from '../paths/paths';

/** A file that cannot be written as planned, while the deployment waits. */
export interface Stuck {
  target: TargetPath;
  /** Why, in the folder's words. */
  why: string;
  /**
   * Trying again does not help: `changed`, another program has written to it since its original was kept; `lost`, the
   * original that is to come back is damaged.
   */
  how?: 'changed' | 'lost' | undefined;
}

/** What to do about it: try again, leave this file or all such files as they were, or take everything back. */
export const stuckAnswers = ['again', 'leave', 'leave all', 'take back'] as const;
export type StuckAnswer = (typeof stuckAnswers)[number];

/** Asks the player about one file after the other; an answer for all is asked for once. */
export class Asking {
  private asking: Promise<unknown> = Promise.resolve();
  private forAll: StuckAnswer | undefined;

  constructor(
    private readonly onStuck: ((stuck: Stuck) => Promise<StuckAnswer>) | undefined,
    private readonly signal: AbortSignal | undefined,
  ) {}

  /** Is there anybody to ask? */
  get possible(): boolean {
    return this.onStuck !== undefined;
  }

  ask(stuck: Stuck): Promise<StuckAnswer> {
    const asked = this.asking.then(async (): Promise<StuckAnswer> => {
      if (this.signal?.aborted) return 'take back';
      if (this.forAll) return this.forAll;
      const answer = (await this.onStuck?.(stuck)) ?? 'take back';
      if (answer === 'take back' || answer === 'leave all') this.forAll = answer;
      return answer;
    });
    // The next question waits for this one, however it ended.
    this.asking = asked.catch(() => undefined);
    return asked;
  }
}
