/** Files above this size (bytes) go through memory in pieces, where they can be had so. */
export const LARGE = 16 * 1024 * 1024;

/** Bytes that are held at a time while something large is read. */
const PIECE = 4 * 1024 * 1024;

/** Bytes that are gathered before they are handed over. */
const GATHERED = 8 * 1024 * 1024;

/** Where bytes go that become a blob. */
export interface BlobSink {
  /** @param piece may be used again afterwards */
  add(piece: Uint8Array): void;
  end(type?: string): Blob;
}

/** Browsers keep blobs outside of the program's own memory, so bytes go over to them in good time. */
class MemorySink implements BlobSink {
  private readonly blobs: Blob[] = [];
  private loose: Uint8Array<ArrayBuffer>[] = [];
  private size = 0;

  add(piece: Uint8Array): void {
    this.loose.push(piece.slice());
    this.size += piece.length;
    if (this.size > GATHERED) this.handOver();
  }

  private handOver(): void {
    this.blobs.push(new Blob(this.loose));
    this.loose = [];
    this.size = 0;
  }

  end(type = ''): Blob {
    this.handOver();
    return new Blob(this.blobs, { type });
  }
}

/** Where blobs lie that the core makes. */
export interface BlobStore {
  /** Begins a blob of bytes that come piece by piece and need not fit into memory at once. */
  sink(): BlobSink;
  /** Blobs one behind the other. */
  join(blobs: readonly Blob[]): Blob;
}
let store: BlobStore = { sink: () => new MemorySink(), join: (blobs) => new Blob([...blobs]) };
export const blobStore = (): BlobStore => store;
/** Lets them lie elsewhere: outside of browsers they would lie in memory. */
export const setBlobStore = (other: BlobStore): void => void (store = other);

/** One blob of all that comes. */
export async function gatherBlob(
  chunks: AsyncIterable<Uint8Array> | ReadableStream<Uint8Array>,
  type = '',
): Promise<Blob> {
  const sink = store.sink();
  for await (const chunk of 'getReader' in chunks ? streamChunks(chunks) : chunks) sink.add(chunk);
  return sink.end(type);
}

/** A blob's bytes, piece by piece. */
export async function* blobChunks(blob: Blob): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  for (let at = 0; at < blob.size; at += PIECE) yield new Uint8Array(await blob.slice(at, at + PIECE).arrayBuffer());
}

/**
 * The same for one that looks at each piece and lets it go: what was given before does not last. Pieces have any size.
 */
export async function* blobPasses(blob: Blob): AsyncGenerator<Uint8Array> {
  const reader = blob.size > PIECE ? intoBuffers(blob) : undefined;
  if (!reader) {
    yield* blobChunks(blob);
    return;
  }
  try {
    // One buffer goes to and fro: a browser collects those of slices only when hundreds of megabytes of them are
    // waiting.
    for (let buffer = new ArrayBuffer(PIECE); ;) {
      const { value } = await reader.read(new Uint8Array(buffer));
      if (!value || value.length === 0) return;
      yield value;
      buffer = value.buffer;
    }
  } finally {
    // Nothing more is read from it.
    await reader.cancel().catch(() => undefined);
  }
}

/** Reads a blob into buffers of the caller's (Streams Standard); undefined where the browser cannot. */
function intoBuffers(blob: Blob): ReadableStreamBYOBReader | undefined {
  try {
    return blob.stream().getReader({ mode: 'byob' });
  } catch {
    // A browser that cannot gives its own buffers: slower, and the same bytes.
    return undefined;
  }
}

/** Reads a part of a blob. `end` is where the next byte would be. A part that is spent may be written over with it. */
export type RangeReader = (
  start: number,
  end: number,
  spent?: Uint8Array<ArrayBuffer>,
) => Promise<Uint8Array<ArrayBuffer>>;
const readers = new WeakMap<Blob, RangeReader>();

/** Lets parts of a blob be read in a way that costs less than its own. */
export const readBlobBy = (blob: Blob, read: RangeReader): void => void readers.set(blob, read);

/** A part of a blob. `end` is where the next byte would be. @param spent a part of before that nobody reads any more */
export async function blobRange(
  blob: Blob,
  start: number,
  end: number,
  spent?: Uint8Array<ArrayBuffer>,
): Promise<Uint8Array<ArrayBuffer>> {
  return (await readers.get(blob)?.(start, end, spent)) ?? new Uint8Array(await blob.slice(start, end).arrayBuffer());
}

/**
 * Reads a part of a blob into a buffer, as much of it as there is, and waits for it.
 *
 * @returns how many bytes there were
 */
export type BlockingReader = (start: number, into: Uint8Array) => number;
const blocking = new WeakMap<Blob, BlockingReader>();

/** Says how a blob can be read by somebody who cannot wait for a promise. */
export const readBlobAtOnceBy = (blob: Blob, read: BlockingReader): void => void blocking.set(blob, read);
export const blockingReader = (blob: Blob): BlockingReader | undefined => blocking.get(blob);

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
    // Nothing more is read from it.
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
