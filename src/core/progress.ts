/** How far a piece of work is. `done` and `total` count in `unit`; a total of 0 is not known. */
export interface Progress {
  /** What is being done, as a short phrase for the player: "Keeping originals". */
  phase: string;
  done: number;
  total: number;
  unit: 'files' | 'bytes';
}

export interface WorkOptions {
  signal?: AbortSignal;
  onProgress?: (progress: Progress) => void;
}

/** How many files are under way at a time. */
export const WIDTH = 24;

/** Bytes of files that are worked on at the same time: many small ones, or one that is larger. */
const MOST_AT_ONCE = 64 * 1024 * 1024;

/** Room in memory that pieces of work share; one that needs more than all of it waits until it is alone. */
class SharedRoom {
  private used = 0;
  private waiting: (() => void)[] = [];

  constructor(private readonly most = MOST_AT_ONCE) {}

  /** Waits until there is room for that many bytes. @returns to be called when they are needed no more */
  async take(bytes: number): Promise<() => void> {
    for (;;) {
      const release = this.takeNow(bytes);
      if (release) return release;
      await new Promise<void>((free) => this.waiting.push(free));
    }
  }

  /** The same where there is room for them already; undefined where not. */
  takeNow(bytes: number): (() => void) | undefined {
    if (this.used > 0 && this.used + bytes > this.most) return undefined;
    this.used += bytes;
    return () => {
      this.used -= bytes;
      for (const free of this.waiting.splice(0)) free();
    };
  }
}

/** Keeps at most `width` pieces of work under way; the first failure is thrown by the next call. */
export class Pool {
  private running = 0;
  private readonly waiting: (() => void)[] = [];
  private readonly room = new SharedRoom();
  private failure: { error: unknown } | undefined;

  constructor(private readonly width: number) {}

  /** Returns as soon as the work is under way. @param bytes that it holds in memory meanwhile */
  async run(work: () => Promise<void>, bytes = 0): Promise<void> {
    while (this.running >= this.width) await this.oneEnds();
    this.running++;
    const release = this.room.takeNow(bytes) ?? (await this.room.take(bytes));
    if (this.failure) {
      this.ended(release);
      await this.idle();
    }
    void (async () => {
      try {
        await work();
      } catch (error) {
        this.failure ??= { error };
      }
      this.ended(release);
    })();
  }

  /** Returns when nothing is under way any more, whether it went well or not. */
  async settled(): Promise<void> {
    while (this.running > 0) await this.oneEnds();
  }

  /** Returns when nothing is under way any more; throws the first failure. */
  async idle(): Promise<void> {
    await this.settled();
    if (this.failure) throw this.failure.error;
  }

  private oneEnds(): Promise<void> {
    return new Promise((go) => this.waiting.push(go));
  }

  private ended(release: () => void): void {
    release();
    this.running--;
    for (const go of this.waiting.splice(0)) go();
  }
}

/**
 * Runs `work` over `items`, at most `width` at a time, in order of start. Rejects with the first failure, after all
 * running ones ended.
 *
 * @param bytesOf how many bytes one holds in memory: where they are many, fewer run at a time
 */
export async function inParallel<T>(
  items: Iterable<T>,
  width: number,
  work: (item: T) => Promise<void>,
  bytesOf?: (item: T) => number,
): Promise<void> {
  const pool = new Pool(width);
  for (const item of items) await pool.run(() => work(item), bytesOf?.(item));
  await pool.idle();
}
