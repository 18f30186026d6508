import { LARGE, blobPasses } from '../bytes';
import { SatchelError } from '../errors';
import { readBytes, type Digest, type FileStat, type Folder } from '../folder';
import { crc32Of, crc32OfChunks, sha256, sha256OfChunks, sha256Stream } from '../hash';

export type Chunks = AsyncIterable<Uint8Array>;

/** All of a file: where it is large as a blob, which browsers keep outside of the program's own memory. */
export const fileContent = (folder: Folder, path: string, size: number): Promise<Blob | Uint8Array<ArrayBuffer>> =>
  size > LARGE ? folder.read(path) : readBytes(folder, path);

/** How to get a file's pieces, from its beginning each time, where it is large and the folder gives it so. */
export function piecesOf(folder: Folder, path: string, size: number): (() => Chunks) | undefined {
  return size > LARGE && folder.readChunks
    ? () => (folder.readChunks as NonNullable<Folder['readChunks']>)(path)
    : undefined;
}

/** The same of a blob. */
export const piecesOfBlob = (blob: Blob) => (): Chunks => blobPasses(blob);

/** One kind of digest: of a large file in pieces, of another at once, or as the folder tells it. */
interface DigestWay<T> {
  kind: Digest;
  ofChunks(chunks: Chunks): Promise<T>;
  of(data: Blob | Uint8Array<ArrayBuffer>): Promise<T>;
  fromHex(hex: string): T;
}
const SHA256: DigestWay<string> = { kind: 'sha256', ofChunks: sha256OfChunks, of: sha256, fromHex: (hex) => hex };
const CRC32: DigestWay<number> = {
  kind: 'crc32',
  ofChunks: crc32OfChunks,
  of: crc32Of,
  fromHex: (hex) => Number.parseInt(hex, 16),
};

/** SHA-256 of a file, however large; undefined where there is none. */
export const hashOfFile = (folder: Folder, path: string): Promise<string | undefined> =>
  digestOfFile(folder, path, SHA256);

/** CRC-32 of a file, however large; undefined where there is none. */
export const crc32OfFile = (folder: Folder, path: string): Promise<number | undefined> =>
  digestOfFile(folder, path, CRC32);

async function digestOfFile<T>(folder: Folder, path: string, way: DigestWay<T>): Promise<T | undefined> {
  if (folder.digests) {
    const [hex] = await folder.digests(way.kind, [path]);
    return hex === undefined ? undefined : way.fromHex(hex);
  }
  const stat = await folder.stat(path);
  if (!stat) return undefined;
  const pieces = piecesOf(folder, path, stat.size);
  return pieces ? way.ofChunks(pieces()) : way.of(await fileContent(folder, path, stat.size));
}

interface PiecesWritten {
  wanted?: string | undefined;
  write?: ((pieces: Chunks) => Promise<unknown>) | undefined;
}

/**
 * Writes a file that comes in pieces, for folders with `readChunks` and `writeChunks`, and reads it back.
 *
 * @param how.wanted its SHA-256, where that is known: nothing is written where the pieces have another
 * @param how.write how, where not by `writeChunks`
 * @returns the file and its SHA-256; undefined where it does not read back
 * @throws SatchelError `bad-memory` where it is not what is wanted; whatever the pieces and the folder throw
 */
export async function writePieces(
  folder: Folder,
  path: string,
  pieces: Chunks,
  { wanted, write = async (all) => folder.writeChunks?.(path, all) }: PiecesWritten = {},
): Promise<{ hash: string; stat: FileStat } | undefined> {
  const { update, digest } = await sha256Stream();
  let hash = '';
  async function* heard(): Chunks {
    for await (const piece of pieces) {
      update(piece);
      yield piece;
    }
    hash = digest();
    if (wanted !== undefined && hash !== wanted) throw new SatchelError('bad-memory', { what: 'a kept original' });
  }
  await write(heard());
  const stat = await folder.stat(path);
  return stat && (await hashOfFile(folder, path)) === hash ? { hash, stat } : undefined;
}
