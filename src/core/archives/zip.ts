import { configure } from '@zip.js/zip.js';
import { PackError } from '../errors';
import { crc32Function } from '../hash';
import type { WorkOptions } from '../progress';
import { boundAndCompare, tooManyFiles } from './bounds';
import { PACK_LIMITS, type Pack } from './pack';
import { ZipContents } from './zipContents';
import { readDirectory, statedEntries } from './zipDirectory';

configure({ useWebWorkers: false });

/** Opens a ZIP (PKWARE APPNOTE 6.3.x) by its central directory alone. */
export async function openZip(file: Blob, name: string, { signal, onProgress }: WorkOptions): Promise<Pack> {
  if ((await statedEntries(file)) > PACK_LIMITS.entries) throw tooManyFiles(name);
  const { slots, links } = await readDirectory(file, name, signal, onProgress);
  const notices = boundAndCompare(slots, file.size, name);
  notices.push(...links);
  if (slots.reduce((sum, { packed }) => sum + packed, 0) > file.size)
    throw new PackError('damaged', { name, why: 'its parts overlap' });
  const contents = new ZipContents(file, name, slots, await crc32Function());
  return {
    name,
    format: 'zip',
    entries: slots.map(({ path, size, crc32 }) => ({ path, size, ...(crc32 === undefined ? {} : { crc32 }) })),
    notices,
    archive: file,
    readMany: (paths, options) => contents.readMany(paths, options),
    peekMany: (paths, bytes, options) => contents.peekMany(paths, bytes, options),
    chunks: (path) => contents.chunks(path),
    read: (path) => contents.read(path),
  };
}
