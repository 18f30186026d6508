import { closeSync, fstatSync, openSync, readSync, statSync } from 'node:fs';
import path from 'node:path';
import { PackError, openPack, readBlobBy, withWhole, type Pack, type RangeReader } from '@/core';
import { FarBlob } from '@/folders/farBlob';
import type { DiskFolder } from './disk';
import { idSchema } from './wire';
import './platform';

/** Where an archive lies in the vault. @throws ZodError */
export const packPath = (id: string): string => `packs/${idSchema.parse(id)}.zip`;

/** The same, as the disk calls it. */
export const archivePath = (vault: DiskFolder, id: string): string => path.join(vault.root, packPath(id));

/** Opens an archive on this computer's disk. */
export async function openArchive(archive: string, name: string): Promise<Pack> {
  const { size, read } = readerOf(archive, name);
  // Not Node's own Blob of a file: of one above 4 GB it knows only what is left over above that, and it reads 64 KB at
  // a time, each by way of another thread, which takes three times as long.
  const blob = new FarBlob(size, read);
  readBlobBy(blob, read);
  return withWhole(await openPack(blob, name), blob);
}

function readerOf(archive: string, name: string): { size: number; read: RangeReader } {
  const { ino, size, mtimeMs } = statSync(archive);
  const read: RangeReader = async (start, end, spent) => {
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
        const more = readSync(file, bytes, got, bytes.length - got, start + got);
        if (more === 0) throw new PackError('damaged', { name, why: 'it became shorter while it was being read' });
        got += more;
      }
      return bytes;
    } finally {
      closeSync(file);
    }
  };
  return { size, read };
}
