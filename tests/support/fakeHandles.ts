/**
 * Handles of files and folders in memory, as the File System Standard has them (https://fs.spec.whatwg.org, 2.3 to
 * 2.5), as far as a folder that the player picked is asked: the same errors by name, and nothing of what is written is
 * there before its stream is closed. Real handles are tried in e2e/folders.spec.ts.
 */
export class FakeDirectory {
  readonly kind = 'directory';
  readonly children = new Map<string, FakeDirectory | FakeFile>();
  constructor(readonly name: string) {}

  async *entries(): AsyncGenerator<[string, FakeDirectory | FakeFile]> {
    for (const one of [...this.children]) yield await Promise.resolve(one);
  }

  async *values(): AsyncGenerator<FakeDirectory | FakeFile> {
    for (const one of [...this.children.values()]) yield await Promise.resolve(one);
  }

  getDirectoryHandle(name: string, { create = false } = {}): Promise<FakeDirectory> {
    return this.child(name, FakeDirectory, create);
  }

  getFileHandle(name: string, { create = false } = {}): Promise<FakeFile> {
    return this.child(name, FakeFile, create);
  }

  private async child<Kind extends FakeDirectory | FakeFile>(
    name: string,
    kind: new (name: string) => Kind,
    create: boolean,
  ): Promise<Kind> {
    await Promise.resolve();
    const there = this.children.get(name);
    if (there instanceof kind) return there;
    if (there) throw new DOMException('another kind', 'TypeMismatchError');
    if (!create) throw new DOMException('none there', 'NotFoundError');
    const made = new kind(name);
    this.children.set(name, made);
    return made;
  }

  async removeEntry(name: string): Promise<void> {
    await Promise.resolve();
    const there = this.children.get(name);
    if (!there) throw new DOMException('none there', 'NotFoundError');
    if (there instanceof FakeDirectory && there.children.size > 0)
      throw new DOMException('not empty', 'InvalidModificationError');
    this.children.delete(name);
  }
}

export class FakeFile {
  readonly kind = 'file';
  data: Blob = new Blob([]);
  modified = 1_000_000;
  constructor(readonly name: string) {}

  getFile(): Promise<File> {
    return Promise.resolve(new File([this.data], this.name, { lastModified: this.modified }));
  }

  createWritable(): Promise<{
    write(data: BlobPart): Promise<void>;
    close(): Promise<void>;
    abort(): Promise<void>;
  }> {
    const parts: BlobPart[] = [];
    return Promise.resolve({
      write: (data) => Promise.resolve(void parts.push(data)),
      close: () => {
        this.data = new Blob(parts);
        this.modified += 5000;
        return Promise.resolve();
      },
      abort: () => Promise.resolve(),
    });
  }
}
