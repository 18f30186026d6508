/** Bytes that are held at a time while something large is read. */
const PIECE = 4 * 1024 * 1024;

/** Bytes that are gathered before they are handed over. */
const GATHERED = 8 * 1024 * 1024;

/** One blob of all that comes. Browsers keep blobs outside of the program's own memory, so it goes over to them in good time. */
export async function gatherBlob(chunks: AsyncIterable<Uint8Array> | ReadableStream<Uint8Array>, type = ''): Promise<Blob> {
  const blobs: Blob[] = [];
  let loose: Uint8Array<ArrayBuffer>[] = [];
  let size = 0;
  const handOver = () => {
    blobs.push(new Blob(loose));
    loose = [];
    size = 0;
  };
  for await (const chunk of 'getReader' in chunks ? streamChunks(chunks) : chunks) {
    // A piece may last until the next is asked for only.
    loose.push(chunk.slice());
    size += chunk.length;
    if (size > GATHERED) handOver();
  }
  handOver();
  return new Blob(blobs, { type });
}

/** A blob's bytes, piece by piece. */
export async function* blobChunks(blob: Blob): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  for (let at = 0; at < blob.size; at += PIECE) yield new Uint8Array(await blob.slice(at, at + PIECE).arrayBuffer());
}

/** The same for one that looks at each piece and lets it go: what was given before does not last. Pieces have any size. */
export async function* blobPasses(blob: Blob): AsyncGenerator<Uint8Array> {
  const reader = blob.size > PIECE ? intoBuffers(blob) : undefined;
  if (!reader) {
    yield* blobChunks(blob);
    return;
  }
  try {
    // One buffer goes to and fro: a browser collects those of slices only when hundreds of megabytes of them are waiting.
    for (let buffer = new ArrayBuffer(PIECE); ; ) {
      const { value } = await reader.read(new Uint8Array(buffer));
      if (!value || value.length === 0) return;
      yield value;
      buffer = value.buffer;
    }
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}

/** Reads a blob into buffers of the caller's (Streams Standard); undefined where the browser cannot. */
function intoBuffers(blob: Blob): ReadableStreamBYOBReader | undefined {
  try {
    return blob.stream().getReader({ mode: 'byob' });
  } catch {
    return undefined;
  }
}

/** Reads a part of a blob. `end` is where the next byte would be. A part that is spent may be written over with it. */
export type RangeReader = (start: number, end: number, spent?: Uint8Array<ArrayBuffer>) => Promise<Uint8Array<ArrayBuffer>>;
const readers = new WeakMap<Blob, RangeReader>();

/** Lets parts of a blob be read in a way that costs less than its own. */
export const readBlobBy = (blob: Blob, read: RangeReader): void => void readers.set(blob, read);

/** A part of a blob. `end` is where the next byte would be. @param spent a part of before that nobody reads any more */
export async function blobRange(blob: Blob, start: number, end: number, spent?: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  return (await readers.get(blob)?.(start, end, spent)) ?? new Uint8Array(await blob.slice(start, end).arrayBuffer());
}

/** A stream's bytes as they come. Where the reader has enough, the stream ends. */
export async function* streamChunks<T extends Uint8Array>(stream: ReadableStream<T>): AsyncGenerator<T> {
  const reader = stream.getReader();
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      yield value;
    }
  } finally {
    await reader.cancel().catch(() => undefined);
  }
}

/** Are these the same bytes? Compares four at a time where both lie so that it can be done. */
export function sameBytes(a: Uint8Array, b: Uint8Array): boolean {
  if (a.length !== b.length) return false;
  let from = 0;
  if (a.byteOffset % 4 === 0 && b.byteOffset % 4 === 0) {
    const words = a.length >> 2;
    const [one, two] = [new Int32Array(a.buffer, a.byteOffset, words), new Int32Array(b.buffer, b.byteOffset, words)];
    for (let i = 0; i < words; i++) if (one[i] !== two[i]) return false;
    from = words * 4;
  }
  for (let i = from; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
