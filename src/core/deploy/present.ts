import { FileTree, type TreeRow } from '../archives/fileTree';
import { nameKey, parentOf } from '../paths/paths';
import { deployedByKey } from './deployedByKey';
import type { DeployedFile, DeployedState, Drift } from './model';
import type { GameIndex } from './gameIndex';

/** What a file of the game's folders is, as it lies there now. */
export type Presence =
  /** The game's, or the player's: no pack has anything to do with it. */
  | 'own'
  /** A pack brought it, and nothing was there before. */
  | 'brought'
  /** A pack's lies there in place of the game's own, which is kept. */
  | 'in place'
  /** A settings file in which values were edited. */
  | 'edited'
  /** The app put a file there, and another program has changed it since. */
  | 'changed'
  /** The app put a file there, and it is not there any more. */
  | 'gone';

/** A file or a folder of the game as it lies there. */
export interface PresentRow extends TreeRow {
  /** For a file. */
  presence: Presence | undefined;
  /** The layer that put it there. */
  layer: string | undefined;
  /** When it was written last, in milliseconds since 1970-01-01 UTC. */
  modified: number | undefined;
  /** Files inside that are not only the game's own; for a file 0 or 1. */
  touched: number;
}

interface Entry {
  path: string;
  size: number;
  modified: number | undefined;
}

/**
 * The game's folders as they are now, and who put each file there. Built once for a look at the folders; rows are
 * cheap.
 */
export class PresentFiles {
  readonly counts: Record<Presence, number> = { own: 0, brought: 0, 'in place': 0, edited: 0, changed: 0, gone: 0 };
  private readonly entries: Entry[] = [];
  private readonly records: ReadonlyMap<string, DeployedFile>;
  private readonly drift: Map<string, Drift['how']>;
  private readonly modified = new Map<string, number>();
  private readonly touched = new Map<string, number>();
  private readonly trees = new Map<Presence | 'all' | 'touched', FileTree>();

  private readonly roots: readonly string[];

  constructor(index: GameIndex, state: DeployedState, drifted: readonly Drift[]) {
    this.records = deployedByKey(state);
    this.roots = [...index.filesByRoot.keys()];
    this.drift = new Map(drifted.map(({ target: of, how }) => [nameKey(of), how]));
    for (const { target, size, modified } of index) this.entries.push({ path: target, size, modified });
    for (const { target: of, how } of drifted)
      if (how === 'deleted') this.entries.push({ path: of, size: 0, modified: undefined });
    for (const { path, modified } of this.entries) {
      const presence = this.presenceOf(path);
      this.counts[presence]++;
      if (modified !== undefined) this.modified.set(path, modified);
      if (presence !== 'own')
        for (let folder = parentOf(path); folder !== ''; folder = parentOf(folder))
          this.touched.set(folder, (this.touched.get(folder) ?? 0) + 1);
    }
  }

  /** What a file is. */
  presenceOf(path: string): Presence {
    const key = nameKey(path);
    const how = this.drift.get(key);
    if (how !== undefined) return how === 'deleted' ? 'gone' : 'changed';
    const record = this.records.get(key);
    if (!record) return 'own';
    return record.living ? 'edited' : record.original.kind === 'absent' ? 'brought' : 'in place';
  }

  /** @param only files of one kind; `touched` are all that are not only the game's own */
  rows(only: Presence | 'all' | 'touched', open: ReadonlySet<string>, search: string): (() => PresentRow)[] {
    return this.treeOf(only)
      .rows(open, search)
      .map((row) => () => {
        if (row.kind === 'folder')
          return {
            ...row,
            presence: undefined,
            layer: undefined,
            modified: undefined,
            touched: this.touched.get(row.path) ?? 0,
          };
        const presence = this.presenceOf(row.path);
        return {
          ...row,
          presence,
          layer: this.records.get(nameKey(row.path))?.layer,
          modified: this.modified.get(row.path),
          touched: presence === 'own' ? 0 : 1,
        };
      });
  }

  /** Folders worth showing open at first. */
  firstFolders(only: Presence | 'all' | 'touched'): string[] {
    const down = this.treeOf(only).firstFolders(
      only === 'all' && this.touched.size > 0 ? (folder) => this.touched.has(folder) : undefined,
    );
    // With several of the game's folders each is shown with what lies in it.
    return down.length > 0 ? down : [...this.roots];
  }

  private treeOf(only: Presence | 'all' | 'touched'): FileTree {
    const known =
      this.trees.get(only) ??
      new FileTree(
        only === 'all'
          ? this.entries
          : this.entries.filter(({ path }) => {
              const presence = this.presenceOf(path);
              return only === 'touched' ? presence !== 'own' : presence === only;
            }),
      );
    this.trees.set(only, known);
    return known;
  }
}
