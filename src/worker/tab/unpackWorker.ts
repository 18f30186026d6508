import { inlineUnpacker, setUnpackerWasm, toFailure } from '@/core';
import type { UnpackMessage, UnpackRequest } from './unpackRemote';

/**
 * One run of the archive library in a worker of its own, so that it can be ended at any moment and its memory with it.
 */
setUnpackerWasm(async () => (await fetch(new URL('7z-wasm/7zz.wasm', import.meta.url))).arrayBuffer());

const send = (message: UnpackMessage, transfer: Transferable[] = []) => self.postMessage(message, { transfer });

self.addEventListener('message', ({ data }: MessageEvent<UnpackRequest>) => {
  const run =
    data.limit === undefined
      ? inlineUnpacker.list(data.job)
      : inlineUnpacker.unpack(data.job, { wanted: data.wanted, limit: data.limit }, (bytes) =>
          send({ bytes }, [bytes.buffer]),
        );
  run.then(
    (outcome) => send({ outcome }),
    (error: unknown) => send({ failure: toFailure(error) }),
  );
});
