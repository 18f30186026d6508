import { blobChunks } from '../bytes';
import { throwIfAborted } from '../errors';
import type { WorkOptions } from '../progress';
import type { Pack, PackFile } from './pack';
import type { PackPath } from '../paths/paths';

/**
 * The path that stands for the archive itself, for packs that go into a game unopened. No file of a pack has an empty
 * path.
 */
export const WHOLE = '' as PackPath;

/** The pack with its archive as one more file to read, under `WHOLE`. It is not among the entries. */
export function withWhole(pack: Pack, archive: Blob): Pack {
  const whole = async () => new Uint8Array(await archive.arrayBuffer());
  return {
    ...pack,
    read: async (path) => (path === WHOLE ? whole() : pack.read(path)),
    ...(pack.chunks
      ? {
          chunks: (path: string) =>
            path === WHOLE ? blobChunks(archive) : (pack.chunks as NonNullable<Pack['chunks']>)(path),
        }
      : {}),
    readMany: async function* (paths: Iterable<string>, options: WorkOptions = {}): AsyncGenerator<PackFile> {
      const inside: string[] = [];
      for (const path of paths) {
        throwIfAborted(options.signal);
        if (path === WHOLE) yield { path: WHOLE, data: await whole() };
        else inside.push(path);
      }
      if (inside.length > 0) yield* pack.readMany(inside, options);
    },
  };
}
