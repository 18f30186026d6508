import { BlobReader, ZipReader, type Entry } from '@zip.js/zip.js';
import { PackError, SatchelError, reasonOf, throwIfAborted } from '../errors';
import type { WorkOptions } from '../progress';
import { linkNotice, safePackPath, tooManyFiles } from './bounds';
import { PACK_LIMITS, type PackEntry, type PackNotice } from './pack';

export const STORED = 0;

const DEFLATED = 8;

/** Unix file type bits in the upper half of the external attributes (PKWARE APPNOTE 4.4.15; POSIX sys/stat.h). */
const FILE_TYPE = 0xf000;

const SYMLINK = 0xa000;

/** Where an entry lies in the archive. `end` is where the next thing begins, so nothing can be read across it. */
export interface Slot extends PackEntry {
  offset: number;
  end: number;
  packed: number;
  method: number;
}

/** The last bytes of an archive, and where its end record begins in them. */
export interface EndRecord {
  view: DataView;
  at: number;
}

/** Finds the end record of a ZIP in the last 64 KiB (PKWARE APPNOTE 4.3.16); undefined where there is none. */
export async function findEndRecord(file: Blob): Promise<EndRecord | undefined> {
  const view = new DataView(await file.slice(Math.max(0, file.size - 65_557)).arrayBuffer());
  for (let at = view.byteLength - 22; at >= 0; at--) if (view.getUint32(at, true) === 0x06054b50) return { view, at };
  return undefined;
}

/**
 * How many entries the end of the archive promises, before a single one is read; where the number does not fit, its
 * ZIP64 form says it (APPNOTE 4.3.14, found by the locator 4.3.15). 0 where there is none.
 */
export async function statedEntries(file: Blob): Promise<number> {
  const end = await findEndRecord(file);
  if (!end) return 0;
  const { view, at } = end;
  const entries = view.getUint16(at + 10, true);
  if (entries !== 0xffff || at < 20 || view.getUint32(at - 20, true) !== 0x07064b50) return entries;
  const start = Number(view.getBigUint64(at - 12, true));
  const record = new DataView(await file.slice(start, start + 56).arrayBuffer());
  return record.byteLength >= 40 && record.getUint32(0, true) === 0x06064b50
    ? Number(record.getBigUint64(32, true))
    : entries;
}

export async function readDirectory(
  file: Blob,
  name: string,
  signal?: AbortSignal,
  onProgress?: WorkOptions['onProgress'],
): Promise<{ slots: Slot[]; links: PackNotice[] }> {
  const reader = new ZipReader(new BlobReader(file), { filenameValidation: 'tolerant' });
  const slots: Slot[] = [];
  const links: PackNotice[] = [];
  let encrypted = false;
  try {
    for await (const entry of reader.getEntriesGenerator({
      // Waited for at each entry.
      ...(onProgress && {
        onprogress: async (done, total) => {
          onProgress({ phase: 'Reading the list of contents', done, total, unit: 'files' });
          return undefined;
        },
      }),
    })) {
      throwIfAborted(signal);
      encrypted ||= entry.encrypted;
      const slot = toSlot(entry, name);
      if (slot && 'kind' in slot) links.push(slot);
      else if (slot) slots.push(slot);
      if (slots.length + links.length > PACK_LIMITS.entries) throw tooManyFiles(name);
    }
  } catch (error) {
    throw directoryError(error, name);
  }
  if (encrypted) throw new PackError('encrypted', { name });
  if (slots.length === 0) throw new PackError('no-files', { name });
  const inOrder = [...slots].sort((a, b) => a.offset - b.offset);
  inOrder.forEach((slot, i) => (slot.end = inOrder[i + 1]?.offset ?? file.size));
  return { slots, links };
}

/** The platform's own inflate cannot unpack this ZIP; the archive library may. */
export class OtherMethod extends Error {}

const isUtf8 = (bytes: Uint8Array): boolean => {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    // That it is none is the answer.
    return false;
  }
};

/** @returns for a link what is to be said of it */
function toSlot(entry: Entry, name: string): Slot | PackNotice | undefined {
  const raw = entry.filename;
  const bare = entry.directory ? raw.replace(/[\\/]+$/, '') : raw;
  // Some writers list the folder itself as "./".
  if (entry.directory && bare === '.') return undefined;
  // Bit 11 says UTF-8 (APPNOTE 4.4.4, appendix D); bytes that are none become replacement characters.
  if (entry.filenameUTF8 && raw.includes('\ufffd') && !isUtf8(entry.rawFilename))
    throw new PackError('unreadable-name', { name, path: raw });
  const path = safePackPath(bare, name);
  if (((entry.externalFileAttributes >>> 16) & FILE_TYPE) === SYMLINK) return linkNotice(path);
  if (entry.directory) return undefined;
  if (!entry.encrypted && entry.compressionMethod !== STORED && entry.compressionMethod !== DEFLATED)
    throw new OtherMethod();
  return {
    path,
    size: entry.uncompressedSize,
    crc32: entry.crc32,
    offset: entry.offset,
    end: 0,
    packed: entry.compressedSize,
    method: entry.compressionMethod,
  };
}

function directoryError(error: unknown, name: string): unknown {
  if (error instanceof SatchelError || error instanceof OtherMethod) return error;
  const message = reasonOf(error);
  if (/split zip/i.test(message))
    return new PackError('split-volume', { name, missing: 'the other parts' }, { cause: error });
  if (/encrypt/i.test(message)) return new PackError('encrypted', { name }, { cause: error });
  const why = /central directory|format/i.test(message)
    ? 'its list of contents at the end is missing or broken, as after a download that stopped early'
    : message;
  return new PackError('damaged', { name, why }, { cause: error });
}
