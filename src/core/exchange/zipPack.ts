import { makeZip } from 'client-zip';
import { contentsOf, isLarge } from '../archives/contents';
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
    for await (const { path, input } of contents(pack, signal)) {
      throwIfAborted(signal);
      yield { name: path, input, lastModified: DATE };
      onProgress?.({ phase: 'Unpacking it once', done: ++done, total: pack.entries.length, unit: 'files' });
    }
  };
  return gatherBlob(makeZip(read()), 'application/zip');
}

/** All files of a pack, none of them held that is large. */
async function* contents(
  pack: Pack,
  signal?: AbortSignal,
): AsyncGenerator<{ path: string; input: Uint8Array<ArrayBuffer> | AsyncIterable<Uint8Array> }> {
  if (pack.inOrder)
    for await (const { path, pieces } of pack.inOrder(signal ? { signal } : {})) yield { path, input: pieces };
  else
    for await (const file of contentsOf(pack, pack.entries, isLarge, signal))
      yield { path: file.path, input: 'data' in file ? file.data : file.pieces() };
}
