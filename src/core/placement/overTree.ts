import type { PackEntry } from '../archives/pack';
import { largest } from '../lists';
import { baseName, isUnder, joinPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import type { GameTree } from './gameTree';
import { packFolders, type PackFolder } from './packFolders';

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

interface Way {
  strip: string;
  base: string;
  votes: number;
}

/** Every (strip, base) worth a close look, by what the pack's and the game's folders and files have in common. */
export const waysOver = (folders: PackFolder[], tree: GameTree): { strip: string; base: string }[] => candidates(folders, tree);

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
  // Votes only say what to look at closely: of a large pack a few files of each folder are enough.
  const many = folders.reduce((sum, { files }) => sum + files.length, 0) > MANY_FILES;
  for (const folder of folders) {
    for (let i = folder.names.length - 1, upTo = folder.path; i >= 0 && !seen.has(upTo); i--, upTo = parentOf(upTo)) {
      seen.add(upTo);
      const places = tree.foldersByName.get(folder.keys[i] as string) ?? [];
      if (places.length > COMMON_NAME) continue;
      for (const place of places) vote(parentOf(upTo), parentOf(tree.folders.get(place) as string), 1);
    }
    // Files of one folder that meet one folder of the game are one vote of that weight.
    const meetings = new Map<string, number>();
    for (const file of many ? folder.fileKeys.slice(0, SAMPLE) : folder.fileKeys) {
      const places = tree.foldersOfFile.get(file);
      if (places === undefined || (typeof places !== 'string' && places.length > COMMON_NAME)) continue;
      for (const place of typeof places === 'string' ? [places] : places) meetings.set(place, (meetings.get(place) ?? 0) + 1);
    }
    for (const [place, files] of meetings) vote(folder.path, tree.folders.get(place) as string, files);
  }
  const most = largest([...ways.values()].map(({ votes }) => votes));
  // What few speak for need not be looked at closely.
  return [...ways.values()].filter(({ votes }) => votes * 50 >= most).sort((a, b) => b.votes - a.votes || a.strip.length - b.strip.length || (a.base < b.base ? -1 : 1)).slice(0, CLOSE_LOOKS);
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
  const stripped = way.strip === '' ? 0 : way.strip.split('/').length;
  const base = nameKey(way.base);
  for (const folder of folders) {
    result.total += folder.files.length;
    if (!isUnder(folder.path, way.strip)) continue;
    const names = folder.names.slice(stripped);
    let key = base;
    let depth = 0;
    for (let next; depth < names.length && tree.folders.has((next = `${key}/${folder.keys[stripped + depth]}`)); depth++) key = next;
    let exact = 0;
    const own = depth === names.length ? tree.files.get(key) : undefined;
    if (own) for (const file of folder.fileKeys) if (own.has(file)) exact++;
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
