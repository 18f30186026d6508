import { byPath, nameKey, parentOf } from '../paths/paths';
import { worthOpening } from '../paths/worthOpening';
import { holdsAll, searchWords } from '../paths/search';

/** One row of a tree shown as a list. */
export interface TreeRow {
  path: string;
  name: string;
  depth: number;
  kind: 'folder' | 'file';
  /** Bytes, for folders of everything inside. */
  size: number;
  /** Files inside; 1 for a file. */
  files: number;
  open: boolean;
}

interface Branch {
  path: string;
  size: number;
  files: number;
  folders: Branch[];
  leaves: { path: string; size: number }[];
}

/** A tree of files that can be shown piece by piece. Built once; rows are cheap. */
export class FileTree {
  private readonly root: Branch = { path: '', size: 0, files: 0, folders: [], leaves: [] };
  private readonly searchable: { path: string; size: number; key: string }[] = [];

  constructor(files: Iterable<{ path: string; size: number }>) {
    const branches = new Map<string, Branch>([['', this.root]]);
    const branch = (path: string): Branch => {
      const known = branches.get(path);
      if (known) return known;
      const made: Branch = { path, size: 0, files: 0, folders: [], leaves: [] };
      branches.set(path, made);
      branch(parentOf(path)).folders.push(made);
      return made;
    };
    for (const { path, size } of [...files].sort((a, b) => byPath(a.path, b.path))) {
      this.searchable.push({ path, size, key: nameKey(path) });
      branch(parentOf(path)).leaves.push({ path, size });
      for (let up = parentOf(path); ; up = parentOf(up)) {
        const above = branch(up);
        above.size += size;
        above.files++;
        if (up === '') break;
      }
    }
  }

  /**
   * Folders worth showing open.
   *
   * @param matters whether something happens in a folder; without it all folders are alike
   */
  firstFolders(matters: (folder: string) => boolean = () => true): string[] {
    return worthOpening(this.root, ({ path }) => matters(path));
  }

  /** The rows of the tree with some folders open; with a search, the files whose path holds every word of it. */
  rows(open: ReadonlySet<string>, search = ''): TreeRow[] {
    const words = searchWords(search);
    if (words.length > 0)
      return this.searchable
        .filter(({ key }) => holdsAll(key, words))
        .map(({ path, size }) => ({ path, name: path, depth: 0, kind: 'file', size, files: 1, open: false }));
    const rows: TreeRow[] = [];
    const walk = (at: Branch, depth: number) => {
      for (const folder of at.folders) {
        const isOpen = open.has(folder.path);
        rows.push({
          path: folder.path,
          name: folder.path.slice(at.path === '' ? 0 : at.path.length + 1),
          depth,
          kind: 'folder',
          size: folder.size,
          files: folder.files,
          open: isOpen,
        });
        if (isOpen) walk(folder, depth + 1);
      }
      for (const { path, size } of at.leaves)
        rows.push({
          path,
          name: path.slice(at.path === '' ? 0 : at.path.length + 1),
          depth,
          kind: 'file',
          size,
          files: 1,
          open: false,
        });
    };
    walk(this.root, 0);
    return rows;
  }
}
