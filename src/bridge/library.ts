import { Worker } from 'node:worker_threads';
import { SatchelError, type UnpackJob, type UnpackOutcome, type Unpacker } from '@/core';
import { diskFiles } from './diskBlob';
import type { FromLibrary, LibraryRun } from './libraryThread';

type Taking = (bytes: Uint8Array<ArrayBuffer>) => void | Promise<void>;

function run(
  { parts, type, password }: UnpackJob,
  how: Pick<LibraryRun, 'wanted' | 'limit'>,
  onBytes: Taking,
  signal?: AbortSignal,
): Promise<UnpackOutcome> {
  const waiting = new SharedArrayBuffer(4);
  const count = new Int32Array(waiting);
  const thread = new Worker(new URL('./libraryThread.ts', import.meta.url));
  let stop: () => void = () => undefined;
  return new Promise<UnpackOutcome>((done, failed) => {
    const lost = (cause: unknown) =>
      failed(new SatchelError('unexpected', { why: 'the archive library stopped' }, { cause }));
    stop = () => failed(new SatchelError('cancelled'));
    // One after the other: the end is heard after the last bytes were taken, and that of the thread after both.
    let taken = Promise.resolve();
    thread.once('error', lost).once('exit', (code) => void taken.then(() => lost(code)));
    thread.on('message', (words: FromLibrary) => {
      taken = taken
        .then(async () => {
          if ('outcome' in words) return done(words.outcome);
          if ('failure' in words) return failed(new SatchelError(words.failure.code, words.failure.details));
          const { length } = words.bytes;
          await onBytes(words.bytes);
          Atomics.sub(count, 0, length);
          Atomics.notify(count, 0);
        })
        .catch(failed);
    });
    thread.postMessage({
      parts: parts.map(({ name, data }) => ({ name, files: diskFiles(data) })),
      type,
      ...(password === undefined ? {} : { password }),
      ...how,
      waiting,
    } satisfies LibraryRun);
    signal?.addEventListener('abort', stop);
    if (signal?.aborted) stop();
  }).finally(async () => {
    signal?.removeEventListener('abort', stop);
    await thread.terminate();
  });
}

/**
 * The archive library over files on the disk, each run in a thread of its own. Its parts are blobs as `diskBlob` makes
 * them.
 */
export const diskUnpacker: Unpacker = {
  list: (job, signal) => run(job, {}, () => undefined, signal),
  unpack: (job, { wanted, limit }, onBytes, signal) =>
    run(job, { wanted: wanted && [...wanted], limit }, onBytes, signal),
};
