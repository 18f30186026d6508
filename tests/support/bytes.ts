import { PackError } from '@/core';

/** The UTF-8 bytes of a text. */
export const text = (value: string): Uint8Array<ArrayBuffer> => Uint8Array.from(new TextEncoder().encode(value));

export const blobOf = (bytes: Uint8Array): Blob => new Blob([bytes as Uint8Array<ArrayBuffer>]);

/** The code that the opening of a pack fails with. */
export const codeOf = (promise: Promise<unknown>): Promise<unknown> =>
  promise.then(
    () => 'opened',
    (error: unknown) => (error instanceof PackError ? error.code : error),
  );

/** The beginning of a PNG of 4 by 4 pixels, as far as its size is read. */
export const PNG = Uint8Array.from([
  0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13, 73, 72, 68, 82, 0, 0, 0, 4, 0, 0, 0, 4, 8, 6, 0, 0, 0,
]);
