import { sameStat, type FileStat, type FolderChanges } from '../folder';
import { byPath, joinPath, nameKey, parentOf, splitTarget, target, type TargetPath } from '../paths/paths';

/** The game's folders as they are. */
export interface Listing {
  /** Every file, by root. */
  files: Readonly<Record<string, readonly FileStat[]>>;
  /** Links to folders, and those that lead nowhere or out. */
  links: readonly TargetPath[];
}

/** A file of the game's folders. */
export interface IndexedFile extends FileStat {
  target: TargetPath;
}

/**
 * Every file of the game's folders, by the key of its target: made once out of a list, and mended with what is heard
 * since. What nobody changed costs nothing again.
 */
export class GameIndex {
  private readonly byKey = new Map<string, IndexedFile>();
  /** Files whose names differ from another one's by capitals alone, as some disks can have them: hidden behind it. */
  private readonly twins = new Map<string, Map<TargetPath, IndexedFile>>();
  /** By folder, both spelled like the disk does: the files directly in it. */
  private readonly inFolder = new Map<TargetPath, Set<TargetPath>>();
  private readonly counts = new Map<string, number>();
  /** Another one whenever a file is not as it was. */
  version = 0;
  private linked = new Map<string, TargetPath>();
  /** Folders by key, as they are spelled; found anew where a folder has come or gone. */
  private spelled: Map<string, TargetPath> | undefined;
  private ownList: { files: TargetPath[]; brought: ReadonlySet<string> } | undefined;
  /** Keys of files that have come or gone since the game's own files were told last, and whether they were there. */
  private readonly renamed = new Map<string, boolean>();

  constructor(listing: Listing) {
    for (const [root, stats] of Object.entries(listing.files)) {
      this.counts.set(root, 0);
      for (const stat of stats) this.put(root, nameKey(target(root, stat.path)), stat);
    }
    this.setLinks(listing.links);
    this.renamed.clear();
  }

  get size(): number {
    return this.byKey.size;
  }

  /** Links by key, as they are spelled. */
  get links(): ReadonlyMap<string, TargetPath> {
    return this.linked;
  }

  /** How many files each of the game's folders has. */
  get filesByRoot(): ReadonlyMap<string, number> {
    return this.counts;
  }

  get(key: string): IndexedFile | undefined {
    return this.byKey.get(key);
  }

  has(key: string): boolean {
    return this.byKey.has(key);
  }

  [Symbol.iterator](): Iterator<IndexedFile> {
    return this.byKey.values();
  }

  /** The files of one of the game's folders, with paths inside it. */
  filesOf(root: string): FileStat[] {
    const found: FileStat[] = [];
    for (const file of this.byKey.values()) if (splitTarget(file.target).root === root) found.push(file);
    return found;
  }

  /** A target as it is spelled, or would be: new files join folders that are there. */
  spell(wanted: TargetPath): TargetPath {
    const file = this.byKey.get(nameKey(wanted));
    if (file) return file.target;
    const spelled = (this.spelled ??= this.spellFolders());
    for (let folder = parentOf(wanted); folder !== ''; folder = parentOf(folder)) {
      const known = spelled.get(nameKey(folder));
      if (known !== undefined) return joinPath(known, wanted.slice(folder.length + 1));
    }
    return wanted;
  }

  /**
   * The game's own files: all but those that packs brought. The same list as before where none of them has come or
   * gone.
   *
   * @param brought keys of what packs brought where nothing was
   */
  own(brought: ReadonlySet<string>): readonly TargetPath[] {
    const last = this.ownList;
    if (last && !this.ownChanged(last.brought, brought)) {
      last.brought = brought;
    } else {
      const files: TargetPath[] = [];
      for (const [key, file] of this.byKey) if (!brought.has(key)) files.push(file.target);
      this.ownList = { files, brought };
    }
    this.renamed.clear();
    return (this.ownList as { files: TargetPath[] }).files;
  }

  /** Takes in what a folder says that has changed in it. */
  mend(root: string, { whole, folders, gone, links }: Omit<FolderChanges, 'now'>): void {
    if (!this.counts.has(root)) this.counts.set(root, 0);
    const seen = new Set<TargetPath>();
    for (const { path, files } of folders) {
      const folder = target(root, path);
      seen.add(folder);
      this.setFolder(root, folder, files);
    }
    if (whole) {
      for (const folder of [...this.inFolder.keys()])
        if (splitTarget(folder).root === root && !seen.has(folder)) this.setFolder(root, folder, []);
    } else for (const path of gone) this.setFolder(root, target(root, path), []);
    const others = [...this.linked.values()].filter((link) => splitTarget(link).root !== root);
    this.setLinks([...others, ...links.map((link) => target(root, link))]);
  }

  /** Takes in how single files are now. @param now undefined where it is gone */
  mendFile(of: TargetPath, now: FileStat | undefined): void {
    const { root } = splitTarget(of);
    if (now) this.put(root, nameKey(of), now);
    else if (this.inFolder.get(parentOf(of))?.has(of)) this.drop(root, nameKey(of), of);
  }

  /** Takes a whole list in the place of what is known of these folders. */
  replace(listing: Listing): void {
    for (const [root, stats] of Object.entries(listing.files)) {
      const folders = new Map<string, FileStat[]>();
      for (const stat of stats) {
        const folder = parentOf(stat.path);
        const files = folders.get(folder);
        if (files) files.push(stat);
        else folders.set(folder, [stat]);
      }
      this.mend(root, {
        whole: true,
        folders: [...folders].map(([path, files]) => ({ path, files })),
        gone: [],
        links: listing.links.flatMap((link) => (splitTarget(link).root === root ? [splitTarget(link).path] : [])),
      });
    }
  }

  private setFolder(root: string, folder: TargetPath, files: readonly FileStat[]): void {
    const before = this.inFolder.get(folder);
    if (before) {
      const now = new Set(files.map(({ path }) => target(root, path)));
      for (const of of [...before]) if (!now.has(of)) this.drop(root, nameKey(of), of);
    }
    for (const stat of files) this.put(root, nameKey(target(root, stat.path)), stat);
  }

  private put(root: string, key: string, stat: FileStat): void {
    const of = target(root, stat.path);
    const first = this.byKey.get(key);
    const isTwin = first !== undefined && first.target !== of;
    const known = isTwin ? this.twins.get(key)?.get(of) : first;
    if (known && sameStat(known, stat)) return;
    this.version++;
    const file = { ...stat, target: of };
    if (!isTwin) this.byKey.set(key, file);
    else this.twins.set(key, (this.twins.get(key) ?? new Map<TargetPath, IndexedFile>()).set(of, file));
    if (known) return;
    if (!this.renamed.has(key)) this.renamed.set(key, isTwin);
    this.counts.set(root, (this.counts.get(root) ?? 0) + 1);
    const folder = parentOf(of);
    const others = this.inFolder.get(folder);
    if (others) others.add(of);
    else {
      this.inFolder.set(folder, new Set([of]));
      this.spelled = undefined;
    }
  }

  private drop(root: string, key: string, of: TargetPath): void {
    this.version++;
    const twins = this.twins.get(key);
    if (!twins?.delete(of)) {
      // The one that was hidden behind it shows.
      const [next] = twins?.values() ?? [];
      if (next) this.byKey.set(key, next);
      else this.byKey.delete(key);
      if (next) twins?.delete(next.target);
    }
    if (twins?.size === 0) this.twins.delete(key);
    if (!this.renamed.has(key)) this.renamed.set(key, true);
    this.counts.set(root, (this.counts.get(root) ?? 1) - 1);
    const folder = parentOf(of);
    const others = this.inFolder.get(folder);
    others?.delete(of);
    if (others?.size !== 0) return;
    this.inFolder.delete(folder);
    this.spelled = undefined;
  }

  private setLinks(links: readonly TargetPath[]): void {
    const before = [...this.linked.values()].join('\n');
    this.linked = new Map([...links].sort(byPath).map((link) => [nameKey(link), link]));
    if ([...this.linked.values()].join('\n') !== before) this.version++;
  }

  private spellFolders(): Map<string, TargetPath> {
    const spelled = new Map<string, TargetPath>();
    for (const folder of this.inFolder.keys())
      for (let path: TargetPath | '' = folder; path !== '' && !spelled.has(nameKey(path)); path = parentOf(path))
        spelled.set(nameKey(path), path);
    return spelled;
  }

  /** Is one of the game's own files another one than before? */
  private ownChanged(before: ReadonlySet<string>, now: ReadonlySet<string>): boolean {
    for (const [key, wasThere] of this.renamed) {
      const isOwn = this.byKey.has(key) && !now.has(key);
      if (isOwn || (wasThere && !before.has(key))) return true;
    }
    const stayed = (key: string) => this.byKey.has(key) && !this.renamed.has(key);
    for (const key of before) if (!now.has(key) && stayed(key)) return true;
    for (const key of now) if (!before.has(key) && stayed(key)) return true;
    return false;
  }
}
