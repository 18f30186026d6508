import { distance } from 'fastest-levenshtein';
import { baseName, nameKey, parentOf } from '../paths/paths';

/** How a file that is there differs from the one that was looked for. */
export type NearKind = 'case' | 'hidden extension' | 'one level off' | 'extension' | 'spelling' | 'folder';

export interface Near<Path extends string = string> {
  path: Path;
  kind: NearKind;
  /** The smaller the nearer; for sorting only. */
  far: number;
}

/** Names further apart than this many letters, or a third of their length, are other names. */
const MOST_LETTERS = 3;
/** Files of one folder that are compared letter by letter. */
const MOST_COMPARED = 5000;

const RANK: Record<NearKind, number> = {
  case: 0,
  'hidden extension': 1,
  'one level off': 2,
  extension: 3,
  folder: 4,
  spelling: 5,
};
/** A name that stands in many folders, as icons do, tells little. */
const COMMON_NAME = 6;
const stemOf = (name: string): string => name.replace(/(?<=.)\.[^.]*$/, '');

type Put<Path> = (path: Path, kind: NearKind, far?: number) => void;

/** Finds the nearest files to one that is missing. Built once for many questions. */
export class NearestFiles<Path extends string = string> {
  private readonly byName = new Map<string, Path[]>();
  private readonly byFolder = new Map<string, Path[]>();
  private readonly byStem = new Map<string, Path[]>();
  private readonly exact = new Set<string>();

  constructor(files: Iterable<Path>) {
    for (const path of files) {
      this.exact.add(path);
      const name = nameKey(baseName(path));
      add(this.byName, name, path);
      add(this.byFolder, nameKey(parentOf(path)), path);
      add(this.byStem, stemOf(name), path);
    }
  }

  has(path: string): boolean {
    return this.exact.has(path);
  }

  /**
   * The files that could be meant, the nearest first.
   *
   * @example new NearestFiles(['a/Lamp.png']).find('a/lamp.png') // [{ path: 'a/Lamp.png', kind: 'case', … }]
   */
  find(wanted: string, most = 5): Near<Path>[] {
    const name = nameKey(baseName(wanted));
    const found = new Map<string, Near<Path>>();
    const common = (this.byName.get(name)?.length ?? 0) > 1;
    const put: Put<Path> = (path, kind, far = 0) => {
      const before = found.get(path);
      if (path !== wanted && (!before || RANK[kind] < RANK[before.kind]))
        found.set(path, { path, kind, far: (kind === 'folder' && common ? COMMON_NAME : RANK[kind]) * 1000 + far });
    };
    this.sameName(wanted, put);
    this.sameStem(wanted, put);
    this.likeSpelled(wanted, put);
    return [...found.values()].sort((a, b) => a.far - b.far || (a.path < b.path ? -1 : 1)).slice(0, most);
  }

  private sameName(wanted: string, put: Put<Path>): void {
    const key = nameKey(wanted);
    const folder = nameKey(parentOf(wanted));
    for (const path of this.byName.get(nameKey(baseName(wanted))) ?? []) {
      const found = nameKey(path);
      if (found === key) put(path, 'case');
      else put(path, isOneLevelOff(found, key) ? 'one level off' : 'folder', distance(nameKey(parentOf(path)), folder));
    }
  }

  /** Beside it, with another ending or one more. */
  private sameStem(wanted: string, put: Put<Path>): void {
    const name = nameKey(baseName(wanted));
    const folder = nameKey(parentOf(wanted));
    for (const path of this.byFolder.get(folder) ?? [])
      if (nameKey(baseName(path)).startsWith(`${name}.`)) put(path, 'hidden extension');
    for (const path of this.byStem.get(stemOf(name)) ?? [])
      if (nameKey(parentOf(path)) === folder) put(path, 'extension');
  }

  private likeSpelled(wanted: string, put: Put<Path>): void {
    const name = nameKey(baseName(wanted));
    const neighbours = this.byFolder.get(nameKey(parentOf(wanted))) ?? [];
    if (neighbours.length > MOST_COMPARED) return;
    const most = Math.min(MOST_LETTERS, Math.floor(stemOf(name).length / 3) + 1);
    for (const path of neighbours) {
      const letters = distance(nameKey(baseName(path)), name);
      if (letters > 0 && letters <= most) put(path, 'spelling', letters);
    }
  }
}

function add<Path>(map: Map<string, Path[]>, key: string, path: Path): void {
  const list = map.get(key);
  if (list) list.push(path);
  else map.set(key, [path]);
}

/** Is one path the other with one folder more or less on the way? */
export function isOneLevelOff(a: string, b: string): boolean {
  const [short, long] = [a.split('/'), b.split('/')].sort((one, other) => one.length - other.length) as [
    string[],
    string[],
  ];
  if (long.length - short.length !== 1) return false;
  let at = 0;
  while (at < short.length && short[at] === long[at]) at++;
  return short.slice(at).every((name, i) => name === long[at + 1 + i]);
}

/** The names in a list that are spelled nearly like one, the nearest first. */
export const nearestNames = (wanted: string, names: Iterable<string>, most = 3): string[] =>
  [...names]
    .map((name) => ({ name, letters: distance(nameKey(name), nameKey(wanted)) }))
    .filter(({ letters }) => letters <= Math.min(MOST_LETTERS, Math.ceil(wanted.length / 3)))
    .sort((a, b) => a.letters - b.letters || (a.name < b.name ? -1 : 1))
    .slice(0, most)
    .map(({ name }) => name);
