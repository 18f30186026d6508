import type { PackEntry } from '../archives/pack';
import { baseName, isUnder, joinPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import type { GameTree } from './gameTree';

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
/** How many ways are looked at closely. */
const CLOSE_LOOKS = 32;

/**
 * Finds where files go by laying their folders over the game's own.
 * Common practice: a pack that repeats the game's tree goes over it, whatever wrappers stand above; one that starts
 * lower down goes one level above the first folder that both have. The work grows linearly with both trees.
 *
 * @returns the best ways, best first; with `none` there is not one
 */
export function overTree(entries: readonly PackEntry[], tree: GameTree): { confidence: 'sure' | 'likely' | 'ask' | 'none'; choices: BaseChoice[] } {
  const folders = packFolders(entries);
  const ranked = candidates(folders, tree)
    .map((way) => score(way, folders, tree))
    .filter((way) => way.points > 0)
    .sort((a, b) => b.points - a.points || a.base.length - b.base.length || (a.base < b.base ? -1 : 1));
  const choices: BaseChoice[] = ranked.slice(0, 6).map(({ strip, base, matched, exact, common }) => ({ strip, base: base as TargetPath, matched, exact, reason: reasonFor(common, exact) }));
  const [best, second] = ranked;
  if (!best) return { confidence: 'none', choices };
  const close = second !== undefined && second.points >= best.points * 0.8;
  // One folder name in common can be chance; a chain of them, or files of the same name, hardly.
  const firm = best.matched * 2 >= best.inside || best.exact > 0 || best.chain > 1;
  return { confidence: close ? 'ask' : firm && best.inside * 2 >= best.total ? 'sure' : 'likely', choices };
}

interface PackFolder {
  path: string;
  names: string[];
  files: string[];
}

function packFolders(entries: readonly PackEntry[]): PackFolder[] {
  const byPath = new Map<string, PackFolder>();
  for (const { path } of entries) {
    const folder = parentOf(path);
    const known = byPath.get(folder);
    if (known) known.files.push(path);
    else byPath.set(folder, { path: folder, names: folder === '' ? [] : folder.split('/'), files: [path] });
  }
  return [...byPath.values()];
}

interface Way {
  strip: string;
  base: string;
  votes: number;
}

/** Every (strip, base) under which some folder or file name of the pack meets the same name in the game. */
function candidates(folders: PackFolder[], tree: GameTree): Way[] {
  const ways = new Map<string, Way>();
  const vote = (strip: string, base: string, votes: number) => {
    // `a/assets` over `x/assets` is the same way as `a` over `x`.
    while (strip !== '' && base.includes('/') && nameKey(baseName(strip)) === nameKey(baseName(base))) [strip, base] = [parentOf(strip), parentOf(base)];
    const id = `${strip}\n${base}`;
    const way = ways.get(id);
    if (way) way.votes += votes;
    else ways.set(id, { strip, base, votes });
  };
  const seen = new Set<string>();
  for (const folder of folders) {
    for (let i = 0; i < folder.names.length; i++) {
      const upTo = folder.names.slice(0, i + 1).join('/');
      if (seen.has(upTo)) continue;
      seen.add(upTo);
      const places = tree.foldersByName.get(nameKey(folder.names[i] as string)) ?? [];
      if (places.length > COMMON_NAME) continue;
      for (const place of places) vote(parentOf(upTo), parentOf(tree.folders.get(place) as string), 1);
    }
    for (const file of folder.files) {
      const places = tree.filesByName.get(nameKey(baseName(file))) ?? [];
      if (places.length > COMMON_NAME) continue;
      for (const place of places) vote(folder.path, parentOf(tree.files.get(place) as string), 1);
    }
  }
  return [...ways.values()].sort((a, b) => b.votes - a.votes || a.strip.length - b.strip.length || (a.base < b.base ? -1 : 1)).slice(0, CLOSE_LOOKS);
}

interface ScoredWay extends Way {
  points: number;
  total: number;
  /** Files whose first folder the game has at the base. */
  inside: number;
  matched: number;
  exact: number;
  /** How many folders deep most files follow the game's tree. */
  chain: number;
  /** The deepest folder that both have, for the reason. */
  common: string;
}

function score(way: Way, folders: PackFolder[], tree: GameTree): ScoredWay {
  const result: ScoredWay = { ...way, points: 0, total: 0, inside: 0, matched: 0, exact: 0, chain: 0, common: '' };
  let mostFiles = 0;
  for (const folder of folders) {
    result.total += folder.files.length;
    if (!isUnder(folder.path, way.strip)) continue;
    const names = way.strip === '' ? folder.names : folder.names.slice(way.strip.split('/').length);
    let key = nameKey(way.base);
    let depth = 0;
    while (depth < names.length && tree.folders.has(`${key}/${nameKey(names[depth] as string)}`)) key += `/${nameKey(names[depth++] as string)}`;
    const exact = depth < names.length ? 0 : folder.files.filter((file) => tree.files.has(`${key}/${nameKey(baseName(file))}`)).length;
    const matched = depth === names.length && depth > 0 ? folder.files.length : 0;
    const inside = depth > 0 ? folder.files.length : exact;
    result.exact += exact;
    result.matched += Math.max(matched, exact);
    result.inside += inside;
    result.points += exact * 3 + matched * 2 + (depth > 0 ? folder.files.length * (depth / names.length) : 0);
    if (depth > 0 && folder.files.length > mostFiles) {
      mostFiles = folder.files.length;
      result.chain = depth;
      result.common = joinPath(way.base.split('/').slice(1).join('/'), names.slice(0, depth).join('/'));
    }
  }
  // A folder whose name the game knows is hardly a wrapper; several of them even less.
  result.points *= 0.5 ** way.strip.split('/').filter((name) => tree.foldersByName.has(nameKey(name))).length;
  return result;
}

function reasonFor(common: string, exact: number): string {
  const names = exact > 0 ? `${exact} of its files ${exact === 1 ? 'has' : 'have'} the name of one of the game’s` : '';
  if (common === '') return `${names}.`;
  return `Its folders match the game’s own “${common}”${names ? `, and ${names}` : ''}.`;
}

/** The folder that every file lies in, '' where there is none. */
export function sharedFolder(entries: readonly PackEntry[]): string {
  let shared = entries[0] ? parentOf(entries[0].path) : '';
  for (const { path } of entries) while (!isUnder(path, shared)) shared = parentOf(shared);
  return shared;
}
