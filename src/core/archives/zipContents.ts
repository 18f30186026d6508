import { blobChunks, blobRange } from '../bytes';
import { PackError, SatchelError, reasonOf, throwIfAborted } from '../errors';
import { crc32Stream } from '../hash';
import { checkWhole } from './bounds';
import { inflate, inflateChunks, inflateHead } from './inflate';
import type { PackFile } from './pack';
import { STORED, type Slot } from './zipDirectory';

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

/** Most local headers are not longer. */
const USUAL_HEADER = 1024;

/** Bytes between two entries that are read along with them rather than left out by reading twice. */
const GAP = 64 * 1024;

/**
 * Packed bytes that hold so many unpacked ones: what cannot be packed is stored in blocks with 5 bytes before each
 * (RFC 1951, 3.2.4), of some kilobytes with the packers that make the smallest.
 */
const longestPacked = (bytes: number): number => bytes + 5 * Math.ceil(bytes / 1024) + 1024;

interface Reading {
  signal?: AbortSignal;
}

/** How the files of a window of the archive are read. */
interface WindowReader {
  /** Bytes that a file comes to at most. */
  most(slot: Slot): number;
  /** Bytes of the archive that this takes, from where the entry begins. */
  reach(slot: Slot): number;
  read(slot: Slot, window: Uint8Array<ArrayBuffer>, windowStart: number): Promise<Uint8Array<ArrayBuffer>>;
}

/** What is in a ZIP, read where its directory says; every file is checked for its length and its checksum. */
export class ZipContents {
  private readonly byPath: ReadonlyMap<string, Slot>;

  constructor(
    private readonly file: Blob,
    private readonly name: string,
    slots: readonly Slot[],
    private readonly crc32: (bytes: Uint8Array) => number,
  ) {
    this.byPath = new Map(slots.map((slot) => [slot.path, slot]));
  }

  async read(path: string): Promise<Uint8Array<ArrayBuffer>> {
    for await (const { data } of this.readMany([path])) return data;
    throw new SatchelError('unexpected', { why: 'an archive entry gave nothing' });
  }

  async *readMany(paths: Iterable<string>, options: Reading = {}): AsyncGenerator<PackFile> {
    const wanted = [...paths];
    for (const path of wanted) checkWhole(this.slotOf(path), this.name);
    yield* this.readWindows(wanted, options, {
      most: ({ size }) => size,
      reach: ({ packed }) => LONGEST_HEADER + packed,
      read: (slot, window, windowStart) => this.unpack(slot, window, windowStart),
    });
  }

  /** The beginnings of many files, unchecked. */
  peekMany(paths: Iterable<string>, bytes: number, options: Reading = {}): AsyncGenerator<PackFile> {
    const wanted = ({ packed }: Slot) => Math.min(packed, longestPacked(bytes));
    return this.readWindows(paths, options, {
      most: ({ size }) => Math.min(size, bytes),
      reach: (slot) => USUAL_HEADER + wanted(slot),
      read: async (slot, window, windowStart) => {
        const start = this.startOf(slot, window, windowStart);
        const [from, to] = [start - windowStart, start - windowStart + wanted(slot)];
        const packed =
          to <= window.length ? window.subarray(from, to) : await blobRange(this.file, start, start + wanted(slot));
        return slot.method === STORED ? packed.slice(0, bytes) : inflateHead(packed, Math.min(bytes, slot.size));
      },
    });
  }

  private slotOf(path: string): Slot {
    const slot = this.byPath.get(path);
    if (!slot) throw new SatchelError('unknown-thing', { what: `file “${path}” in “${this.name}”` });
    return slot;
  }

  private damagedAt(slot: Slot): (why: string) => PackError {
    return (why) => new PackError('damaged', { name: this.name, why: `“${slot.path}” ${why}` });
  }

  /** Where an entry's packed bytes begin in the archive. @param window that holds its local header */
  private startOf(slot: Slot, window: Uint8Array, windowStart: number): number {
    const damaged = this.damagedAt(slot);
    const at = slot.offset - windowStart;
    const view = new DataView(window.buffer, window.byteOffset, window.byteLength);
    // Local file header, APPNOTE 4.3.7: signature, then lengths of name and extra field at 26 and 28.
    if (at + 30 > window.length || view.getUint32(at, true) !== 0x04034b50)
      throw damaged('does not begin where the list of contents says');
    const start = slot.offset + 30 + view.getUint16(at + 26, true) + view.getUint16(at + 28, true);
    if (start + slot.packed > slot.end) throw damaged('is cut off');
    return start;
  }

  private packedBytes(slot: Slot, window: Uint8Array<ArrayBuffer>, windowStart: number): Uint8Array<ArrayBuffer> {
    const start = this.startOf(slot, window, windowStart) - windowStart;
    if (start + slot.packed > window.length) throw this.damagedAt(slot)('is cut off');
    return window.subarray(start, start + slot.packed);
  }

  private async unpack(
    slot: Slot,
    window: Uint8Array<ArrayBuffer>,
    windowStart: number,
  ): Promise<Uint8Array<ArrayBuffer>> {
    const damaged = this.damagedAt(slot);
    const packed = this.packedBytes(slot, window, windowStart);
    const data =
      slot.method === STORED
        ? packed.slice()
        : await inflate(packed, slot.size).catch((error: unknown) =>
            Promise.reject(damaged(`cannot be unpacked (${reasonOf(error)})`)),
          );
    if (data.length !== slot.size) throw damaged('is not as long as the list of contents says');
    if (slot.crc32 !== undefined && this.crc32(data) !== slot.crc32) throw damaged('has a wrong checksum');
    return data;
  }

  /** One file piece by piece; it is checked at its end. */
  async *chunks(path: string): AsyncGenerator<Uint8Array<ArrayBuffer>> {
    const slot = this.slotOf(path);
    const start = this.startOf(
      slot,
      new Uint8Array(await this.file.slice(slot.offset, slot.offset + 30).arrayBuffer()),
      slot.offset,
    );
    const packed = this.file.slice(start, start + slot.packed);
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
      throw this.damagedAt(slot)(`cannot be unpacked (${reasonOf(error)})`);
    }
    if (size !== slot.size) throw this.damagedAt(slot)('is not as long as the list of contents says');
    if (slot.crc32 !== undefined && check.digest() !== slot.crc32) throw this.damagedAt(slot)('has a wrong checksum');
  }

  private async *readWindows(
    paths: Iterable<string>,
    options: Reading,
    { most, reach, read }: WindowReader,
  ): AsyncGenerator<PackFile> {
    const wanted = Array.from(paths, (path) => this.slotOf(path)).sort((a, b) => a.offset - b.offset);
    const endOf = (slot: Slot) => Math.min(slot.end, slot.offset + reach(slot));
    let spent: Uint8Array<ArrayBuffer> | undefined;
    for (let first = 0; first < wanted.length;) {
      throwIfAborted(options.signal);
      const start = (wanted[first] as Slot).offset;
      let last = first;
      const isNear = (next: Slot) => endOf(next) - start <= WINDOW && next.offset - endOf(wanted[last] as Slot) <= GAP;
      while (last + 1 < wanted.length && isNear(wanted[last + 1] as Slot)) last++;
      const window = await blobRange(this.file, start, endOf(wanted[last] as Slot), spent);
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
  }
}
