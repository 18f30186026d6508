import { LARGE } from '../bytes';
import { throwIfAborted } from '../errors';
import type { PackEntry, PackFile, PackReader } from './pack';

/** A large file of a pack, as often as it is asked for from its beginning. */
export interface LargeFile {
  path: string;
  pieces: () => AsyncIterable<Uint8Array<ArrayBuffer>>;
}

/** Is a file too large to be held as a whole? */
export const isLarge = ({ size }: Pick<PackEntry, 'size'>): boolean => size > LARGE;

/**
 * What is in files of a pack: the small ones whole, in the order in which they lie in it, and then the large ones in
 * pieces, where the pack gives them so.
 *
 * @param large which ones go in pieces
 * @throws as `Pack.readMany` and `Pack.chunks`
 */
export async function* contentsOf<T extends { path: string }>(
  pack: PackReader,
  files: Iterable<T>,
  large: (file: T) => boolean,
  signal?: AbortSignal,
): AsyncGenerator<PackFile | LargeFile> {
  const { chunks } = pack;
  const whole: string[] = [];
  const inPieces: string[] = [];
  for (const file of files) (chunks && large(file) ? inPieces : whole).push(file.path);
  for await (const file of pack.readMany(whole, signal ? { signal } : {})) {
    throwIfAborted(signal);
    yield file;
  }
  for (const path of chunks ? inPieces : []) {
    throwIfAborted(signal);
    yield { path, pieces: () => (chunks as NonNullable<typeof chunks>)(path) };
  }
}
