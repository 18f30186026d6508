import { createCRC32, createSHA256 } from 'hash-wasm';
import { blobPasses } from './bytes';
import { throwIfAborted } from './errors';
import type { WorkOptions } from './progress';

/** Up to this size (bytes) the platform hashes, which wants all of it at once. */
const AT_ONCE = 16 * 1024 * 1024;

const DIGITS = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, '0'));

interface Hasher {
  update(bytes: Uint8Array): unknown;
  digest(form: 'hex'): string;
}
/** One that can be used again and again. */
type Reusable = Hasher & { init(): unknown };

/**
 * Hashers in WebAssembly are used again: each reserves some gigabytes of addresses, of which a browser has room for
 * about a hundred.
 */
class HasherPool {
  private readonly free: Reusable[] = [];
  constructor(private readonly make: () => Promise<Reusable>) {}

  /** @returns one that goes back when it has told its digest */
  async take(): Promise<Hasher> {
    const hasher = this.free.pop() ?? (await this.make());
    hasher.init();
    return {
      update: (bytes) => hasher.update(bytes),
      digest: (form) => {
        const found = hasher.digest(form);
        this.free.push(hasher);
        return found;
      },
    };
  }
}

const sha256Pool = new HasherPool(createSHA256);
const crc32Pool = new HasherPool(createCRC32);
let newSha256: () => Hasher | Promise<Hasher> = () => sha256Pool.take();
/** Lets the platform hash what comes piece by piece: no browser can, Node can, in half the time. */
export const setSha256 = (make: () => Hasher): void => void (newSha256 = make);

function hex(bytes: Uint8Array): string {
  let text = '';
  for (const byte of bytes) text += DIGITS[byte];
  return text;
}

/**
 * SHA-256 (FIPS 180-4) as 64 lower-case hex digits. Blobs are read in windows, so size does not matter; they can be
 * stopped.
 */
export async function sha256(data: Blob | Uint8Array<ArrayBuffer>, options: WorkOptions = {}): Promise<string> {
  const size = data instanceof Blob ? data.size : data.length;
  // The platform's own takes a copy of what it is given.
  if (size <= AT_ONCE)
    return hex(
      new Uint8Array(await crypto.subtle.digest('SHA-256', data instanceof Blob ? await data.arrayBuffer() : data)),
    );
  const hasher = await newSha256();
  await eachWindow(data, (bytes) => hasher.update(bytes), options);
  return hasher.digest('hex');
}

/** SHA-256 of bytes that come piece by piece. */
export async function sha256Stream(): Promise<{ update(bytes: Uint8Array): void; digest(): string }> {
  const hasher = await newSha256();
  return { update: (bytes) => void hasher.update(bytes), digest: () => hasher.digest('hex') };
}

/** SHA-256 (hex) of all pieces in their order. @throws whatever they throw */
export async function sha256OfChunks(chunks: AsyncIterable<Uint8Array>): Promise<string> {
  const { update, digest } = await sha256Stream();
  for await (const chunk of chunks) update(chunk);
  return digest();
}

/** CRC-32 (ITU-T V.42) of bytes that come piece by piece. */
export async function crc32Stream(): Promise<{ update(bytes: Uint8Array): void; digest(): number }> {
  const hasher = await crc32Pool.take();
  return { update: (bytes) => void hasher.update(bytes), digest: () => Number.parseInt(hasher.digest('hex'), 16) };
}

/** CRC-32 (ITU-T V.42) of all pieces in their order. @throws whatever they throw */
export async function crc32OfChunks(chunks: AsyncIterable<Uint8Array>): Promise<number> {
  const { update, digest } = await crc32Stream();
  for await (const chunk of chunks) update(chunk);
  return digest();
}

let crc32: Promise<(data: Uint8Array) => number> | undefined;
/** A CRC-32 function (ITU-T V.42), ready to be called without waiting. There is one, however many ask for it. */
export function crc32Function(): Promise<(data: Uint8Array) => number> {
  crc32 ??= createCRC32().then((hasher) => (data) => {
    hasher.init();
    hasher.update(data);
    return Number.parseInt(hasher.digest('hex'), 16);
  });
  return crc32;
}

/** CRC-32 of a whole blob, read in windows. */
export async function crc32OfBlob(data: Blob, options: WorkOptions = {}): Promise<number> {
  const { update, digest } = await crc32Stream();
  await eachWindow(data, update, options);
  return digest();
}

/** @throws SatchelError `cancelled` when the signal says so; Error where a blob ends too early */
async function eachWindow(
  data: Blob | Uint8Array,
  work: (bytes: Uint8Array) => void,
  { signal, onProgress }: WorkOptions,
): Promise<void> {
  const size = data instanceof Blob ? data.size : data.length;
  let done = 0;
  throwIfAborted(signal);
  for await (const bytes of data instanceof Blob ? blobPasses(data) : [data]) {
    work(bytes);
    done += bytes.length;
    throwIfAborted(signal);
    onProgress?.({ phase: 'Reading it through', done, total: size, unit: 'bytes' });
  }
  if (done !== size) throw new Error(`only ${done} of ${size} bytes could be read`);
}

/** CRC-32 of bytes at hand, or of a blob. */
export const crc32Of = async (data: Blob | Uint8Array): Promise<number> =>
  data instanceof Blob ? crc32OfBlob(data) : (await crc32Function())(data);
