import { closeSync, fstatSync, openAsBlob, openSync, readSync, statSync } from 'node:fs';
import path from 'node:path';
import { PackError, openPack, readBlobBy, setInflater, withWhole, type Pack, type RangeReader } from '@/core';
import type { DiskFolder } from './disk';
import { idSchema } from './wire';
import { inflateAtOnce } from './inflate';

setInflater(inflateAtOnce);

/** Where an archive lies in the vault. @throws ZodError */
export const packPath = (id: string): string => `packs/${idSchema.parse(id)}.zip`;

/** The same, as the disk calls it. */
export const archivePath = (vault: DiskFolder, id: string): string => path.join(vault.root, packPath(id));

/** Opens an archive on this computer's disk. */
export async function openArchive(archive: string, name: string): Promise<Pack> {
  const blob = await openAsBlob(archive);
  readBlobBy(blob, readerOf(archive, name));
  return withWhole(await openPack(blob, name), blob);
}

/** Node's own Blob of a file reads 64 KB at a time, each by way of another thread, which takes three times as long. */
function readerOf(archive: string, name: string): RangeReader {
  const { ino, size, mtimeMs } = statSync(archive);
  return async (start, end, spent) => {
    const file = openSync(archive, 'r');
    try {
      const now = fstatSync(file);
      if (now.ino !== ino || now.size !== size || now.mtimeMs !== mtimeMs)
        throw new PackError('damaged', { name, why: 'it was changed while it was being read' });
      const length = Math.max(0, Math.min(end, size) - start);
      // Of windows that are thrown away, fifty megabytes lie about before a thread collects them.
      const bytes =
        spent && spent.buffer.byteLength >= length ? new Uint8Array(spent.buffer, 0, length) : new Uint8Array(length);
      let got = 0;
      while (got < bytes.length) {
        const read = readSync(file, bytes, got, bytes.length - got, start + got);
        if (read === 0) break;
        got += read;
      }
      return bytes.subarray(0, got);
    } finally {
      closeSync(file);
    }
  };
}
