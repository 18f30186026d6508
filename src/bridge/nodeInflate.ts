import { inflateRawSync } from 'node:zlib';
import { inflateByStream } from '@/core';

/** Above this size (bytes) a file is inflated piece by piece. */
const SMALL = 1024 * 1024;
/** Node's smallest buffer for what comes out. */
const LEAST = 64;

/** Small files in one call: a stream for each of thousands of files costs more than the file. */
export async function inflateAtOnce(packed: Uint8Array<ArrayBuffer>, size: number): Promise<Uint8Array<ArrayBuffer>> {
  if (size > SMALL) return inflateByStream(packed, size);
  // One byte more than is expected, so that one buffer holds it all and too much shows at once.
  const room = Math.max(size + 1, LEAST);
  const { buffer, engine } = inflateRawSync(packed, {
    chunkSize: room,
    maxOutputLength: room,
    info: true,
  }) as unknown as { buffer: Buffer<ArrayBuffer>; engine: { bytesWritten: number } };
  if (buffer.length !== size)
    throw new Error(`it is ${buffer.length > size ? 'longer' : 'shorter'} than the list of contents says`);
  if (engine.bytesWritten !== packed.length) throw new Error('it goes on after its end');
  // Node lets very small ones share a buffer.
  return buffer.buffer.byteLength === room
    ? new Uint8Array(buffer.buffer, buffer.byteOffset, size)
    : new Uint8Array(buffer);
}
