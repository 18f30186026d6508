import { parentPort } from 'node:worker_threads';
import { inlineUnpacker, toFailure, type Failure, type UnpackOutcome } from '@/core';
import { diskBlob, type OpenFile } from './diskBlob';

/* One run of the archive library in a thread of its own: it can be ended at any moment, and its memory with it. */

export interface LibraryRun {
  parts: { name: string; files: readonly OpenFile[] }[];
  type: string;
  password?: string;
  wanted?: readonly string[] | undefined;
  /** Left out for a listing. */
  limit?: number;
  /** Bytes that were sent and not yet taken, as both threads count them. */
  waiting: SharedArrayBuffer;
}
export type FromLibrary = { bytes: Uint8Array<ArrayBuffer> } | { outcome: UnpackOutcome } | { failure: Failure };

/** Bytes that may wait to be taken: the library knows no pause of its own, so its thread stands still. */
const AHEAD = 32 * 1024 * 1024;

const say = (words: FromLibrary, transfer: ArrayBuffer[] = []): void => parentPort?.postMessage(words, transfer);

parentPort?.once('message', ({ parts, type, password, wanted, limit, waiting }: LibraryRun) => {
  const count = new Int32Array(waiting);
  const job = {
    parts: parts.map(({ name, files }) => ({ name, data: diskBlob(files) })),
    type,
    ...(password === undefined ? {} : { password }),
  };
  const send = (bytes: Uint8Array<ArrayBuffer>) => {
    Atomics.add(count, 0, bytes.length);
    say({ bytes }, [bytes.buffer]);
    for (let now = Atomics.load(count, 0); now > AHEAD; now = Atomics.load(count, 0)) Atomics.wait(count, 0, now);
  };
  const run = limit === undefined ? inlineUnpacker.list(job) : inlineUnpacker.unpack(job, { wanted, limit }, send);
  run.then(
    (outcome) => say({ outcome }),
    (error: unknown) => say({ failure: toFailure(error) }),
  );
});
