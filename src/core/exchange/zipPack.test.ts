import { unzipSync } from 'fflate';
import { expect, it } from 'vitest';
import { zipPack, type Pack } from '@/core';

it('writes an archive that is read from its beginning to its end in pieces, and holds none of its files', async () => {
  const files = { 'a/one.bin': [1, 2, 3, 4, 5], 'two.bin': [], 'three.bin': [9] };
  const refuse = () => {
    throw new Error('a file is read as a whole');
  };
  const pack = {
    name: 'streamed.7z',
    format: '7z',
    entries: Object.entries(files).map(([path, bytes]) => ({ path, size: bytes.length })),
    notices: [],
    read: refuse,
    readMany: refuse,
    inOrder: async function* () {
      for (const [path, bytes] of Object.entries(files))
        yield {
          path,
          pieces: (async function* () {
            for (const byte of bytes) yield Uint8Array.of(byte);
          })(),
        };
    },
  } as unknown as Pack;
  const made = unzipSync(new Uint8Array(await (await zipPack(pack)).arrayBuffer()));
  expect(Object.fromEntries(Object.entries(made).map(([path, bytes]) => [path, [...bytes]]))).toEqual(files);
});
