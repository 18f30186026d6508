import { SatchelError, type Failure, type UnpackJob, type UnpackOutcome, type Unpacker } from '@/core';

export interface UnpackRequest {
  job: UnpackJob;
  wanted?: string[] | undefined;
  /** Left out for a listing. */
  limit?: number;
}

export type UnpackMessage = { bytes: Uint8Array<ArrayBuffer> } | { outcome: UnpackOutcome } | { failure: Failure };

function run(
  request: UnpackRequest,
  onBytes: (bytes: Uint8Array<ArrayBuffer>) => unknown,
  signal?: AbortSignal,
): Promise<UnpackOutcome> {
  return new Promise<UnpackOutcome>((done, failed) => {
    const worker = new Worker(new URL('./unpackWorker.ts', import.meta.url), { type: 'module', name: 'unpacking' });
    const end = (settle: () => void) => {
      worker.terminate();
      signal?.removeEventListener('abort', stop);
      settle();
    };
    const stop = () => end(() => failed(new SatchelError('cancelled')));
    signal?.addEventListener('abort', stop);
    worker.addEventListener('error', (event) =>
      end(() => failed(new SatchelError('unexpected', { why: event.message || 'the archive library stopped' }))),
    );
    worker.addEventListener('message', ({ data }: MessageEvent<UnpackMessage>) => {
      if ('bytes' in data) onBytes(data.bytes);
      else if ('outcome' in data) end(() => done(data.outcome));
      else end(() => failed(new SatchelError(data.failure.code, data.failure.details)));
    });
    worker.postMessage(request);
    if (signal?.aborted) stop();
  });
}

/**
 * The archive library in a worker of its own for each run: the engine stays answerable, and a stop frees the memory at
 * once.
 */
export const remoteUnpacker: Unpacker = {
  list: (job, signal) => run({ job }, () => undefined, signal),
  unpack: (job, { wanted, limit }, onBytes, signal) =>
    run({ job, wanted: wanted && [...wanted], limit }, onBytes, signal),
};
