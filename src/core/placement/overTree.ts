import { largest } from '../lists';
import { baseName, nameKey, parentOf, type TargetPath } from '../paths/paths';
import type { GameTree } from '../names/gameTree';
import type { PackFolder } from '../placed/packFolders';

/** One way to lay a pack over the game: take the pack's folder `strip` away and put the rest into `base`. */
export interface BaseChoice {
  strip: string;
  base: TargetPath;
  /** Files that fall into a folder the game has. */
  matched: number;
  /** Files of the same name and place as one of the game's. */
  exact: number;
  /** Why, as a sentence. */
  reason: string;
}

/** A name that stands in more folders of the game than this says nothing about where a pack belongs. */
const COMMON_NAME = 64;
/** From how many files on only some of each folder are asked where they would go. */
const MANY_FILES = 20_000;
const SAMPLE = 8;
/** How many ways are looked at closely. */
const CLOSE_LOOKS = 32;

interface Way {
  strip: string;
  base: string;
  votes: number;
}

/** Ways as they are met, with what speaks for each. */
class Ways {
  readonly all = new Map<string, Way>();
  private readonly seen = new Set<string>();

  constructor(private readonly tree: GameTree) {}

  private vote(strip: string, base: string, votes: number): void {
    // `a/assets` over `x/assets` is the same way as `a` over `x`.
    while (strip !== '' && base.includes('/') && nameKey(baseName(strip)) === nameKey(baseName(base)))
      [strip, base] = [parentOf(strip), parentOf(base)];
    const id = `${strip}\n${base}`;
    const way = this.all.get(id);
    if (way) way.votes += votes;
    else this.all.set(id, { strip, base, votes });
  }

  /** Folders of the pack that are called like one of the game's. */
  byFolders({ names, keys, path }: PackFolder): void {
    const { tree, seen } = this;
    for (let i = names.length - 1, upTo = path; i >= 0 && !seen.has(upTo); i--, upTo = parentOf(upTo)) {
      seen.add(upTo);
      const places = tree.foldersByName.get(keys[i] as string) ?? [];
      if (places.length > COMMON_NAME) continue;
      for (const place of places) this.vote(parentOf(upTo), parentOf(tree.folders.get(place) as string), 1);
    }
  }

  /** Files of one folder that meet one folder of the game are one vote of that weight. */
  byFiles(folder: string, fileKeys: readonly string[]): void {
    const meetings = new Map<string, number>();
    for (const file of fileKeys) {
      const places = this.tree.foldersOfFile.get(file);
      if (places === undefined || (typeof places !== 'string' && places.length > COMMON_NAME)) continue;
      for (const place of typeof places === 'string' ? [places] : places)
        meetings.set(place, (meetings.get(place) ?? 0) + 1);
    }
    for (const [place, files] of meetings) this.vote(folder, this.tree.folders.get(place) as string, files);
  }
}

/**
 * Every way to lay a pack over the game that is worth a close look: take `strip` away, put the rest into `base`, and
 * some folder or file of the pack meets one of the same name. Common practice: a pack that repeats the game's tree goes
 * over it, whatever wrappers stand above. The work grows linearly with both trees.
 */
export function waysOver(folders: readonly PackFolder[], tree: GameTree): { strip: string; base: string }[] {
  const ways = new Ways(tree);
  // Votes only say what to look at closely: of a large pack a few files of each folder are enough.
  const many = folders.reduce((sum, { files }) => sum + files.length, 0) > MANY_FILES;
  for (const folder of folders) {
    ways.byFolders(folder);
    ways.byFiles(folder.path, many ? folder.fileKeys.slice(0, SAMPLE) : folder.fileKeys);
  }
  const all = [...ways.all.values()];
  const most = largest(all.map(({ votes }) => votes));
  // What few speak for need not be looked at closely.
  return all
    .filter(({ votes }) => votes * 50 >= most)
    .sort((a, b) => b.votes - a.votes || a.strip.length - b.strip.length || (a.base < b.base ? -1 : 1))
    .slice(0, CLOSE_LOOKS);
}
