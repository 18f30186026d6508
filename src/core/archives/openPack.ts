import { PackError } from '../errors';
import type { WorkOptions } from '../progress';
import type { Pack } from './pack';
import { openZip } from './zip';

/** Signatures at the start of files that players download; only the ones we can name something about. */
const SIGNATURES: { format: string; bytes: number[]; at?: number }[] = [
  { format: 'zip', bytes: [0x50, 0x4b, 0x03, 0x04] },
  { format: 'zip', bytes: [0x50, 0x4b, 0x05, 0x06] },
  { format: 'split zip', bytes: [0x50, 0x4b, 0x07, 0x08] },
  { format: '7z', bytes: [0x37, 0x7a, 0xbc, 0xaf, 0x27, 0x1c] },
  { format: 'RAR', bytes: [0x52, 0x61, 0x72, 0x21, 0x1a, 0x07] },
  { format: 'gzip', bytes: [0x1f, 0x8b] },
  { format: 'bzip2', bytes: [0x42, 0x5a, 0x68] },
  { format: 'xz', bytes: [0xfd, 0x37, 0x7a, 0x58, 0x5a, 0x00] },
  { format: 'zstd', bytes: [0x28, 0xb5, 0x2f, 0xfd] },
  { format: 'tar', bytes: [0x75, 0x73, 0x74, 0x61, 0x72], at: 257 },
];

const PART_NAME = /\.(z\d\d|zip\.\d{3}|7z\.\d{3}|part\d+\.rar|r\d\d)$/i;

/**
 * Opens a pack: recognises its format by its bytes, reads its index, checks every name and size.
 * Nothing is unpacked yet and nothing is run.
 *
 * @param file the archive; it is read in windows, never as a whole
 * @param name the file's name, for messages
 * @throws PackError with one of the codes `empty`, `not-an-archive`, `unsupported`, `damaged`, `encrypted`,
 *   `split-volume`, `unsafe-path`, `too-large`; SatchelError `cancelled` when the signal says so
 */
export async function openPack(file: Blob, name: string, options: WorkOptions = {}): Promise<Pack> {
  if (file.size === 0) throw new PackError('empty', { name });
  if (PART_NAME.test(name)) throw new PackError('split-volume', { name });
  const head = new Uint8Array(await file.slice(0, 512).arrayBuffer());
  const format = SIGNATURES.find(({ bytes, at = 0 }) => bytes.every((byte, i) => head[at + i] === byte))?.format;
  if (format === 'split zip') throw new PackError('split-volume', { name });
  if (format === 'zip') return openZip(file, name, options);
  if (format) throw new PackError('unsupported', { name, why: `${format} archives` });
  // A ZIP may begin with something else, for instance a small program that unpacks it.
  if (await endsLikeZip(file)) return openZip(file, name, options);
  throw new PackError('not-an-archive', { name });
}

/** Looks for the "end of central directory" signature (PKWARE APPNOTE 4.3.16) in the last 64 KiB. */
async function endsLikeZip(file: Blob): Promise<boolean> {
  const tail = new Uint8Array(await file.slice(Math.max(0, file.size - 65_557)).arrayBuffer());
  for (let i = tail.length - 22; i >= 0; i--) {
    if (tail[i] === 0x50 && tail[i + 1] === 0x4b && tail[i + 2] === 0x05 && tail[i + 3] === 0x06) return true;
  }
  return false;
}
