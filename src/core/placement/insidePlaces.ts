import { onceFor } from '../once';
import { oneOr } from '../words';
import { baseName, foldersAbove, joinPath, nameKey, parentOf, stemOf } from '../paths/paths';
import { WEIGHTS, saturate, type Evidence } from './evidence';
import { relOf, type PackNode } from './packTree';

interface InsideIndex {
  files: Set<string>;
  folders: Set<string>;
  /** A file's own name to the folders inside that have it. */
  byName: Map<string, string[]>;
}

const insideIndex = onceFor((paths: readonly string[]): InsideIndex => {
  const made: InsideIndex = { files: new Set(), folders: foldersAbove(paths.map(nameKey)), byName: new Map() };
  for (const path of paths) {
    const key = nameKey(path);
    made.files.add(key);
    made.byName.set(baseName(key), [...(made.byName.get(baseName(key)) ?? []), parentOf(path)]);
  }
  return made;
});

/** A place inside one of the game's own archives. */
export interface InsidePlace {
  archive: string;
  /** The folder inside. */
  inner: string;
  evidence: Evidence[];
  /** Files of the very same path are inside. */
  exact: boolean;
}

/** Names of files are looked for inside only where they are few. */
const MOST_FILES = 60;

/** The places for a folder of a pack inside the game's archives: by paths, by the archive's name, by names of files. */
export function* insidePlaces(node: PackNode, inside: ReadonlyMap<string, readonly string[]>): Generator<InsidePlace> {
  if (node.count === 0) return;
  for (const [archive, paths] of inside) {
    const known = insideIndex(paths);
    const loose = looseInside(node, archive, known);
    if (loose) yield loose;
    const { exact, near } = meetInside(node, known);
    // An archive that has a folder of that name keeps it.
    const called = isCalledAfter(node, archive) && !known.folders.has(nameKey(node.name));
    if (exact + near === 0 && !called) continue;
    const evidence = weighInside({ exact, near, called, archive, total: node.count, archives: inside.size });
    yield { archive, inner: '', evidence, exact: exact > 0 };
  }
}

/** How many files are inside under this path, and how many lie in a folder that is inside. */
function meetInside(node: PackNode, { files, folders }: InsideIndex): { exact: number; near: number } {
  let [exact, near] = [0, 0];
  for (const folder of node.folders) {
    const rel = relOf(folder, node).join('/');
    const folderThere = rel !== '' && folders.has(rel);
    for (const file of folder.fileKeys) {
      if (files.has(joinPath(rel, file))) exact++;
      else if (folderThere) near++;
    }
  }
  return { exact, near };
}

/** A folder of a pack, of so many files, over an archive of the game. */
interface OverArchive {
  archive: string;
  exact: number;
  near: number;
  total: number;
  called: boolean;
  /** How many archives the game has. */
  archives: number;
}

function weighInside({ exact, near, total, called, archive, archives }: OverArchive): Evidence[] {
  const quoted = `“${baseName(archive)}”`;
  const share = (exact + near) / total;
  const evidence: Evidence[] = [];
  if (exact > 0)
    evidence.push({
      weight: WEIGHTS.insidePath * saturate(exact, 1) * share,
      says: `${oneOr(exact, 'One file', `${exact} files`)} of this path ${oneOr(exact, 'is', 'are')} inside ${quoted}.`,
    });
  else if (near > 0)
    evidence.push({
      weight: (WEIGHTS.insidePath / 2 / Math.sqrt(archives)) * share,
      says: `Its folders are inside ${quoted}.`,
    });
  if (share < 1 && !called)
    evidence.push({ weight: WEIGHTS.astray * (1 - share), says: 'A part of it has no place inside.' });
  if (called) evidence.push({ weight: WEIGHTS.archiveName, says: `The folder is called after ${quoted}.` });
  return evidence;
}

/** `main.box`, `main`, `for main.box`, `new_main`: a folder for the archive `main.box`. */
function isCalledAfter(node: PackNode, archive: string): boolean {
  if (node.path === '') return false;
  const key = nameKey(node.name);
  const name = nameKey(baseName(archive));
  const stem = stemOf(name);
  return key === name || key === stem || ` ${key} `.includes(` ${name} `) || key.endsWith(`_${stem}`);
}

/** Files that lie loose in the pack under names that the archive has in one of its folders. */
function looseInside(node: PackNode, archive: string, { byName }: InsideIndex): InsidePlace | undefined {
  if (node.children.length > 0 || node.files.length === 0 || node.files.length > MOST_FILES) return undefined;
  const homes = node.files.map(({ path }) => byName.get(nameKey(baseName(path))) ?? []);
  const inner = (homes[0] ?? []).find((folder) => folder !== '' && homes.every((some) => some.includes(folder)));
  if (inner === undefined || nameKey(node.name) === baseName(inner)) return undefined;
  const weight = WEIGHTS.insidePath * WEIGHTS.sameName * saturate(homes.length, 1);
  return {
    archive,
    inner,
    evidence: [{ weight, says: `Names of its files are inside “${baseName(archive)}”, in “${inner}”.` }],
    exact: false,
  };
}
