import { configure } from '@zip.js/zip.js';
import { blobChunks, blobRange } from '../bytes';
import { PackError, SatchelError, reasonOf, throwIfAborted } from '../errors';
import { crc32Function, crc32Stream } from '../hash';
import type { WorkOptions } from '../progress';
import { boundAndCompare, tooManyFiles } from './bounds';
import { inflate, inflateChunks, inflateHead } from './inflate';
import { PACK_LIMITS, type Pack, type PackFile } from './pack';
import { STORED, readDirectory, statedEntries, type Slot } from './zipDirectory';

configure({ useWebWorkers: false });

/** Bytes of the archive held at a time while many files are read. */
const WINDOW = 4 * 1024 * 1024;

/** Entries that are unpacked at a time, */
const AHEAD = 16;

/** and bytes that they may come to: a small archive can claim much. One that is larger is unpacked by itself. */
const MOST_AHEAD = 32 * 1024 * 1024;

/**
 * A local header is never longer (APPNOTE 4.3.7): what lies between it and the next entry may be padding of any length.
 */
const LONGEST_HEADER = 30 + 2 * 0xffff;

/** Opens a ZIP (PKWARE APPNOTE 6.3.x) by its central directory alone. */
export async function openZip(
  file: Blob,
  name: string,
  { signal, onProgress, largeFiles }: WorkOptions & { largeFiles?: boolean },
): Promise<Pack> {
  if ((await statedEntries(file)) > PACK_LIMITS.entries) throw tooManyFiles(name);
  const { slots, links } = await readDirectory(file, name, signal, onProgress);
  const notices = boundAndCompare(slots, file.size, name, largeFiles ? PACK_LIMITS.totalSize : undefined);
  notices.push(...links);
  if (slots.reduce((sum, { packed }) => sum + packed, 0) > file.size)
    throw new PackError('damaged', { name, why: 'its parts overlap' });
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
    if (at + 30 > window.length || view.getUint32(at, true) !== 0x04034b50)
      throw damaged('does not begin where the list of contents says');
    const start = slot.offset + 30 + view.getUint16(at + 26, true) + view.getUint16(at + 28, true);
    if (start + slot.packed > slot.end) throw damaged('is cut off');
    return start;
  };
  const packedBytes = (slot: Slot, window: Uint8Array<ArrayBuffer>, windowStart: number): Uint8Array<ArrayBuffer> => {
    const start = startOf(slot, window, windowStart) - windowStart;
    if (start + slot.packed > window.length) throw damagedAt(slot)('is cut off');
    return window.subarray(start, start + slot.packed);
  };
  const unpack = async (
    slot: Slot,
    window: Uint8Array<ArrayBuffer>,
    windowStart: number,
  ): Promise<Uint8Array<ArrayBuffer>> => {
    const damaged = damagedAt(slot);
    const packed = packedBytes(slot, window, windowStart);
    const data =
      slot.method === STORED
        ? packed.slice()
        : await inflate(packed, slot.size).catch((error: unknown) =>
            Promise.reject(damaged(`cannot be unpacked (${reasonOf(error)})`)),
          );
    if (data.length !== slot.size) throw damaged('is not as long as the list of contents says');
    if (slot.crc32 !== undefined && crc32(data) !== slot.crc32) throw damaged('has a wrong checksum');
    return data;
  };
  const chunks = async function* (path: string): AsyncGenerator<Uint8Array<ArrayBuffer>> {
    const slot = slotOf(path);
    const start = startOf(
      slot,
      new Uint8Array(await file.slice(slot.offset, slot.offset + 30).arrayBuffer()),
      slot.offset,
    );
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

  const readMany = (paths: Iterable<string>, options: { signal?: AbortSignal } = {}): AsyncGenerator<PackFile> =>
    readWindows(paths, options, ({ size }) => size, unpack);
  const peekMany = (
    paths: Iterable<string>,
    bytes: number,
    options: { signal?: AbortSignal } = {},
  ): AsyncGenerator<PackFile> =>
    readWindows(
      paths,
      options,
      ({ size }) => Math.min(size, bytes),
      async (slot, window, windowStart) => {
        const packed = packedBytes(slot, window, windowStart);
        return slot.method === STORED ? packed.slice(0, bytes) : inflateHead(packed, Math.min(bytes, slot.size));
      },
    );

  const readWindows = async function* (
    paths: Iterable<string>,
    options: { signal?: AbortSignal },
    most: (slot: Slot) => number,
    read: typeof unpack,
  ): AsyncGenerator<PackFile> {
    const wanted = Array.from(paths, slotOf).sort((a, b) => a.offset - b.offset);
    const endOf = (slot: Slot) => Math.min(slot.end, slot.offset + LONGEST_HEADER + slot.packed);
    let spent: Uint8Array<ArrayBuffer> | undefined;
    for (let first = 0; first < wanted.length;) {
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
        const fits = () =>
          ahead.length === 0 || (ahead.length < AHEAD && bytesAhead + most(wanted[next] as Slot) <= MOST_AHEAD);
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
