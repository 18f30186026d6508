import { SatchelError, blobPasses, readsBack, reasonOf, sha256, type FileStat, type Folder, type Gone } from '@/core';

/** The parts of the File System Access API that TypeScript's library does not know yet. */
export type PickedHandle = FileSystemDirectoryHandle & {
  queryPermission?(options: { mode: 'readwrite' }): Promise<PermissionState>;
  requestPermission?(options: { mode: 'readwrite' }): Promise<PermissionState>;
};

/** Has the player allowed the folder in this session? Folders of the origin's own file system always are. */
export const isAllowed = async (handle: PickedHandle): Promise<boolean> =>
  ((await handle.queryPermission?.({ mode: 'readwrite' })) ?? 'granted') === 'granted';

/** Files that are asked about at the same time. */
const AT_ONCE = 32;

/** A folder on the player's disk, through a handle that the player gave. */
export class PickedFolder implements Folder {
  constructor(private readonly handle: PickedHandle) {}

  async *list(under = ''): AsyncGenerator<FileStat> {
    const start = under === '' ? this.handle : await this.guard(under, () => this.directory(under.split('/'), false));
    if (start) yield* this.walk(start, under);
  }

  /**
   * What goes while it is looked at, as a running program's files do, is not there; the folder itself, on a disk taken
   * away, is missed.
   */
  private async *walk(directory: FileSystemDirectoryHandle, path: string): AsyncGenerator<FileStat> {
    const entries = directory.entries();
    const found: { full: string; child: FileSystemFileHandle }[] = [];
    // Each is a question to another process: asked one after the other they take three times as long.
    const ask = () =>
      this.guard(path, () => Promise.all(found.splice(0).map(({ full, child }) => statOf(full, child))));
    const step = () => this.guard(path, () => (directory === this.handle ? entries.next() : orMissing(entries.next())));
    for (let next = await step(); next && !next.done; next = await step()) {
      const [name, child] = next.value;
      const full = path === '' ? name : `${path}/${name}`;
      if (child.kind === 'directory') yield* this.walk(child, full);
      else found.push({ full, child });
      if (found.length === AT_ONCE) for (const stat of await ask()) if (stat) yield stat;
    }
    for (const stat of await ask()) if (stat) yield stat;
  }

  /** Follows names down; undefined where a folder is missing and is not to be made. */
  private async directory(names: readonly string[], make: boolean): Promise<FileSystemDirectoryHandle | undefined> {
    let at: FileSystemDirectoryHandle = this.handle;
    for (const name of names) {
      const next = await orMissing(at.getDirectoryHandle(name, { create: make }));
      if (!next) return undefined;
      at = next;
    }
    return at;
  }

  private async file(path: string): Promise<File | undefined> {
    const names = path.split('/');
    const directory = await this.directory(names.slice(0, -1), false);
    return directory && (await (await orMissing(directory.getFileHandle(names.at(-1) as string)))?.getFile());
  }

  async stat(path: string): Promise<FileStat | undefined> {
    const file = await this.guard(path, () => this.file(path));
    return file && { path, size: file.size, modified: file.lastModified };
  }

  async read(path: string): Promise<Blob> {
    const file = await this.guard(path, () => this.file(path));
    if (!file) throw new SatchelError('folder-missing-file', { path });
    return file;
  }

  async *readChunks(path: string): AsyncGenerator<Uint8Array> {
    const pieces = blobPasses(await this.read(path));
    try {
      for (
        let next = await this.guard(path, () => pieces.next());
        !next.done;
        next = await this.guard(path, () => pieces.next())
      )
        yield next.value;
    } finally {
      await pieces.return(undefined);
    }
  }

  async write(path: string, data: Blob | Uint8Array): Promise<void> {
    await this.fill(path, (stream) => stream.write(data as Blob | Uint8Array<ArrayBuffer>));
  }

  async writeChunks(path: string, chunks: AsyncIterable<Uint8Array>): Promise<void> {
    await this.fill(path, async (stream) => {
      for await (const chunk of chunks) await stream.write(chunk as Uint8Array<ArrayBuffer>);
    });
  }

  private async fill(path: string, fill: (stream: FileSystemWritableFileStream) => Promise<void>): Promise<void> {
    const names = path.split('/');
    await this.guard(path, async () => {
      const directory = await this.directory(names.slice(0, -1), true);
      const handle = await directory?.getFileHandle(names.at(-1) as string, { create: true });
      if (!handle) throw new Error('the folder above it cannot be made');
      // The browser writes to a file beside it and swaps on close: the whole file or nothing.
      const stream = await handle.createWritable();
      try {
        await fill(stream);
        await stream.close();
      } catch (error) {
        // The write has failed already, and that is what is told.
        await stream.abort().catch(() => undefined);
        throw error;
      }
    });
  }

  /**
   * The browser gives no way to move a file aside: it is looked at before anything is written, and once more when all
   * is written and only the exchange is left (docs/decisions/015 says what remains).
   */
  async swap(
    path: string,
    put: Uint8Array | AsyncIterable<Uint8Array> | undefined,
    gone: Gone | undefined,
  ): Promise<FileStat | undefined> {
    const check = async (made = false) => {
      const now = await this.guard(path, () => this.file(path));
      // Where there is to be none, the file that was made to be written to is still as it was made.
      const fits = gone
        ? now !== undefined && (await isVersion(now, gone))
        : now === undefined || (made && now.size === 0);
      if (!fits) throw new SatchelError('changed-meanwhile', { path });
    };
    await check();
    if (!put) {
      await this.remove(path);
      if (await this.stat(path)) throw new SatchelError('changed-meanwhile', { path });
      return undefined;
    }
    await this.fill(path, async (stream) => {
      if (put instanceof Uint8Array) await stream.write(put as Uint8Array<ArrayBuffer>);
      else for await (const chunk of put) await stream.write(chunk as Uint8Array<ArrayBuffer>);
      await check(true);
    });
    return put instanceof Uint8Array ? readsBack(this, path, put) : this.stat(path);
  }

  async remove(path: string): Promise<void> {
    const names = path.split('/');
    await this.guard(path, async () => {
      const directory = await this.directory(names.slice(0, -1), false);
      if (directory) await orMissing(directory.removeEntry(names.at(-1) as string));
    });
  }

  async hasFolder(path: string): Promise<boolean> {
    return this.guard(path, async () => (await this.directory(path.split('/'), false)) !== undefined);
  }

  async removeFolder(path: string): Promise<boolean> {
    const names = path.split('/');
    return this.guard(path, async () => {
      const directory = await this.directory(names.slice(0, -1), false);
      if (!directory) return true;
      await this.sweep(names);
      try {
        // Without `recursive`: one that holds anything stays.
        await orMissing(directory.removeEntry(names.at(-1) as string));
        return true;
      } catch (error) {
        if (error instanceof DOMException && error.name === 'InvalidModificationError') return false;
        throw error;
      }
    });
  }

  /** A browser that was ended while it wrote leaves its own swap files behind; nothing else is called so. */
  private async sweep(names: readonly string[]): Promise<void> {
    const inside = await this.directory(names, false);
    if (!inside) return;
    const swaps: string[] = [];
    for await (const entry of inside.values())
      if (entry.kind === 'file' && entry.name.endsWith('.crswap')) swaps.push(entry.name);
    for (const name of swaps) await orMissing(inside.removeEntry(name));
  }

  private async guard<T>(path: string, work: () => Promise<T>): Promise<T> {
    try {
      return await work();
    } catch (error) {
      if (error instanceof SatchelError) throw error;
      if (path === '' && error instanceof DOMException && error.name === 'NotFoundError')
        throw new SatchelError('folder-gone', { path: this.handle.name }, { cause: error });
      if (error instanceof DOMException && error.name === 'NotAllowedError')
        throw new SatchelError('folder-permission', { name: this.handle.name }, { cause: error });
      const why =
        error instanceof DOMException && error.name === 'TypeMismatchError'
          ? 'a file and a folder have the same name'
          : reasonOf(error);
      throw new SatchelError('folder-refused', { path, why }, { cause: error });
    }
  }
}

/** Is a file the version that may go? Where its date does not tell, its bytes are read. */
const isVersion = async (file: File, gone: Gone): Promise<boolean> =>
  file.size === gone.size && (file.lastModified === gone.modified || (await sha256(file)) === gone.sha256);

async function statOf(path: string, handle: FileSystemFileHandle): Promise<FileStat | undefined> {
  const file = await orMissing(handle.getFile());
  return file && { path, size: file.size, modified: file.lastModified };
}

/** Undefined where the browser says that there is no such thing. */
async function orMissing<T>(promise: Promise<T>): Promise<T | undefined> {
  try {
    return await promise;
  } catch (error) {
    if (error instanceof DOMException && error.name === 'NotFoundError') return undefined;
    throw error;
  }
}
