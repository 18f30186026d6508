/** How far a piece of work is. `done` and `total` count in `unit`. */
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

/** Runs `work` over `items`, at most `width` at a time, in order of start. Rejects with the first failure, after all running ones ended. */
export async function inParallel<T>(items: readonly T[], width: number, work: (item: T) => Promise<void>): Promise<void> {
  let next = 0;
  let failed: { error: unknown } | undefined;
  const lane = async () => {
    while (next < items.length && !failed) {
      const item = items[next++] as T;
      try {
        await work(item);
      } catch (error) {
        failed ??= { error };
      }
    }
  };
  await Promise.all(Array.from({ length: Math.min(width, items.length) }, lane));
  if (failed) throw failed.error;
}
