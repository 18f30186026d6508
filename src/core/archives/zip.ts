import { BlobReader, ZipReader, configure, type Entry } from '@zip.js/zip.js';
import { PackError, SatchelError, reasonOf, throwIfAborted } from '../errors';
import { blobChunks, blobRange, streamChunks } from '../bytes';
import { crc32Function, crc32Stream } from '../hash';
import type { WorkOptions } from '../progress';
import { boundAndCompare, linkNotice, safePackPath, tooManyFiles } from './bounds';
import { PACK_LIMITS, type Pack, type PackEntry, type PackFile, type PackNotice } from './pack';

configure({ useWebWorkers: false });

/** Bytes of the archive held at a time while many files are read. */
const WINDOW = 4 * 1024 * 1024;
/** Entries that are unpacked at a time, */
const AHEAD = 16;
/** and bytes that they may come to: a small archive can claim much. One that is larger is unpacked by itself. */
const MOST_AHEAD = 32 * 1024 * 1024;
/** A local header is never longer (APPNOTE 4.3.7): what lies between it and the next entry may be padding of any length. */
const LONGEST_HEADER = 30 + 2 * 0xffff;
const STORED = 0;
const DEFLATED = 8;
/** Unix file type bits in the upper half of the external attributes (PKWARE APPNOTE 4.4.15; POSIX sys/stat.h). */
const FILE_TYPE = 0xf000;
const SYMLINK = 0xa000;

/** Where an entry lies in the archive. `end` is where the next thing begins, so nothing can be read across it. */
interface Slot extends PackEntry {
  offset: number;
  end: number;
  packed: number;
  method: number;
}

/** Opens a ZIP (PKWARE APPNOTE 6.3.x) by its central directory alone. */
export async function openZip(file: Blob, name: string, { signal, onProgress, largeFiles }: WorkOptions & { largeFiles?: boolean }): Promise<Pack> {
  if ((await statedEntries(file)) > PACK_LIMITS.entries) throw tooManyFiles(name);
  const { slots, links } = await readDirectory(file, name, signal, onProgress);
  const notices = boundAndCompare(slots, file.size, name, largeFiles ? PACK_LIMITS.totalSize : undefined);
  notices.push(...links);
  if (slots.reduce((sum, { packed }) => sum + packed, 0) > file.size) throw new PackError('damaged', { name, why: 'its parts overlap' });
  const bySlotPath = new Map(slots.map((slot) => [slot.path as string, slot]));
  const crc32 = await crc32Function();

  const slotOf = (path: string): Slot => {
    const slot = bySlotPath.get(path);
    if (!slot) throw new SatchelError('unknown-thing', { what: `file “${path}” in “${name}”` });
    return slot;
  };
  const damagedAt = (slot: Slot) => (why: string) => new PackError('damaged', { name, why: `“${slot.path}” ${why}` });
  /** Where an entry's packed bytes begin in the archive. @param window that holds its local header */
  const startOf = (slot: Slot, window: Uint8Array, windowStart: number): number => {
    const damaged = damagedAt(slot);
    const at = slot.offset - windowStart;
    const view = new DataView(window.buffer, window.byteOffset, window.byteLength);
    // Local file header, APPNOTE 4.3.7: signature, then lengths of name and extra field at 26 and 28.
    if (at + 30 > window.length || view.getUint32(at, true) !== 0x04034b50) throw damaged('does not begin where the list of contents says');
    const start = slot.offset + 30 + view.getUint16(at + 26, true) + view.getUint16(at + 28, true);
    if (start + slot.packed > slot.end) throw damaged('is cut off');
    return start;
  };
  const packedBytes = (slot: Slot, window: Uint8Array<ArrayBuffer>, windowStart: number): Uint8Array<ArrayBuffer> => {
    const start = startOf(slot, window, windowStart) - windowStart;
    if (start + slot.packed > window.length) throw damagedAt(slot)('is cut off');
    return window.subarray(start, start + slot.packed);
  };
  const unpack = async (slot: Slot, window: Uint8Array<ArrayBuffer>, windowStart: number): Promise<Uint8Array<ArrayBuffer>> => {
    const damaged = damagedAt(slot);
    const packed = packedBytes(slot, window, windowStart);
    const data = slot.method === STORED ? packed.slice() : await inflate(packed, slot.size).catch((error: unknown) => Promise.reject(damaged(`cannot be unpacked (${reasonOf(error)})`)));
    if (data.length !== slot.size) throw damaged('is not as long as the list of contents says');
    if (slot.crc32 !== undefined && crc32(data) !== slot.crc32) throw damaged('has a wrong checksum');
    return data;
  };
  const chunks = async function* (path: string): AsyncGenerator<Uint8Array<ArrayBuffer>> {
    const slot = slotOf(path);
    const start = startOf(slot, new Uint8Array(await file.slice(slot.offset, slot.offset + 30).arrayBuffer()), slot.offset);
    const packed = file.slice(start, start + slot.packed);
    const check = await crc32Stream();
    let size = 0;
    try {
      for await (const chunk of slot.method === STORED ? blobChunks(packed) : inflateChunks(blobChunks(packed))) {
        size += chunk.length;
        if (size > slot.size) throw new Error('it is longer than the list of contents says');
        check.update(chunk);
        yield chunk;
      }
    } catch (error) {
      throw damagedAt(slot)(`cannot be unpacked (${reasonOf(error)})`);
    }
    if (size !== slot.size) throw damagedAt(slot)('is not as long as the list of contents says');
    if (slot.crc32 !== undefined && check.digest() !== slot.crc32) throw damagedAt(slot)('has a wrong checksum');
  };

  const readMany = (paths: Iterable<string>, options: { signal?: AbortSignal } = {}): AsyncGenerator<PackFile> => readWindows(paths, options, ({ size }) => size, unpack);
  const peekMany = (paths: Iterable<string>, bytes: number, options: { signal?: AbortSignal } = {}): AsyncGenerator<PackFile> =>
    readWindows(paths, options, ({ size }) => Math.min(size, bytes), async (slot, window, windowStart) => {
      const packed = packedBytes(slot, window, windowStart);
      return slot.method === STORED ? packed.slice(0, bytes) : inflateHead(packed, Math.min(bytes, slot.size));
    });

  const readWindows = async function* (paths: Iterable<string>, options: { signal?: AbortSignal }, most: (slot: Slot) => number, read: typeof unpack): AsyncGenerator<PackFile> {
    const wanted = Array.from(paths, slotOf).sort((a, b) => a.offset - b.offset);
    const endOf = (slot: Slot) => Math.min(slot.end, slot.offset + LONGEST_HEADER + slot.packed);
    let spent: Uint8Array<ArrayBuffer> | undefined;
    for (let first = 0; first < wanted.length; ) {
      throwIfAborted(options.signal);
      const start = (wanted[first] as Slot).offset;
      let last = first;
      while (last + 1 < wanted.length && endOf(wanted[last + 1] as Slot) - start <= WINDOW) last++;
      const window = await blobRange(file, start, endOf(wanted[last] as Slot), spent);
      const ahead: Promise<PackFile>[] = [];
      let bytesAhead = 0;
      const begin = (slot: Slot) => {
        bytesAhead += most(slot);
        const file = read(slot, window, start).then((data) => ({ path: slot.path, data }));
        // Awaited below, unless an earlier one fails or the reader has enough.
        file.catch(() => undefined);
        ahead.push(file);
      };
      for (let next = first; first <= last; first++) {
        throwIfAborted(options.signal);
        const fits = () => ahead.length === 0 || (ahead.length < AHEAD && bytesAhead + most(wanted[next] as Slot) <= MOST_AHEAD);
        while (next <= last && fits()) begin(wanted[next++] as Slot);
        const unpacked = (await ahead.shift()) as PackFile;
        bytesAhead -= most(wanted[first] as Slot);
        yield unpacked;
      }
      spent = window;
    }
  };

  return {
    name,
    format: 'zip',
    entries: slots.map(({ path, size, crc32 }) => ({ path, size, ...(crc32 === undefined ? {} : { crc32 }) })),
    notices,
    archive: file,
    readMany,
    peekMany,
    chunks,
    read: async (path) => {
      for await (const { data } of readMany([path])) return data;
      throw new SatchelError('unexpected', { why: 'an archive entry gave nothing' });
    },
  };
}

/**
 * Inflates raw deflate data (RFC 1951) into a buffer of exactly the stated size: a lying header cannot make it grow.
 * Throws where the data is broken, goes on after its end, or gives another size.
 */
export type Inflater = (packed: Uint8Array<ArrayBuffer>, size: number) => Promise<Uint8Array<ArrayBuffer>>;

/**
 * By the platform's own inflate, several entries at a time: measured here over twice as fast as one in JavaScript
 * (docs/decisions/005).
 */
let inflate: Inflater = inflateByStream;

/** The app's own server has a quicker one. */
export function setInflater(inflater: Inflater): void {
  inflate = inflater;
}

export async function inflateByStream(packed: Uint8Array<ArrayBuffer>, size: number): Promise<Uint8Array<ArrayBuffer>> {
  const stream = new DecompressionStream('deflate-raw');
  const writer = stream.writable.getWriter();
  // Failures show on the reading side as well; here they must only not go unheard.
  writer.write(packed).catch(() => undefined);
  writer.close().catch(() => undefined);
  const reader = stream.readable.getReader();
  const room = new Uint8Array(size);
  let filled = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    if (filled + value.length > size) {
      void reader.cancel().catch(() => undefined);
      throw new Error('it is longer than the list of contents says');
    }
    room.set(value, filled);
    filled += value.length;
  }
  if (filled !== size) throw new Error('it is shorter than the list of contents says');
  return room;
}

/** Inflates piece by piece; no further piece is read before the last has gone in. */
async function* inflateChunks(packed: AsyncIterable<Uint8Array<ArrayBuffer>>): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  const stream = new DecompressionStream('deflate-raw');
  const writer = stream.writable.getWriter();
  const feed = async () => {
    for await (const piece of packed) await writer.write(piece);
    await writer.close();
  };
  // What goes wrong there shows on the reading side.
  feed().catch((error: unknown) => writer.abort(error).catch(() => undefined));
  yield* streamChunks(stream.readable);
}

/** The first bytes that come out; fewer where it breaks off. */
async function inflateHead(packed: Uint8Array<ArrayBuffer>, wanted: number): Promise<Uint8Array<ArrayBuffer>> {
  const stream = new DecompressionStream('deflate-raw');
  const writer = stream.writable.getWriter();
  writer.write(packed).catch(() => undefined);
  writer.close().catch(() => undefined);
  const reader = stream.readable.getReader();
  const room = new Uint8Array(wanted);
  let filled = 0;
  try {
    while (filled < wanted) {
      const { done, value } = await reader.read();
      if (done) break;
      room.set(value.subarray(0, wanted - filled), filled);
      filled += Math.min(value.length, wanted - filled);
    }
  } catch {
    // What came out before it broke is all there is to see.
  }
  void reader.cancel().catch(() => undefined);
  return room.subarray(0, Math.min(filled, wanted));
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
 * How many entries the end of the archive promises, before a single one is read; where the number does not fit, its ZIP64
 * form says it (APPNOTE 4.3.14, found by the locator 4.3.15). 0 where there is none.
 */
async function statedEntries(file: Blob): Promise<number> {
  const end = await findEndRecord(file);
  if (!end) return 0;
  const { view, at } = end;
  const entries = view.getUint16(at + 10, true);
  if (entries !== 0xffff || at < 20 || view.getUint32(at - 20, true) !== 0x07064b50) return entries;
  const start = Number(view.getBigUint64(at - 12, true));
  const record = new DataView(await file.slice(start, start + 56).arrayBuffer());
  return record.byteLength >= 40 && record.getUint32(0, true) === 0x06064b50 ? Number(record.getBigUint64(32, true)) : entries;
}

async function readDirectory(file: Blob, name: string, signal?: AbortSignal, onProgress?: WorkOptions['onProgress']): Promise<{ slots: Slot[]; links: PackNotice[] }> {
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
  if (entry.filenameUTF8 && raw.includes('\ufffd') && !isUtf8(entry.rawFilename)) throw new PackError('unreadable-name', { name, path: raw });
  const path = safePackPath(bare, name);
  if (((entry.externalFileAttributes >>> 16) & FILE_TYPE) === SYMLINK) return linkNotice(path);
  if (entry.directory) return undefined;
  if (!entry.encrypted && entry.compressionMethod !== STORED && entry.compressionMethod !== DEFLATED) throw new OtherMethod();
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
  if (/split zip/i.test(message)) return new PackError('split-volume', { name, missing: 'the other parts' }, { cause: error });
  if (/encrypt/i.test(message)) return new PackError('encrypted', { name }, { cause: error });
  const why = /central directory|format/i.test(message) ? 'its list of contents at the end is missing or broken, as after a download that stopped early' : message;
  return new PackError('damaged', { name, why }, { cause: error });
}
