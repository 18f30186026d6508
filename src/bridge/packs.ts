import { openAsBlob } from 'node:fs';
import path from 'node:path';
import { openPack, setInflater, withWhole, type Pack } from '@/core';
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
  return withWhole(await openPack(blob, name), blob);
}
