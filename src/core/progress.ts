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
export class SharedRoom {
  private used = 0;
  private waiting: (() => void)[] = [];

  constructor(private readonly most = MOST_AT_ONCE) {}

  /** Waits until there is room for that many bytes. @returns to be called when they are needed no more */
  async take(bytes: number): Promise<() => void> {
    while (this.used > 0 && this.used + bytes > this.most) await new Promise<void>((free) => this.waiting.push(free));
    this.used += bytes;
    return () => {
      this.used -= bytes;
      for (const free of this.waiting.splice(0)) free();
    };
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
  const room = bytesOf && new SharedRoom();
  const rest = items[Symbol.iterator]();
  let failed: { error: unknown } | undefined;
  const lane = async () => {
    for (let next = rest.next(); !next.done && !failed; next = rest.next()) {
      const release = await room?.take(bytesOf?.(next.value) ?? 0);
      try {
        await work(next.value);
      } catch (error) {
        failed ??= { error };
      } finally {
        release?.();
      }
    }
  };
  await Promise.all(Array.from({ length: width }, lane));
  if (failed) throw failed.error;
}
