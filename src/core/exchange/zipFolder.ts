import { makeZip } from 'client-zip';
import { gatherBlob } from '../bytes';
import { fileContent } from '../deploy/large';
import { throwIfAborted } from '../errors';
import type { Folder } from '../folder';
import { byPath, joinPath } from '../paths/paths';
import type { WorkOptions } from '../progress';

/**
 * Writes folders into one ZIP without packing, each under its own name, files in order of their paths. Dates are kept.
 * ZIP64 (PKWARE APPNOTE 4.3.14) where numbers or sizes ask for it.
 */
export async function zipFolder(
  folders: Readonly<Record<string, Folder>>,
  { signal, onProgress }: WorkOptions = {},
): Promise<Blob> {
  const files: { name: string; folder: Folder; path: string; size: number; modified: number }[] = [];
  for (const [root, folder] of Object.entries(folders))
    for await (const { path, size, modified } of folder.list())
      files.push({ name: joinPath(root, path), folder, path, size, modified });
  files.sort((a, b) => byPath(a.name, b.name));
  const entries = async function* () {
    for (const [i, { name, folder, path, size, modified }] of files.entries()) {
      throwIfAborted(signal);
      yield { name, input: await fileContent(folder, path, size), lastModified: new Date(modified) };
      onProgress?.({ phase: 'Packing', done: i + 1, total: files.length, unit: 'files' });
    }
  };
  return gatherBlob(makeZip(entries()), 'application/zip');
}
