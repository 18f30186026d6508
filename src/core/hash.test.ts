import { createHash } from 'node:crypto';
import { crc32 as nodeCrc32 } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { crc32Function, crc32OfBlob, sha256 } from './hash';

const bytes = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);

describe('hashes', () => {
  // FIPS 180-4, NIST example values.
  it('SHA-256 of “abc” is the published value', async () => {
    const published = 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad';
    expect(await sha256(bytes('abc'))).toBe(published);
    expect(await sha256(new Blob(['abc']))).toBe(published);
  });

  // ITU-T V.42.
  it('CRC-32 of “123456789” is the published value', async () => {
    expect((await crc32Function())(bytes('123456789'))).toBe(0xcbf43926);
    expect(await crc32OfBlob(new Blob(['123456789']))).toBe(0xcbf43926);
  });

  it('agrees with Node over many windows', async () => {
    const large = Uint8Array.from({ length: 40 * 1024 * 1024 }, (_, i) => (i * 31 + (i >> 9)) & 255);
    expect(await sha256(new Blob([large]))).toBe(createHash('sha256').update(large).digest('hex'));
    expect(await sha256(large)).toBe(createHash('sha256').update(large).digest('hex'));
    expect(await crc32OfBlob(new Blob([large]))).toBe(nodeCrc32(large));
    // Where a browser cannot read into buffers of the caller's.
    const plain = Object.assign(new Blob([large]), { stream: () => new ReadableStream() });
    expect(await crc32OfBlob(plain)).toBe(nodeCrc32(large));
    // A file that became shorter meanwhile.
    const short = Object.assign(new Blob([large]), { stream: () => new Blob([large.subarray(0, -1)]).stream() });
    await expect(sha256(short)).rejects.toThrow('could be read');
  });
});
