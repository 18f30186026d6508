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
export async function inParallel<T>(items: Iterable<T>, width: number, work: (item: T) => Promise<void>): Promise<void> {
  const rest = items[Symbol.iterator]();
  let failed: { error: unknown } | undefined;
  const lane = async () => {
    for (let next = rest.next(); !next.done && !failed; next = rest.next()) {
      try {
        await work(next.value);
      } catch (error) {
        failed ??= { error };
      }
    }
  };
  await Promise.all(Array.from({ length: width }, lane));
  if (failed) throw failed.error;
}
