import { SatchelError, type FileStat, type Folder, type Room } from '@/core';

/**
 * A folder in memory: for tests, and the yardstick of the contract. Dates count writes, so they are the same every
 * time.
 */
export class MemoryFolder implements Folder {
  private readonly files = new Map<string, { data: Uint8Array<ArrayBuffer>; modified: number; names: number }>();
  /** How many files each folder holds, all the way down. */
  private readonly inside = new Map<string, number>();
  /** Folders that were made and not removed again; they may be empty. */
  private readonly made = new Set<string>();
  private clock = 1_700_000_000_000;
  /** Bytes that can still be written; a test may say. */
  left: number | undefined;
  /** Whether files can have second names. */
  links = true;

  /** @param contents file contents by path: bytes or text */
  constructor(contents: Record<string, Uint8Array | string> = {}) {
    for (const [path, data] of Object.entries(contents))
      this.put(path, typeof data === 'string' ? new TextEncoder().encode(data) : data);
  }

  private put(path: string, data: Uint8Array): void {
    if (!this.files.has(path)) this.count(path, 1);
    this.unname(path);
    this.files.set(path, { data: new Uint8Array(data), modified: ++this.clock, names: 1 });
  }

  private unname(path: string): void {
    const before = this.files.get(path);
    if (before) before.names--;
  }

  private count(path: string, by: number): void {
    for (let up = path.lastIndexOf('/'); up > 0; up = path.lastIndexOf('/', up - 1)) {
      const folder = path.slice(0, up);
      const files = (this.inside.get(folder) ?? 0) + by;
      this.made.add(folder);
      if (files > 0) this.inside.set(folder, files);
      else this.inside.delete(folder);
    }
  }

  async *list(under = ''): AsyncGenerator<FileStat> {
    for (const [path, { data, modified }] of this.files)
      if (under === '' || path.startsWith(`${under}/`)) yield { path, size: data.length, modified };
  }

  async stat(path: string): Promise<FileStat | undefined> {
    const file = this.files.get(path);
    return file && { path, size: file.data.length, modified: file.modified };
  }

  async read(path: string): Promise<Blob> {
    const file = this.files.get(path);
    if (!file) throw new SatchelError('folder-missing-file', { path });
    return new Blob([file.data]);
  }

  async write(path: string, data: Blob | Uint8Array): Promise<void> {
    for (let up = path.lastIndexOf('/'); up > 0; up = path.lastIndexOf('/', up - 1))
      if (this.files.has(path.slice(0, up)))
        throw new SatchelError('folder-refused', { path, why: `“${path.slice(0, up)}” is a file` });
    if (this.made.has(path)) throw new SatchelError('folder-refused', { path, why: 'it is a folder' });
    this.put(path, data instanceof Blob ? new Uint8Array(await data.arrayBuffer()) : data);
  }

  async remove(path: string): Promise<void> {
    this.unname(path);
    if (this.files.delete(path)) this.count(path, -1);
  }

  async link(path: string, to: Folder, toPath: string, sole = false): Promise<FileStat | undefined> {
    const file = this.files.get(path);
    if (!this.links || !(to instanceof MemoryFolder) || !file || (sole && file.names > 1) || to.files.has(toPath))
      return undefined;
    file.names++;
    to.count(toPath, 1);
    to.files.set(toPath, file);
    return to.stat(toPath);
  }

  async move(path: string, toPath: string): Promise<boolean> {
    const all = [...this.files.keys()].filter((one) => one === path || one.startsWith(`${path}/`));
    if (all.length === 0 || this.files.has(toPath) || this.made.has(toPath)) return false;
    for (const one of all) {
      await this.link(one, this, toPath + one.slice(path.length));
      await this.remove(one);
    }
    for (const one of this.made) if (one === path || one.startsWith(`${path}/`)) this.made.delete(one);
    return true;
  }

  /** Writes into a file as it is, under all its names: what a program can do that had it open. */
  writeInto(path: string, text: string): void {
    const file = this.files.get(path);
    if (file) Object.assign(file, { data: new TextEncoder().encode(text), modified: ++this.clock });
  }

  async hasFolder(path: string): Promise<boolean> {
    return this.made.has(path);
  }

  async removeFolder(path: string): Promise<boolean> {
    if (this.inside.has(path) || [...this.made].some((one) => one.startsWith(`${path}/`))) return false;
    this.made.delete(path);
    return true;
  }

  async room(): Promise<Room | undefined> {
    return this.left === undefined ? undefined : { disk: 'memory', left: this.left };
  }

  /** Gives a file another date, as a program can that hides a change. */
  setDate(path: string, modified: number): void {
    const file = this.files.get(path);
    if (file) file.modified = modified;
  }

  /** Every folder in it, empty ones included. */
  folders(): string[] {
    return [...this.made].sort();
  }

  /** Everything in it, for comparing. */
  contents(): Record<string, Uint8Array> {
    return Object.fromEntries(
      [...this.files].sort(([a], [b]) => (a < b ? -1 : 1)).map(([path, { data }]) => [path, data]),
    );
  }
}
