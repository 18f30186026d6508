import { Zip } from 'fflate';
import { throwIfAborted } from '../errors';
import { readBytes, type Folder } from '../folder';
import { byPath, joinPath } from '../paths/paths';
import { kindOf } from '../media/kinds';
import type { WorkOptions } from '../progress';
import { zipEntry } from './zipEntry';

/**
 * Writes folders into one ZIP, each under its own name, files in order of their paths. Dates are kept.
 * The archive is gathered in pieces, so that no second copy of everything is needed.
 */
export async function zipFolder(folders: Readonly<Record<string, Folder>>, { signal, onProgress }: WorkOptions = {}): Promise<Blob> {
  const pieces: BlobPart[] = [];
  let failure: Error | undefined;
  const zip = new Zip((error, chunk) => {
    if (error) failure = error;
    else pieces.push(chunk);
  });
  const files: { name: string; folder: Folder; path: string; modified: number }[] = [];
  for (const [root, folder] of Object.entries(folders)) for await (const { path, modified } of folder.list()) files.push({ name: joinPath(root, path), folder, path, modified });
  files.sort((a, b) => byPath(a.name, b.name));
  for (const [i, { name, folder, path, modified }] of files.entries()) {
    throwIfAborted(signal);
    // Pictures are packed already; trying again costs time and saves nothing.
    const file = zipEntry(name, new Date(modified), ['picture', 'archive', 'sound'].includes(kindOf(path)));
    zip.add(file);
    file.push(await readBytes(folder, path), true);
    if (failure) throw failure;
    onProgress?.({ phase: 'Packing', done: i + 1, total: files.length, unit: 'files' });
  }
  zip.end();
  if (failure) throw failure;
  return new Blob(pieces, { type: 'application/zip' });
}
