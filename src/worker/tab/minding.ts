import { toFailure, type Minded, type Progress } from '@/core';
import type { Session } from '../game/session';

/** Nothing was changed for so long (milliseconds): then nobody waits for what the folders do. */
const QUIET = 1500;

/** How often progress is told (milliseconds). */
const PACE = 1000;

/** What is told of it. */
export interface MindingNews {
  /** How far it is; undefined when it is over. */
  progress: Progress | undefined;
  /** What was found, when it is over. */
  found?: Minded;
}

/** Looks after the kept originals while nothing else is going on, and makes way for everything else. */
export class Minding {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: { stop: AbortController; ended: Promise<void> } | undefined;

  constructor(private readonly tell: (session: Session, news: MindingNews) => void) {}

  /** Begins in a while, unless something else does first. */
  soon(session: Session): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      const stop = new AbortController();
      this.running = { stop, ended: this.mind(session, stop.signal) };
    }, QUIET);
  }

  /** Returns when nothing of it is under way any more. */
  async halt(): Promise<void> {
    clearTimeout(this.timer);
    const { running } = this;
    this.running = undefined;
    running?.stop.abort();
    await running?.ended;
  }

  private async mind(session: Session, signal: AbortSignal): Promise<void> {
    let told = Date.now();
    const onProgress = (progress: Progress) => {
      if (Date.now() - told < PACE || signal.aborted) return;
      told = Date.now();
      this.tell(session, { progress });
    };
    try {
      const found = await session.carrier.mind({ signal, onProgress });
      if (!signal.aborted) this.tell(session, { progress: undefined, found });
    } catch (error) {
      // Stopped, or a folder that cannot be used now: it is tried again after the next change, and at the next start.
      // The ledger says until when there are copies.
      if (toFailure(error).code !== 'cancelled') this.tell(session, { progress: undefined });
    }
  }
}
