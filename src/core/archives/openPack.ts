import { blobStore } from '../bytes';
import { PackError, SatchelError, throwIfAborted } from '../errors';
import type { WorkOptions } from '../progress';
import { openForeign, unpackStream } from './foreign';
import { singleFilePack } from './loose';
import type { Pack, PackFormat } from './pack';
import type { ArchivePart } from './unpacker';
import { missingPart, volumeOf } from './volumes';
import { openZip } from './zip';
import { OtherMethod, findEndRecord } from './zipDirectory';

interface Signature {
  /** As the archive library names it. */
  type: string;
  format: PackFormat | 'stream';
  bytes: number[];
  at?: number;
}

/**
 * What archives begin with. Sources: PKWARE APPNOTE 4.3; 7zFormat.txt; RAR technote; RFC 1952; bzip2 and xz file
 * formats; RFC 8878; POSIX ustar.
 */
const SIGNATURES: Signature[] = [
  { type: 'zip', format: 'zip', bytes: [0x50, 0x4b, 0x03, 0x04] },
  { type: 'zip', format: 'zip', bytes: [0x50, 0x4b, 0x05, 0x06] },
  { type: 'split zip', format: 'zip', bytes: [0x50, 0x4b, 0x07, 0x08] },
  { type: '7z', format: '7z', bytes: [0x37, 0x7a, 0xbc, 0xaf, 0x27, 0x1c] },
  { type: 'rar5', format: 'rar', bytes: [0x52, 0x61, 0x72, 0x21, 0x1a, 0x07, 0x01, 0x00] },
  { type: 'rar', format: 'rar', bytes: [0x52, 0x61, 0x72, 0x21, 0x1a, 0x07, 0x00] },
  { type: 'gzip', format: 'stream', bytes: [0x1f, 0x8b] },
  { type: 'bzip2', format: 'stream', bytes: [0x42, 0x5a, 0x68] },
  { type: 'xz', format: 'stream', bytes: [0xfd, 0x37, 0x7a, 0x58, 0x5a, 0x00] },
  { type: 'zstd', format: 'stream', bytes: [0x28, 0xb5, 0x2f, 0xfd] },
  { type: 'tar', format: 'tar', bytes: [0x75, 0x73, 0x74, 0x61, 0x72], at: 257 },
];

export interface OpenPackOptions extends WorkOptions {
  /** For packs that are locked with one. */
  password?: string;
  /** The further volumes of a split download, in their order. */
  moreParts?: readonly ArchivePart[];
}

/**
 * Opens a pack: recognises its format by its bytes, reads its index, checks every name and size. Nothing is kept yet
 * and nothing is run. ZIPs are read by their central directory alone; of 7z and RAR the listing is read, of tar with
 * gz, bz2, xz or zst the stream is unpacked once.
 *
 * @param file the archive, or its first volume
 * @param name the file's name, for messages
 * @throws PackError with one of the codes `empty`, `no-files`, `not-an-archive`, `unsupported`, `damaged`, `encrypted`,
 *   `wrong-password`, `split-volume`, `unsafe-path`, `unreadable-name`, `too-large`; SatchelError `cancelled` when the
 * signal
 *   says so
 */
export async function openPack(file: Blob, name: string, options: OpenPackOptions = {}): Promise<Pack> {
  const { moreParts = [] } = options;
  if (file.size === 0) throw new PackError('empty', { name });
  const parts: ArchivePart[] = [{ name, data: file }, ...moreParts];
  const volume = volumeOf(name) ?? moreParts.map((part) => volumeOf(part.name)).find(Boolean);
  if (volume) {
    const missing = missingPart(parts);
    if (missing) throw new PackError('split-volume', { name, missing: `“${missing}”` });
    if (volume.kind === 'bytes') {
      const whole = blobStore().join(parts.map(({ data }) => data));
      try {
        return await openWhole(whole, name.replace(/\.\d{3}$/, ''), [{ name: 'joined', data: whole }], options);
      } catch (error) {
        // The end of a 7z and of a ZIP is where its index is: a missing last part looks like damage.
        if (error instanceof PackError && error.code === 'damaged')
          throw new PackError(
            'split-volume',
            { name, missing: `the part after “${parts.at(-1)?.name}”` },
            { cause: error },
          );
        throw error;
      }
    }
  }
  return openWhole(file, name, parts, options);
}

async function openWhole(file: Blob, name: string, parts: ArchivePart[], options: OpenPackOptions): Promise<Pack> {
  throwIfAborted(options.signal);
  const head = new Uint8Array(await file.slice(0, 512).arrayBuffer());
  const found = SIGNATURES.find(({ bytes, at = 0 }) => bytes.every((byte, i) => head[at + i] === byte));
  const foreign = (type: string, format: PackFormat) =>
    openForeign(
      { parts, type, ...(options.password === undefined ? {} : { password: options.password }) },
      name,
      format,
      options,
    );
  if (!found) {
    // A ZIP may begin with something else, for instance a small program that unpacks it.
    if (await findEndRecord(file)) return openZipAnyhow(file, name, foreign, options);
    throw new PackError('not-an-archive', { name });
  }
  if (found.format === 'stream') return openStream(file, name, found.type, options);
  if (found.format !== 'zip') return foreign(found.type, found.format);
  if (parts.length > 1) return foreign('zip', 'zip');
  if (found.type === 'split zip') throw new PackError('split-volume', { name, missing: 'the rest of it' });
  return openZipAnyhow(file, name, foreign, options);
}

/** By the platform's own inflate where that will do, else by the archive library. */
async function openZipAnyhow(
  file: Blob,
  name: string,
  foreign: (type: string, format: PackFormat) => Promise<Pack>,
  options: OpenPackOptions,
): Promise<Pack> {
  try {
    return await openZip(file, name, options);
  } catch (error) {
    const locked = error instanceof SatchelError && error.code === 'encrypted' && options.password !== undefined;
    if (locked || error instanceof OtherMethod) return foreign('zip', 'zip');
    throw error;
  }
}

async function openStream(file: Blob, name: string, type: string, options: OpenPackOptions): Promise<Pack> {
  const inside = name.replace(/\.(gz|bz2|xz|zst)$/i, '').replace(/\.t(gz|bz2?|xz|zst)$/i, '.tar');
  const unpacked = await unpackStream({ parts: [{ name, data: file }], type }, name, options);
  if (unpacked.size === 0) throw new PackError('no-files', { name });
  const head = new Uint8Array(await unpacked.slice(257, 262).arrayBuffer());
  if (String.fromCharCode(...head) === 'ustar' || /\.tar$/i.test(inside))
    return openForeign({ parts: [{ name: inside, data: unpacked }], type: 'tar' }, name, 'tar', options);
  return singleFilePack(unpacked, inside === name ? `${name}.unpacked` : inside, name);
}
