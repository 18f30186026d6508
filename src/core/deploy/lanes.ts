import { SharedRoom } from '../progress';

/** Keeps at most `width` pieces of work under way; the first failure is thrown by the next call. */
export class Lanes {
  private readonly running = new Set<Promise<void>>();
  private readonly room = new SharedRoom();
  private failure: { error: unknown } | undefined;

  constructor(private readonly width: number) {}

  /** Returns as soon as the work is under way. @param bytes that it holds in memory meanwhile */
  async run(work: () => Promise<void>, bytes = 0): Promise<void> {
    while (this.running.size >= this.width) await Promise.race(this.running);
    const release = await this.room.take(bytes);
    if (this.failure) {
      release();
      await this.idle();
    }
    const task: Promise<void> = work()
      .catch((error: unknown) => void (this.failure ??= { error }))
      .finally(() => {
        release();
        this.running.delete(task);
      });
    this.running.add(task);
  }

  /** Returns when nothing is under way any more, whether it went well or not. */
  async settled(): Promise<void> {
    while (this.running.size > 0) await Promise.all(this.running);
  }

  /** Returns when nothing is under way any more; throws the first failure. */
  async idle(): Promise<void> {
    await this.settled();
    if (this.failure) throw this.failure.error;
  }
}
