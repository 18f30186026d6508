import { streamChunks } from '../bytes';

/**
 * Inflates raw deflate data (RFC 1951) into a buffer of exactly the stated size: a lying header cannot make it grow.
 * Throws where the data is broken, goes on after its end, or gives another size.
 */
export type Inflater = (packed: Uint8Array<ArrayBuffer>, size: number) => Promise<Uint8Array<ArrayBuffer>>;

/**
 * By the platform's own inflate, several entries at a time: measured here over twice as fast as one in JavaScript
 * (docs/decisions/005).
 */
export let inflate: Inflater = inflateByStream;

/** The app's own server has a quicker one. */
export function setInflater(inflater: Inflater): void {
  inflate = inflater;
}

export async function inflateByStream(packed: Uint8Array<ArrayBuffer>, size: number): Promise<Uint8Array<ArrayBuffer>> {
  const stream = new DecompressionStream('deflate-raw');
  const writer = stream.writable.getWriter();
  // Failures show on the reading side as well; here they must only not go unheard.
  writer.write(packed).catch(() => undefined);
  writer.close().catch(() => undefined);
  const reader = stream.readable.getReader();
  const room = new Uint8Array(size);
  let filled = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    if (filled + value.length > size) {
      // Nothing more is read from it; what went wrong is on its way already.
      void reader.cancel().catch(() => undefined);
      throw new Error('it is longer than the list of contents says');
    }
    room.set(value, filled);
    filled += value.length;
  }
  if (filled !== size) throw new Error('it is shorter than the list of contents says');
  return room;
}

/** Inflates piece by piece; no further piece is read before the last has gone in. */
export async function* inflateChunks(
  packed: AsyncIterable<Uint8Array<ArrayBuffer>>,
): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  const stream = new DecompressionStream('deflate-raw');
  const writer = stream.writable.getWriter();
  const feed = async () => {
    for await (const piece of packed) await writer.write(piece);
    await writer.close();
  };
  // What goes wrong there shows on the reading side.
  feed().catch((error: unknown) => writer.abort(error).catch(() => undefined));
  yield* streamChunks(stream.readable);
}

/** The first bytes that come out; fewer where it breaks off. */
export async function inflateHead(packed: Uint8Array<ArrayBuffer>, wanted: number): Promise<Uint8Array<ArrayBuffer>> {
  const stream = new DecompressionStream('deflate-raw');
  const writer = stream.writable.getWriter();
  // The reading end fails with the same reason, and tells it.
  writer.write(packed).catch(() => undefined);
  writer.close().catch(() => undefined);
  const reader = stream.readable.getReader();
  const room = new Uint8Array(wanted);
  let filled = 0;
  try {
    while (filled < wanted) {
      const { done, value } = await reader.read();
      if (done) break;
      room.set(value.subarray(0, wanted - filled), filled);
      filled += Math.min(value.length, wanted - filled);
    }
  } catch {
    // What came out before it broke is all there is to see.
  }
  void reader.cancel().catch(() => undefined);
  return room.subarray(0, Math.min(filled, wanted));
}
