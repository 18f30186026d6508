import { sameBytes } from './bytes';

/** One file of a folder. */
export interface FileStat {
  /** Relative to the folder, `/`-separated, spelled as the folder spells it. */
  path: string;
  /** Bytes. */
  size: number;
  /** Milliseconds since 1970-01-01 UTC. */
  modified: number;
  /** Known to be read-only; left out where it is not, or where that cannot be known. */
  readOnly?: true | undefined;
  /** Which file it is and when it was last written to, as sharply as the disk tells; for folders that know. */
  version?: string | undefined;
}

/** Is it the same file, as far as a look at it tells? */
export const sameStat = (a: FileStat, b: FileStat): boolean =>
  a.path === b.path && a.size === b.size && a.modified === b.modified && a.readOnly === b.readOnly;

export interface ChangesAsked {
  /** Every file is looked at, whatever was known. */
  anew?: boolean;
  /** Told how many files were looked at so far, where that takes long. */
  onLooked?: ((files: number) => void) | undefined;
  signal?: AbortSignal | undefined;
}

/** What is otherwise in a folder than at an earlier look. */
export interface FolderChanges {
  /** To be said the next time. */
  now: string;
  /** Everything is told, since nothing of the earlier look is known any more. */
  whole: boolean;
  /** Folders inside in which something is otherwise ('' for the folder itself), each with all files directly in it. */
  folders: readonly { path: string; files: readonly FileStat[] }[];
  /** Folders that are there no more, those inside them included. */
  gone: readonly string[];
  /** All links, as `list` tells them. */
  links: readonly string[];
}

/** A version of a file that may go, since its bytes are kept. */
export interface Gone {
  /** Bytes. */
  size: number;
  sha256: string;
  /** Date and version under which it was read; not there where a later one could bear the same. */
  modified?: number;
  version?: string;
}

/**
 * The one interface that carries all writing. Adapters live in src/folders and pass one contract test.
 * Paths are relative, `/`-separated and already checked by `checkPath`.
 * Failures are `SatchelError`s with the codes `folder-refused`, `folder-permission` or, for `read`,
 * `folder-missing-file`.
 */
export interface Folder {
  /**
   * All files, in no promised order; with `under`, only those inside that folder.
   *
   * @param onLink told of each link that is not listed as a file: one to a folder, which would show everything twice,
   * or one that leads
   *   nowhere or out
   */
  list(under?: string, onLink?: (path: string) => void): AsyncIterable<FileStat>;
  /**
   * What has come, gone or been written since an earlier look, for folders that can tell it without listing everything
   * anew: names at once, what was written in place as soon as it is come upon. Undefined where it cannot be told:
   * `list` does then.
   *
   * @param since `now` of the earlier look; everything is told where that is undefined or not known any more
   */
  changes?(since: string | undefined, how?: ChangesAsked): Promise<FolderChanges | undefined>;
  stat(path: string): Promise<FileStat | undefined>;
  /** Many at once, in the order asked for, for folders that are far away. */
  stats?(paths: readonly string[]): Promise<(FileStat | undefined)[]>;
  read(path: string): Promise<Blob>;
  /** The whole file or nothing: a reader never sees half of it. Makes the folders above it. */
  write(path: string, data: Blob | Uint8Array): Promise<void>;
  /** The same as `read`, for folders that have the bytes at hand: a Blob costs a browser about a millisecond. */
  readBytes?(path: string): Promise<Uint8Array<ArrayBuffer>>;
  /** A file's bytes, piece by piece, for folders that can give them so. A piece lasts until the next is asked for. */
  readChunks?(path: string): AsyncIterable<Uint8Array>;
  /** The same as `write`, of bytes that come piece by piece: nothing is written where they break off with an error. */
  writeChunks?(path: string, chunks: AsyncIterable<Uint8Array>): Promise<void>;
  /** What `readsBack` tells, for folders that can do it without handing the bytes out. */
  holds?(path: string, bytes: Uint8Array): Promise<FileStat | undefined>;
  /** A file and, unless it is large, its SHA-256 (hex); for folders that need not hand the bytes out for that. */
  statAndHash?(path: string): Promise<Hashed | undefined>;
  /** `write` and `readsBack` in one, for folders where that is cheaper. */
  writeAndReadBack?(path: string, bytes: Uint8Array): Promise<FileStat | undefined>;
  /**
   * Puts bytes in the place of a file, or takes it away, so that no other version goes than the expected one: the old
   * file is moved aside, looked at, and put back where it is another one. For folders that can move files.
   *
   * @param gone the version that may go; undefined where there must be no file
   * @returns what was written; of bytes that come at once: undefined where it does not read back
   * @throws SatchelError `changed-meanwhile`
   */
  swap?(
    path: string,
    put: Uint8Array | AsyncIterable<Uint8Array> | undefined,
    gone: Gone | undefined,
  ): Promise<FileStat | undefined>;
  /**
   * Ends what a `swap` that was cut off has left: the file that was moved aside gets its name back, where nothing is
   * there.
   *
   * @param keep where something is: keeps the bytes of the one that was moved aside, and says under which name in which
   * folder it is
   *   to be watched, which is the only one it has then
   */
  endSwap?(
    path: string,
    keep: (size: number, pieces: () => AsyncIterable<Uint8Array>) => Promise<{ to: Folder; name: string }>,
  ): Promise<void>;
  /** Removes what an ended process had begun to write directly in a folder. */
  tidy?(path: string): Promise<void>;
  /** Removing what is not there is not an error. */
  remove(path: string): Promise<void>;
  /** Is there a folder of that name, be it empty? Only for adapters whose folders are there without files. */
  hasFolder?(path: string): Promise<boolean>;
  /** Removes an empty folder. @returns true where it is gone, false where it holds something or cannot go */
  removeFolder?(path: string): Promise<boolean>;
  /**
   * Checksums of many files at once, for folders that are far away: in the order asked for, in hex, undefined where a
   * file is missing.
   */
  digests?(kind: Digest, paths: readonly string[]): Promise<(string | undefined)[]>;
  /**
   * Gives a file a second name in another folder, without copying. With `sole`, only a file that has no other name yet,
   * so that nobody can write to it by a third one, and that is not read-only, so that the name can be taken away again.
   *
   * @returns what stands under the second name; undefined where that cannot be, or where there is something of that
   * name
   */
  link?(path: string, to: Folder, toPath: string, sole?: boolean): Promise<FileStat | undefined>;
  /**
   * Makes a copy of a file under a name in another folder, sharing the bytes on the disk where it can do that.
   *
   * @returns false where that cannot be, or where there is something of that name
   */
  copy?(path: string, to: Folder, toPath: string): Promise<boolean>;
  /**
   * Gives a file, or a folder with all that is in it, another name in this folder instead of its own; false where there
   * is something of that name. For folders that have `link`.
   */
  move?(path: string, toPath: string): Promise<boolean>;
  /**
   * Returns when everything written so far would outlive a power cut; missing where writes wait for that themselves.
   */
  settle?(): Promise<void>;
  /** Bytes that can still be written, where that can be known. Folders on one disk give the same `disk`. */
  room?(): Promise<Room | undefined>;
}

export interface Hashed {
  stat: FileStat;
  sha256?: string;
}

export type Digest = 'crc32' | 'sha256';

/** Room left on what a folder lies on. */
export interface Room {
  disk: string;
  /** Bytes. */
  left: number;
}

/**
 * Does a file of a folder hold these very bytes, and no more? They are read anew.
 *
 * @returns the file, or undefined where it does not
 */
export async function readsBack(folder: Folder, path: string, bytes: Uint8Array): Promise<FileStat | undefined> {
  if (folder.holds) return folder.holds(path, bytes);
  const stat = await folder.stat(path);
  return stat?.size === bytes.length && sameBytes(await readBytes(folder, path), bytes) ? stat : undefined;
}

/** Writes a file and reads it anew. @returns the file, or undefined where it does not hold these bytes */
export async function writeAndReadBack(folder: Folder, path: string, bytes: Uint8Array): Promise<FileStat | undefined> {
  if (folder.writeAndReadBack) return folder.writeAndReadBack(path, bytes);
  await folder.write(path, bytes);
  return readsBack(folder, path, bytes);
}

/** A file of a folder, with its SHA-256 where the folder can tell it. */
export async function statAndHash(folder: Folder, path: string): Promise<Hashed | undefined> {
  if (folder.statAndHash) return folder.statAndHash(path);
  const stat = await folder.stat(path);
  return stat && { stat };
}

/** All bytes of one file of a folder. */
export async function readBytes(folder: Folder, path: string): Promise<Uint8Array<ArrayBuffer>> {
  return folder.readBytes ? folder.readBytes(path) : new Uint8Array(await (await folder.read(path)).arrayBuffer());
}
