import { createCRC32, createSHA256 } from 'hash-wasm';

/** Above this size (bytes) hashing goes in windows instead of over one buffer. */
const WINDOW = 16 * 1024 * 1024;

const hex = (bytes: Uint8Array): string => Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('');

/** SHA-256 (FIPS 180-4) as 64 lower-case hex digits. Blobs are read in windows, so size does not matter. */
export async function sha256(data: Blob | Uint8Array<ArrayBuffer>): Promise<string> {
  if (data instanceof Uint8Array) return hex(new Uint8Array(await crypto.subtle.digest('SHA-256', data)));
  if (data.size <= WINDOW) return hex(new Uint8Array(await crypto.subtle.digest('SHA-256', await data.arrayBuffer())));
  const hasher = await createSHA256();
  for (let at = 0; at < data.size; at += WINDOW) hasher.update(new Uint8Array(await data.slice(at, at + WINDOW).arrayBuffer()));
  return hasher.digest('hex');
}

/** A CRC-32 function (ITU-T V.42), ready to be called without waiting. */
export async function crc32Function(): Promise<(data: Uint8Array) => number> {
  const hasher = await createCRC32();
  return (data) => {
    hasher.init();
    hasher.update(data);
    return Number.parseInt(hasher.digest('hex'), 16);
  };
}

/** CRC-32 of a whole blob, read in windows. */
export async function crc32OfBlob(data: Blob): Promise<number> {
  const hasher = await createCRC32();
  hasher.init();
  for (let at = 0; at < data.size; at += WINDOW) hasher.update(new Uint8Array(await data.slice(at, at + WINDOW).arrayBuffer()));
  return Number.parseInt(hasher.digest('hex'), 16);
}
