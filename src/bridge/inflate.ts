import { inflateRaw } from 'node:zlib';
import { inflateByStream } from '@/core';

/** Above this size (bytes) a file is inflated piece by piece. */
const SMALL = 4 * 1024 * 1024;
/** Node's smallest buffer for what comes out. */
const LEAST = 64;

/** Small files in one call, on a thread of Node's own: a stream for each of thousands of files costs more than the file. */
export async function inflateAtOnce(packed: Uint8Array<ArrayBuffer>, size: number): Promise<Uint8Array<ArrayBuffer>> {
  if (size > SMALL) return inflateByStream(packed, size);
  const { buffer, used } = await new Promise<{ buffer: Buffer; used: number }>((done, failed) => {
    // One byte more than is expected, so that one buffer holds it all and too much shows at once.
    inflateRaw(packed, { chunkSize: Math.max(size + 1, LEAST), maxOutputLength: size + 1, info: true }, (error, result) => {
      if (error) return failed(error);
      const { buffer, engine } = result as unknown as { buffer: Buffer; engine: { bytesWritten: number } };
      done({ buffer, used: engine.bytesWritten });
    });
  });
  if (buffer.length !== size) throw new Error(`it is ${buffer.length > size ? 'longer' : 'shorter'} than the list of contents says`);
  if (used !== packed.length) throw new Error('it goes on after its end');
  // Small ones share a buffer with others.
  return buffer.buffer.byteLength > 2 * size + LEAST ? new Uint8Array(buffer) : new Uint8Array(buffer.buffer as ArrayBuffer, buffer.byteOffset, size);
}
