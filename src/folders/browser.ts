import localforage from 'localforage';
import { z } from 'zod';
import { SatchelError, reasonOf, type FileStat, type Folder } from '@/core';

/** One line of the index: where a file's bytes lie now, or that it is gone. */
const indexLineSchema = z.object({ path: z.string(), at: z.string().nullable(), size: z.number(), modified: z.number() });
type IndexLine = z.infer<typeof indexLineSchema>;

/** Index items above this number are written anew as one when the folder is opened. */
const MANY = 64;

/**
 * A folder kept in the browser through localForage. Bytes are written first, under a key of their own; then a line of
 * the index makes them the file's content. So a file is whole or not there, wherever the browser stops. Lines of writes
 * that happen at the same time share one index item, since items cost more than bytes.
 */
export class BrowserFolder implements Folder {
  private readonly files = new Map<string, IndexLine & { at: string }>();
  private waiting: { line: IndexLine; done: () => void; failed: (error: unknown) => void }[] = [];
  private flushing = false;
  private sequence = 0;
  private lastModified = 0;

  private constructor(
    private readonly bytes: LocalForage,
    private readonly index: LocalForage,
  ) {}

  /** @param name a name of its own for each folder */
  static async open(name: string): Promise<BrowserFolder> {
    const folder = new BrowserFolder(
      localforage.createInstance({ name: `satchel-folder-${name}`, storeName: 'bytes' }),
      localforage.createInstance({ name: `satchel-folder-${name}`, storeName: 'index' }),
    );
    await folder.load();
    return folder;
  }

  /** Removes a folder with everything in it. */
  static async drop(name: string): Promise<void> {
    await localforage.dropInstance({ name: `satchel-folder-${name}` });
  }

  private async load(): Promise<void> {
    const found: { key: string; value: unknown }[] = [];
    await this.index.iterate((value: unknown, key: string) => void found.push({ key, value }));
    const items = found.map(({ key, value }) => ({ key, lines: z.array(indexLineSchema).parse(value) }));
    items.sort((a, b) => (a.key < b.key ? -1 : 1));
    for (const line of items.flatMap(({ lines }) => lines)) this.take(line);
    this.sequence = items.length === 0 ? 0 : Number(items.at(-1)?.key) + 1;
    if (items.length > MANY) {
      await this.index.setItem(this.nextKey(), [...this.files.values()]);
      for (const { key } of items) await this.index.removeItem(key);
    }
    // Bytes that no line names belong to a write that was cut off.
    const named = new Set([...this.files.values()].map(({ at }) => at));
    for (const key of await this.bytes.keys()) if (!named.has(key)) await this.bytes.removeItem(key);
  }

  private take(line: IndexLine): void {
    this.lastModified = Math.max(this.lastModified, line.modified);
    if (line.at === null) this.files.delete(line.path);
    else this.files.set(line.path, { ...line, at: line.at });
  }

  private nextKey(): string {
    return String(this.sequence++).padStart(12, '0');
  }

  /** Puts a line into the index; resolves when it is kept. */
  private enter(line: IndexLine): Promise<void> {
    return new Promise((done, failed) => {
      this.waiting.push({ line, done, failed });
      void this.flush();
    });
  }

  private async flush(): Promise<void> {
    if (this.flushing) return;
    this.flushing = true;
    while (this.waiting.length > 0) {
      const batch = this.waiting;
      this.waiting = [];
      try {
        await this.index.setItem(this.nextKey(), batch.map(({ line }) => line));
        for (const { line, done } of batch) {
          this.take(line);
          done();
        }
      } catch (error) {
        for (const { failed } of batch) failed(error);
      }
    }
    // In one breath with the look at what is waiting: a line that comes later starts anew.
    this.flushing = false;
  }

  async *list(under = ''): AsyncGenerator<FileStat> {
    for (const { path, size, modified } of [...this.files.values()]) if (under === '' || path.startsWith(`${under}/`)) yield { path, size, modified };
  }

  async stat(path: string): Promise<FileStat | undefined> {
    const line = this.files.get(path);
    return line && { path, size: line.size, modified: line.modified };
  }

  async read(path: string): Promise<Blob> {
    const line = this.files.get(path);
    if (!line) throw new SatchelError('folder-missing-file', { path });
    const data = await this.guard(path, () => this.bytes.getItem<unknown>(line.at));
    if (!(data instanceof Uint8Array)) throw new SatchelError('bad-memory', { what: `the file ${path}` });
    return new Blob([data as Uint8Array<ArrayBuffer>]);
  }

  async write(path: string, data: Blob | Uint8Array): Promise<void> {
    for (let up = path.lastIndexOf('/'); up > 0; up = path.lastIndexOf('/', up - 1))
      if (this.files.has(path.slice(0, up))) throw new SatchelError('folder-refused', { path, why: `“${path.slice(0, up)}” is a file` });
    const bytes = data instanceof Blob ? new Uint8Array(await data.arrayBuffer()) : data.slice();
    const at = crypto.randomUUID();
    const before = this.files.get(path)?.at;
    await this.guard(path, async () => {
      await this.bytes.setItem(at, bytes);
      this.lastModified = Math.max(this.lastModified + 1, Date.now());
      await this.enter({ path, at, size: bytes.length, modified: this.lastModified });
      if (before) await this.bytes.removeItem(before);
    });
  }

  async remove(path: string): Promise<void> {
    const line = this.files.get(path);
    if (!line) return;
    await this.guard(path, async () => {
      await this.enter({ path, at: null, size: 0, modified: line.modified });
      await this.bytes.removeItem(line.at);
    });
  }

  private async guard<T>(path: string, work: () => Promise<T>): Promise<T> {
    try {
      return await work();
    } catch (error) {
      const full = error instanceof DOMException && error.name === 'QuotaExceededError';
      throw new SatchelError('folder-refused', { path, why: full ? 'the browser’s storage is full' : reasonOf(error) }, { cause: error });
    }
  }
}
