import { FileTree, SatchelError, openPack, type Pack } from '@/core';
import { memory } from '@/storage/memory';

interface Opened {
  pack: Pack;
  tree: FileTree;
}

/** Opened packs, each opened once. */
export class OpenPacks {
  private readonly opened = new Map<string, Promise<Opened>>();

  async get(id: string, file: string): Promise<Opened> {
    let found = this.opened.get(id);
    if (!found) {
      found = this.open(id, file);
      this.opened.set(id, found);
      found.catch(() => this.opened.delete(id));
    }
    return found;
  }

  private async open(id: string, file: string): Promise<Opened> {
    const blob = await memory.archive(id);
    if (!blob) throw new SatchelError('source-missing', { name: file, path: file });
    const pack = await openPack(blob, file);
    return { pack, tree: new FileTree(pack.entries) };
  }

  forget(id: string): void {
    this.opened.delete(id);
  }
}
