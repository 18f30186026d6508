import localforage from 'localforage';
import { z } from 'zod';
import { SatchelError, blobPasses, reasonOf, type FileStat, type Folder, type Room } from '@/core';
import {
  AT_HAND,
  BUNDLE,
  MANY,
  PIECE,
  keysOf,
  lengthOf,
  lineSchema,
  once,
  pieceKey,
  type InPieces,
  type Line,
  type LiveLine,
  type Waiting,
} from './browserIndex';

/**
 * A folder kept in the browser through localForage. Files that are written at the same time share one item, a bundle,
 * since items cost more than bytes. A bundle is written first; then lines of the index make its parts the files'
 * contents. So a file is whole or not there, wherever the browser stops. Large files have items of their own, one a
 * piece.
 */
export class BrowserFolder implements Folder {
  private readonly files = new Map<string, LiveLine>();
  /** How many files still lie in each bundle. */
  private readonly live = new Map<string, number>();
  private readonly bundles = new Map<string, Promise<Uint8Array<ArrayBuffer>>>();
  private waiting: Waiting[] = [];
  private working = false;
  private sequence = 0;
  private lastModified = 0;

  private constructor(
    private readonly bytes: LocalForage,
    private readonly index: LocalForage,
  ) {}

  /**
   * @param name a name of its own for each folder
   * @param onlyLook nothing is changed, not even what was left half-done: another tab may be at it
   */
  static async open(name: string, { onlyLook = false } = {}): Promise<BrowserFolder> {
    const folder = new BrowserFolder(
      localforage.createInstance({ name: `satchel-folder-${name}`, storeName: 'bytes' }),
      localforage.createInstance({ name: `satchel-folder-${name}`, storeName: 'index' }),
    );
    await folder.load(onlyLook);
    return folder;
  }

  /** Removes a folder with everything in it. */
  static async drop(name: string): Promise<void> {
    await localforage.dropInstance({ name: `satchel-folder-${name}` });
  }

  private async load(onlyLook: boolean): Promise<void> {
    const found: { key: string; value: unknown }[] = [];
    await this.index.iterate((value: unknown, key: string) => void found.push({ key, value }));
    found.sort((a, b) => (a.key < b.key ? -1 : 1));
    for (const { value } of found) for (const line of z.array(lineSchema).parse(value)) this.take(line);
    this.sequence = found.length === 0 ? 0 : Number(found.at(-1)?.key) + 1;
    if (onlyLook) return;
    if (found.length > MANY) {
      await this.index.setItem(this.nextKey(), [...this.files.values()]);
      for (const { key } of found) await this.index.removeItem(key);
    }
    // A bundle that no line names belongs to a write that was cut off, or to files that are gone.
    for (const key of await this.bytes.keys())
      if (!this.live.has(key.split('.')[0] as string)) await this.bytes.removeItem(key);
  }

  /** Makes a line hold. @returns items that nothing lies in any more */
  private take(line: Line): string[] {
    this.lastModified = Math.max(this.lastModified, line.modified);
    const before = this.files.get(line.path);
    if (line.bundle === null) this.files.delete(line.path);
    else {
      this.files.set(line.path, { ...line, bundle: line.bundle });
      this.live.set(line.bundle, (this.live.get(line.bundle) ?? 0) + 1);
    }
    if (before === undefined) return [];
    const left = (this.live.get(before.bundle) ?? 0) - 1;
    if (left > 0) this.live.set(before.bundle, left);
    else this.live.delete(before.bundle);
    return left > 0 ? [] : keysOf(before);
  }

  private nextKey(): string {
    return String(this.sequence++).padStart(12, '0');
  }

  /** Queues a write or a removal; resolves when it is kept. */
  private enqueue(path: string, content: Waiting['content']): Promise<void> {
    return new Promise((done, failed) => {
      this.waiting.push({ path, content, done, failed });
      void this.work();
    });
  }

  private async work(): Promise<void> {
    if (this.working) return;
    this.working = true;
    while (this.waiting.length > 0) {
      let size = 0;
      let count = 0;
      while (count < this.waiting.length && (count === 0 || size < BUNDLE))
        size += lengthOf(this.waiting[count++]?.content);
      const batch = this.waiting.splice(0, count);
      try {
        await this.keepBatch(batch, size);
        for (const { done } of batch) done();
      } catch (error) {
        for (const { failed } of batch) failed(error);
      }
    }
    // In one breath with the look at what is waiting: what comes later starts anew.
    this.working = false;
  }

  private async keepBatch(batch: readonly Waiting[], size: number): Promise<void> {
    const bundle = crypto.randomUUID();
    const together = new Uint8Array(size);
    let from = 0;
    const lines = batch.map(({ path, content }): Line => {
      this.lastModified = Math.max(this.lastModified + 1, Date.now());
      const modified = this.lastModified;
      if (content && !(content instanceof Uint8Array)) return { path, from: 0, modified, ...content };
      const line: Line = { path, bundle: content ? bundle : null, from, size: lengthOf(content), modified };
      if (content) together.set(content, from);
      from += line.size;
      return line;
    });
    if (lines.some((line) => line.bundle === bundle)) await this.bytes.setItem(bundle, together);
    await this.index.setItem(this.nextKey(), lines);
    for (const line of lines) for (const empty of this.take(line)) await this.bytes.removeItem(empty);
  }

  async *list(under = ''): AsyncGenerator<FileStat> {
    for (const { path, size, modified } of [...this.files.values()])
      if (under === '' || path.startsWith(`${under}/`)) yield { path, size, modified };
  }

  async stat(path: string): Promise<FileStat | undefined> {
    const line = this.files.get(path);
    return line && { path, size: line.size, modified: line.modified };
  }

  async read(path: string): Promise<Blob> {
    const parts: Blob[] = [];
    for await (const piece of this.readChunks(path)) parts.push(new Blob([piece]));
    return new Blob(parts);
  }

  async readBytes(path: string): Promise<Uint8Array<ArrayBuffer>> {
    const line = this.line(path);
    if (line.pieces !== undefined) return new Uint8Array(await (await this.read(path)).arrayBuffer());
    const bundle = await this.guard(path, () => this.readBundle(line.bundle));
    if (bundle.length < line.from + line.size) throw new SatchelError('bad-memory', { what: `the file ${path}` });
    return bundle.slice(line.from, line.from + line.size);
  }

  async *readChunks(path: string): AsyncGenerator<Uint8Array<ArrayBuffer>> {
    const { bundle, pieces, size } = this.line(path);
    if (pieces === undefined) {
      yield await this.readBytes(path);
      return;
    }
    let read = 0;
    for (const key of keysOf({ bundle, pieces })) {
      const piece = await this.guard(path, () => this.bytes.getItem<unknown>(key));
      if (!(piece instanceof Uint8Array)) throw new SatchelError('bad-memory', { what: `the file ${path}` });
      read += piece.length;
      yield piece as Uint8Array<ArrayBuffer>;
    }
    if (read !== size) throw new SatchelError('bad-memory', { what: `the file ${path}` });
  }

  private line(path: string): LiveLine {
    const line = this.files.get(path);
    if (!line) throw new SatchelError('folder-missing-file', { path });
    return line;
  }

  /** What storage gives, never what was written: a bundle is at hand only after it was read. */
  private readBundle(key: string): Promise<Uint8Array<ArrayBuffer>> {
    const atHand = this.bundles.get(key);
    if (atHand) return atHand;
    const reading = this.bytes.getItem<unknown>(key).then((data) => {
      if (data instanceof Uint8Array) return data as Uint8Array<ArrayBuffer>;
      throw new SatchelError('bad-memory', { what: 'a bundle of files' });
    });
    reading.catch(() => this.bundles.delete(key));
    this.bundles.set(key, reading);
    const [oldest] = this.bundles.keys();
    if (this.bundles.size > AT_HAND && oldest !== undefined) this.bundles.delete(oldest);
    return reading;
  }

  async write(path: string, data: Blob | Uint8Array): Promise<void> {
    const large = (data instanceof Blob ? data.size : data.length) > BUNDLE;
    if (large) return this.writeChunks(path, data instanceof Blob ? blobPasses(data) : once(data));
    this.checkFolders(path);
    const bytes = data instanceof Blob ? new Uint8Array(await data.arrayBuffer()) : data.slice();
    await this.guard(path, () => this.enqueue(path, bytes));
  }

  async writeChunks(path: string, chunks: AsyncIterable<Uint8Array>): Promise<void> {
    this.checkFolders(path);
    const content: InPieces = { bundle: crypto.randomUUID(), pieces: 0, size: 0 };
    const piece = new Uint8Array(PIECE);
    let filled = 0;
    const keepPiece = async (): Promise<void> => {
      if (filled === 0 && content.pieces > 0) return;
      // An item of its own length, since the whole buffer under a part of it would be kept.
      await this.guard(path, () =>
        this.bytes.setItem(pieceKey(content.bundle, content.pieces), piece.slice(0, filled)),
      );
      content.pieces++;
      content.size += filled;
      filled = 0;
    };
    try {
      for await (const chunk of chunks)
        for (let at = 0; at < chunk.length;) {
          const some = chunk.subarray(at, at + PIECE - filled);
          piece.set(some, filled);
          filled += some.length;
          at += some.length;
          if (filled === PIECE) await keepPiece();
        }
      await keepPiece();
    } catch (error) {
      // What stays goes when the folder is opened next.
      for (const key of keysOf(content)) await this.bytes.removeItem(key).catch(() => undefined);
      throw error;
    }
    await this.guard(path, () => this.enqueue(path, content));
  }

  private checkFolders(path: string): void {
    for (let up = path.lastIndexOf('/'); up > 0; up = path.lastIndexOf('/', up - 1))
      if (this.files.has(path.slice(0, up)))
        throw new SatchelError('folder-refused', { path, why: `“${path.slice(0, up)}” is a file` });
  }

  async remove(path: string): Promise<void> {
    if (this.files.has(path)) await this.guard(path, () => this.enqueue(path, undefined));
  }

  async room(): Promise<Room | undefined> {
    // Not there in the tests' stand-in, and in a browser only on a page of its own.
    if (typeof navigator === 'undefined' || !navigator.storage?.estimate) return undefined;
    const { quota, usage } = await navigator.storage.estimate();
    return quota === undefined ? undefined : { disk: 'the browser’s storage', left: quota - (usage ?? 0) };
  }

  private async guard<T>(path: string, work: () => Promise<T>): Promise<T> {
    try {
      return await work();
    } catch (error) {
      if (error instanceof SatchelError) throw error;
      const full = error instanceof DOMException && error.name === 'QuotaExceededError';
      throw new SatchelError(
        'folder-refused',
        { path, why: full ? 'the browser’s storage is full' : reasonOf(error) },
        { cause: error },
      );
    }
  }
}
