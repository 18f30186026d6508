import type { PackEntry } from '../archives/pack';
import { baseName, isUnder, joinPath, nameKey, parentOf } from '../paths/paths';
import type { Candidate, Plan } from './plans';
import type { GameTree } from '../names/gameTree';

/** Each file that an item places, with where it comes to lie. */
function* targetOfItem(
  { node, to, file, inside }: Candidate,
  entries: readonly PackEntry[],
): Generator<[target: string, path: string]> {
  if (file) yield [to, node];
  else
    for (const { path } of entries)
      if (isUnder(path, node))
        yield [joinPath(inside === undefined ? to : `${to}!`, node === '' ? path : path.slice(node.length + 1)), path];
}

/** Folders of the pack that lead to the same files of the game: one of them can be taken, or one lies over the rest. */
interface Collisions {
  exclusive: { parent: string; options: string[] }[];
  optional: string[];
}

/**
 * Finds parts of a plan that exclude each other. Folders beside each other whose names the game does not know are
 * choices; one beside a folder of the game's is a part that is laid over it.
 */
export function collisionsOf(plan: Plan, entries: readonly PackEntry[], tree: GameTree): Collisions {
  const meetings = new Meetings();
  for (const paths of pathsByTarget(plan, entries)) {
    if (paths.length < 2 || paths.length > 20) continue;
    for (const a of paths) for (const b of paths) if (a < b) meetings.note(a, b);
  }
  const made: Collisions = { exclusive: [], optional: [...meetings.overFiles].sort() };
  for (const group of meetings.groups()) {
    const known = group.filter((one) => tree.foldersByName.has(nameKey(baseName(one))));
    const fresh = group.filter((one) => !known.includes(one));
    const isOver = known.length > 0 && fresh.length > 0 && !meetings.areInstead(fresh, known, entries);
    if (isOver) made.optional.push(...fresh.sort());
    else if (group.length > 1) made.exclusive.push({ parent: parentOf(group[0] as string), options: group.sort() });
  }
  return made;
}

/** The files of the pack that lead to each file of the game. */
function pathsByTarget(plan: Plan, entries: readonly PackEntry[]): Iterable<string[]> {
  const owners = new Map<string, string[]>();
  for (const item of plan.items)
    for (const [target, path] of targetOfItem(item, entries)) {
      const key = nameKey(target);
      const known = owners.get(key);
      if (known) known.push(path);
      else owners.set(key, [path]);
    }
  return owners.values();
}

/** Folders of a pack of which files lead to the same place. */
class Meetings {
  /** Folders that are laid over a file beside them. */
  readonly overFiles = new Set<string>();
  private readonly pairs = new Map<string, Set<string>>();
  /** How many files of two folders lead to the same place. */
  private readonly met = new Map<string, number>();

  note(a: string, b: string): void {
    const [x, y] = partedAt(a, b);
    if (x !== undefined && y !== undefined) {
      this.count(x, y);
      this.count(y, x);
      return;
    }
    const over = x ?? y;
    if (over !== undefined) this.overFiles.add(over);
  }

  private count(x: string, y: string): void {
    this.met.set(`${x}\n${y}`, (this.met.get(`${x}\n${y}`) ?? 0) + 1);
    this.pairs.set(x, (this.pairs.get(x) ?? new Set()).add(y));
  }

  /** Folders beside each other that meet, one way or another. */
  *groups(): Generator<string[]> {
    const done = new Set<string>();
    for (const folder of [...this.pairs.keys()].sort()) {
      if (done.has(folder)) continue;
      const group = [folder];
      for (let i = 0; i < group.length; i++)
        for (const other of this.pairs.get(group[i] as string) ?? [])
          if (!group.includes(other) && parentOf(other) === parentOf(folder)) group.push(other);
      group.forEach((one) => done.add(one));
      yield group;
    }
  }

  /** One that covers all of the other is instead of it, not over it. */
  areInstead(fresh: readonly string[], known: readonly string[], entries: readonly PackEntry[]): boolean {
    const size = (folder: string) => entries.filter(({ path }) => isUnder(path, folder)).length;
    return fresh.every((one) =>
      known.some((other) => (this.met.get(`${one}\n${other}`) ?? 0) >= 0.8 * Math.max(size(one), size(other))),
    );
  }
}

/**
 * The folders just below the last folder that two files have in common; undefined for a file that lies straight in that
 * one.
 */
function partedAt(a: string, b: string): [string | undefined, string | undefined] {
  const [x, y] = [a.split('/'), b.split('/')];
  let depth = 0;
  while (depth < x.length && x[depth] === y[depth]) depth++;
  const at = (names: readonly string[]) =>
    depth >= names.length - 1 ? undefined : names.slice(0, depth + 1).join('/');
  return [at(x), at(y)];
}
