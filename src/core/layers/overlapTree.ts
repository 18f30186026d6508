import { byPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import { holdsAll, searchWords } from '../paths/search';
import { worthOpening } from '../paths/worthOpening';
import type { Claimed } from './claim';
import { sameContent, type Provider } from './layer';

/** What became of one layer's file at a target. */
export type Standing = 'on top' | 'hidden' | 'identical' | 'merged';
/** Files of a layer by what became of them. */
type Standings = Record<Standing, number>;

const noStandings = (): Standings => ({ 'on top': 0, hidden: 0, identical: 0, merged: 0 });

/** What became of each claim to a target. @param mergedFrom for a layer that is a merge: the layers it is made of */
export function standingsOf(
  { claims, winner }: Claimed,
  mergedFrom: (layer: string) => readonly string[] | undefined,
): { layer: string; standing: Standing }[] {
  const sources = winner && mergedFrom(winner.layer);
  const standing = (claim: Provider): Standing =>
    claim === winner
      ? 'on top'
      : sources?.includes(claim.layer)
        ? 'merged'
        : winner && sameContent(claim.file, winner.file)
          ? 'identical'
          : 'hidden';
  return claims.map((claim) => ({ layer: claim.layer, standing: standing(claim) }));
}

/** One row of the overlap picture. */
export interface OverlapRow {
  /** A target, or a folder of targets. */
  path: string;
  name: string;
  depth: number;
  kind: 'folder' | 'file';
  open: boolean;
  /** Targets inside that layers bring; 1 for a file. */
  files: number;
  /** Of those: where layers want different things. */
  overlapping: number;
  layers: { layer: string; standings: Standings }[];
}

interface Branch {
  path: string;
  files: number;
  overlapping: number;
  standings: Map<string, Standings>;
  folders: Branch[];
  leaves: Leaf[];
}

interface Leaf {
  target: TargetPath;
  key: string;
  overlapping: boolean;
  standings: { layer: string; standing: Standing }[];
}

/**
 * The stack as one picture: folders down, layers across, and how much of each lies on top, is hidden, the same, or
 * merged.
 */
export class OverlapTree {
  private readonly root: Branch = branchOf('');
  private readonly leaves: Leaf[];

  /**
   * @param claimed every target that layers claim
   * @param all also targets that only one layer brings, or all with the same content
   */
  constructor(claimed: Iterable<Claimed>, mergedFrom: (layer: string) => readonly string[] | undefined, all: boolean) {
    const leaves: Leaf[] = [];
    for (const one of claimed) {
      // The same bytes in all layers are no overlap.
      const standings = standingsOf(one, mergedFrom);
      const overlapping = standings.some(({ standing }) => standing === 'hidden' || standing === 'merged');
      if (overlapping || all) leaves.push({ target: one.target, key: one.key, overlapping, standings });
    }
    this.leaves = leaves.sort((a, b) => byPath(a.target, b.target));
    const branches = new Map<string, Branch>([['', this.root]]);
    const branch = (path: string): Branch => {
      const known = branches.get(nameKey(path));
      if (known) return known;
      const made = branchOf(path);
      branches.set(nameKey(path), made);
      branch(parentOf(path)).folders.push(made);
      return made;
    };
    for (const leaf of this.leaves) {
      branch(parentOf(leaf.target)).leaves.push(leaf);
      for (let up = parentOf(leaf.target); ; up = parentOf(up)) {
        count(branch(up), leaf);
        if (up === '') break;
      }
    }
  }

  /** Ids of the layers that bring any of these files. */
  get layers(): string[] {
    return [...this.root.standings.keys()];
  }

  /** Targets where layers want different things. */
  get overlapping(): number {
    return this.root.overlapping;
  }

  /** Folders worth showing open: those that lead to where layers want different things. */
  firstFolders(): string[] {
    return worthOpening(this.root, ({ overlapping }) => overlapping > 0 || this.root.overlapping === 0);
  }

  /**
   * The rows with some folders open; with a search, the files whose path holds every word of it. Made one by one, when
   * they are asked for.
   */
  rows(open: ReadonlySet<string>, search = ''): (() => OverlapRow)[] {
    const words = searchWords(search);
    if (words.length > 0)
      return this.leaves.filter(({ key }) => holdsAll(key, words)).map((leaf) => () => fileRow(leaf, '', 0));
    const rows: (() => OverlapRow)[] = [];
    const walk = (at: Branch, depth: number) => {
      for (const folder of at.folders) {
        const isOpen = open.has(folder.path);
        rows.push(() => ({
          path: folder.path,
          name: nameIn(folder.path, at.path),
          depth,
          kind: 'folder',
          open: isOpen,
          files: folder.files,
          overlapping: folder.overlapping,
          layers: [...folder.standings].map(([layer, standings]) => ({ layer, standings })),
        }));
        if (isOpen) walk(folder, depth + 1);
      }
      for (const leaf of at.leaves) rows.push(() => fileRow(leaf, at.path, depth));
    };
    walk(this.root, 0);
    return rows;
  }
}

const branchOf = (path: string): Branch => ({
  path,
  files: 0,
  overlapping: 0,
  standings: new Map(),
  folders: [],
  leaves: [],
});

const nameIn = (path: string, folder: string): string => path.slice(folder === '' ? 0 : folder.length + 1);

const fileRow = ({ target, overlapping, standings }: Leaf, folder: string, depth: number): OverlapRow => ({
  path: target,
  name: nameIn(target, folder),
  depth,
  kind: 'file',
  open: false,
  files: 1,
  overlapping: Number(overlapping),
  layers: standings.map(({ layer, standing }) => ({ layer, standings: { ...noStandings(), [standing]: 1 } })),
});

function count(branch: Branch, { overlapping, standings }: Leaf): void {
  branch.files++;
  branch.overlapping += Number(overlapping);
  for (const { layer, standing } of standings) {
    const sums = branch.standings.get(layer) ?? noStandings();
    sums[standing]++;
    branch.standings.set(layer, sums);
  }
}
