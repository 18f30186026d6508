import { makeZip } from 'client-zip';
import type { Pack } from '../archives/pack';
import { gatherBlob } from '../bytes';
import { throwIfAborted } from '../errors';
import type { WorkOptions } from '../progress';

/** One date for all files, so that the same files give the same archive. */
const DATE = new Date(2000, 0, 1, 12);

/**
 * Writes a pack of any format anew as a ZIP without packing: what the app keeps of it, since ZIPs are read piece by
 * piece, without a password and by their index alone. Every file's checksum is checked on the way where the pack states
 * one. ZIP64 (PKWARE APPNOTE 4.3.14) where numbers or sizes ask for it.
 *
 * @throws as `pack.readMany`
 */
export async function zipPack(pack: Pack, { signal, onProgress }: WorkOptions = {}): Promise<Blob> {
  let done = 0;
  const read = async function* () {
    for await (const { path, data } of pack.readMany(
      pack.entries.map((entry) => entry.path),
      signal ? { signal } : {},
    )) {
      throwIfAborted(signal);
      yield { name: path, input: data, lastModified: DATE };
      onProgress?.({ phase: 'Unpacking it once', done: ++done, total: pack.entries.length, unit: 'files' });
    }
  };
  return gatherBlob(makeZip(read()), 'application/zip');
}
