import { z } from 'zod';
import type { PackPath } from '../paths/paths';

/** One file in a pack. Folders are not entries. */
export interface PackEntry {
  path: PackPath;
  /** Bytes once unpacked, as the archive states it; checked again when the entry is read. */
  size: number;
  /** CRC-32 of the unpacked bytes, where the archive states it. */
  crc32?: number;
}

/** Something worth knowing about a pack that does not stop it from being used. */
export const packNoticeSchema = z.object({
  kind: z.enum(['case-collision', 'odd-archive', 'archive-inside', 'link']),
  path: z.string().transform((path) => path as PackPath),
  says: z.string(),
});
export type PackNotice = z.infer<typeof packNoticeSchema>;

/** A file read out of a pack. The bytes belong to the caller. */
export interface PackFile {
  path: PackPath;
  data: Uint8Array<ArrayBuffer>;
  /** Its SHA-256, where whoever unpacked it has found it out on the way. */
  sha256?: string;
}

/** A file that comes out of a pack piece by piece. */
interface PackStream {
  path: PackPath;
  pieces: AsyncIterable<Uint8Array>;
}

/** What a pack was when it came. `folder` and `file` are downloads that were never packed. */
export const packFormatSchema = z.enum(['zip', '7z', 'rar', 'tar', 'folder', 'file']);
export type PackFormat = z.infer<typeof packFormatSchema>;

/** An opened pack: an index in memory and the archive itself, which is read again on demand. */
export interface Pack {
  name: string;
  format: PackFormat;
  entries: PackEntry[];
  notices: PackNotice[];
  /**
   * One whole file; its length and CRC-32 are checked.
   * @throws PackError `damaged` where the bytes are not what the index says, `unknown-thing` where there is no such
   * entry, `too-large-to-hold`
   */
  read(path: string): Promise<Uint8Array<ArrayBuffer>>;
  /** Set where the archive can be kept as it is: it is read piece by piece and needs no password and no other files. */
  archive?: Blob;
  /**
   * One file's bytes, piece by piece, for files too large to hold; checked like `read`: what is wrong is thrown before
   * the end.
   */
  chunks?(path: string): AsyncIterable<Uint8Array<ArrayBuffer>>;
  /**
   * All files in the order in which they lie in the archive, each piece by piece; for archives that are read from
   * their beginning to their end alone. The pieces of one are read to their end before the next file is asked for, and
   * do not last. Checked like `read`.
   */
  inOrder?(options?: { signal?: AbortSignal }): AsyncIterable<PackStream>;
  /**
   * The first bytes of files, without their checksums being checked; where it is missing, whole files have to be read.
   */
  peekMany?(paths: Iterable<string>, bytes: number, options?: { signal?: AbortSignal }): AsyncIterable<PackFile>;
  /** Many files, in the order in which they lie in the archive: much faster than one by one. */
  readMany(paths: Iterable<string>, options?: { signal?: AbortSignal }): AsyncIterable<PackFile>;
}

/** What it takes to get at a pack's files. */
export type PackReader = Pick<Pack, 'read' | 'readMany' | 'chunks'>;

/** Bounds that hold before anything is unpacked. */
export const PACK_LIMITS = {
  entries: 2_000_000,
  /** Bytes of one file once unpacked that is read as a whole: a larger one is read piece by piece or not at all. */
  wholeSize: 1024 ** 3,
  /** Bytes of all files once unpacked. Packs of textures have tens of gigabytes. */
  totalSize: 256 * 1024 ** 3,
  /** Unpacked to packed; deflate itself cannot pass about 1,032. Only looked at above `ratioFrom` bytes. */
  ratio: 400,
  ratioFrom: 256 * 1024 ** 2,
} as const;
