import { blobChunks } from '../bytes';
import { PackError, SatchelError, throwIfAborted } from '../errors';
import type { PackPath } from '../paths/paths';
import type { WorkOptions } from '../progress';
import { boundAndCompare, checkWhole, safePackPath } from './bounds';
import type { Pack, PackEntry, PackFile, PackFormat } from './pack';

/** A file that was never packed. */
export interface LooseFile {
  /** Path inside the dropped folder, or the file's own name. */
  path: string;
  data: Blob;
}

/**
 * A pack made of files as they are: a dropped folder, or files chosen together.
 *
 * @throws PackError `no-files`, `unsafe-path`, `too-large`
 */
export function packOfFiles(files: readonly LooseFile[], name: string, format: PackFormat = 'folder'): Pack {
  if (files.length === 0) throw new PackError('no-files', { name });
  const byName = new Map(files.map(({ path, data }) => [safePackPath(path, name), data]));
  const entries: PackEntry[] = [...byName].map(([path, { size }]) => ({ path, size }));
  const total = entries.reduce((sum, { size }) => sum + size, 0);
  const dataOf = (path: string): Blob => {
    const data = byName.get(path as PackPath);
    if (!data) throw new SatchelError('unknown-thing', { what: `file “${path}” in “${name}”` });
    return data;
  };
  const readMany = async function* (paths: Iterable<string>, { signal }: WorkOptions = {}): AsyncGenerator<PackFile> {
    for (const path of paths) {
      throwIfAborted(signal);
      const entry = { path: path as PackPath, size: dataOf(path).size };
      checkWhole(entry, name);
      yield { path: entry.path, data: new Uint8Array(await dataOf(path).arrayBuffer()) };
    }
  };
  return {
    name,
    format,
    entries,
    readMany,
    chunks: (path) => blobChunks(dataOf(path)),
    notices: boundAndCompare(entries, total, name),
    read: async (path) => {
      for await (const { data } of readMany([path])) return data;
      throw new SatchelError('unexpected', { why: 'a file gave nothing' });
    },
  };
}

/** A pack of one file. */
export const singleFilePack = (data: Blob, path: string, name = path): Pack =>
  packOfFiles([{ path, data }], name, 'file');
