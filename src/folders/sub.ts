import {
  joinPath,
  readBytes,
  readsBack,
  statAndHash,
  writeAndReadBack,
  type FileStat,
  type Folder,
  type FolderChanges,
  type Hashed,
  type Room,
} from '@/core';

/** A folder inside another one, seen as a folder of its own: a user-data folder that lies beside the program. */
export class SubFolder implements Folder {
  constructor(
    private readonly outer: Folder,
    private readonly path: string,
  ) {}

  async *list(under = '', onLink?: (path: string) => void): AsyncGenerator<FileStat> {
    const inside = (path: string) => onLink?.(this.cut(path));
    for await (const stat of this.outer.list(joinPath(this.path, under), inside))
      yield { ...stat, path: this.cut(stat.path) };
  }

  /** What something in here is called here. */
  private cut(path: string): string {
    return this.path === '' ? path : path.slice(this.path.length + 1);
  }

  get changes(): Folder['changes'] {
    const { outer } = this;
    return (
      outer.changes &&
      (async (since, how) => {
        const changes = await outer.changes?.(since, how);
        return changes && this.inside(changes);
      })
    );
  }

  get stats(): Folder['stats'] {
    const { outer } = this;
    return (
      outer.stats &&
      (async (paths) => {
        const found = (await outer.stats?.(paths.map((path) => joinPath(this.path, path)))) ?? [];
        return found.map((stat, i) => stat && { ...stat, path: paths[i] as string });
      })
    );
  }

  /** As much of what has changed as lies in here. */
  protected inside({ folders, gone, links, ...changes }: FolderChanges): FolderChanges {
    const isHere = (path: string) => this.path === '' || path === this.path || path.startsWith(`${this.path}/`);
    const cut = (path: string) => this.cut(path);
    return {
      ...changes,
      folders: folders.flatMap(({ path, files }) =>
        isHere(path) ? [{ path: cut(path), files: files.map((file) => ({ ...file, path: cut(file.path) })) }] : [],
      ),
      gone: gone.filter(isHere).map(cut),
      links: links.filter(isHere).map(cut),
    };
  }

  async stat(path: string): Promise<FileStat | undefined> {
    const stat = await this.outer.stat(joinPath(this.path, path));
    return stat && { ...stat, path };
  }

  read(path: string): Promise<Blob> {
    return this.outer.read(joinPath(this.path, path));
  }

  readBytes(path: string): Promise<Uint8Array<ArrayBuffer>> {
    return readBytes(this.outer, joinPath(this.path, path));
  }

  get readChunks(): Folder['readChunks'] {
    const { outer } = this;
    return (
      outer.readChunks && ((path) => (outer.readChunks as NonNullable<Folder['readChunks']>)(joinPath(this.path, path)))
    );
  }

  get writeChunks(): Folder['writeChunks'] {
    const { outer } = this;
    return (
      outer.writeChunks &&
      ((path, chunks) => (outer.writeChunks as NonNullable<Folder['writeChunks']>)(joinPath(this.path, path), chunks))
    );
  }

  async holds(path: string, bytes: Uint8Array): Promise<FileStat | undefined> {
    const stat = await readsBack(this.outer, joinPath(this.path, path), bytes);
    return stat && { ...stat, path };
  }

  async statAndHash(path: string): Promise<Hashed | undefined> {
    const found = await statAndHash(this.outer, joinPath(this.path, path));
    return found && { ...found, stat: { ...found.stat, path } };
  }

  async writeAndReadBack(path: string, bytes: Uint8Array): Promise<FileStat | undefined> {
    const stat = await writeAndReadBack(this.outer, joinPath(this.path, path), bytes);
    return stat && { ...stat, path };
  }

  async link(path: string, to: Folder, toPath: string, sole?: boolean): Promise<FileStat | undefined> {
    return this.outer.link?.(joinPath(this.path, path), to, toPath, sole);
  }

  get swap(): Folder['swap'] {
    const { outer } = this;
    return (
      outer.swap &&
      (async (path, put, gone) => {
        const stat = await outer.swap?.(joinPath(this.path, path), put, gone);
        return stat && { ...stat, path };
      })
    );
  }

  async endSwap(path: string, keep: Parameters<NonNullable<Folder['endSwap']>>[1]): Promise<void> {
    await this.outer.endSwap?.(joinPath(this.path, path), keep);
  }

  async tidy(path: string): Promise<void> {
    await this.outer.tidy?.(joinPath(this.path, path));
  }

  write(path: string, data: Blob | Uint8Array): Promise<void> {
    return this.outer.write(joinPath(this.path, path), data);
  }

  remove(path: string): Promise<void> {
    return this.outer.remove(joinPath(this.path, path));
  }

  get digests(): Folder['digests'] {
    const { outer } = this;
    return (
      outer.digests &&
      ((kind, paths) =>
        outer.digests?.(
          kind,
          paths.map((path) => joinPath(this.path, path)),
        ) ?? Promise.resolve([]))
    );
  }

  async hasFolder(path: string): Promise<boolean> {
    return (await this.outer.hasFolder?.(joinPath(this.path, path))) ?? true;
  }

  async removeFolder(path: string): Promise<boolean> {
    return (await this.outer.removeFolder?.(joinPath(this.path, path))) ?? true;
  }

  async settle(): Promise<void> {
    await this.outer.settle?.();
  }

  async room(): Promise<Room | undefined> {
    return this.outer.room?.();
  }
}

/** A folder without what lies in some folders inside it: what another root holds is not listed twice. */
export class WithoutFolder extends SubFolder {
  constructor(
    private readonly whole: Folder,
    private readonly hidden: readonly string[],
  ) {
    super(whole, '');
  }

  protected override inside({ folders, gone, links, ...changes }: FolderChanges): FolderChanges {
    const isOpen = (path: string) => !this.isHidden(path);
    return {
      ...changes,
      folders: folders.filter(({ path }) => isOpen(`${path}/`)),
      gone: gone.filter((path) => isOpen(`${path}/`)),
      links: links.filter(isOpen),
    };
  }

  private isHidden(path: string): boolean {
    return this.hidden.some((folder) => path.startsWith(`${folder}/`));
  }

  override async *list(under?: string, onLink?: (path: string) => void): AsyncGenerator<FileStat> {
    for await (const stat of this.whole.list(under, (path) => !this.isHidden(path) && onLink?.(path)))
      if (!this.isHidden(stat.path)) yield stat;
  }
}
