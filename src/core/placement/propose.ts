import type { PackEntry } from '../archives/pack';
import type { GameCard } from '../games/card';
import { baseName, extensionOf, isUnder, joinPath, nameKey, parentOf, type PackPath, type TargetPath } from '../paths/paths';
import { forTheReader, showsTheResult, type LeftOutReason } from './baggage';
import { buildGameTree, type GameTree } from './gameTree';
import type { Placement } from './placement';

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

export interface PlacementProposal {
  /** `sure` and `likely` can be used as they are; with `ask` the player has to choose. */
  confidence: 'sure' | 'likely' | 'ask';
  placement: Placement;
  /** The best ways, best first; never empty. */
  choices: BaseChoice[];
}

export interface PlacementInput {
  entries: readonly PackEntry[];
  card: GameCard;
  /** Every file of the game as a target, without the files that packs brought. */
  gameFiles: Iterable<string>;
}

/** A name that stands in more folders of the game than this says nothing about where a pack belongs. */
const COMMON_NAME = 64;
/** How many ways are looked at closely. */
const CLOSE_LOOKS = 32;

/**
 * Finds where a pack's files go by laying the pack's folders over the game's own.
 * Common practice: a pack that repeats the game's tree goes over it, whatever wrappers stand above; one that starts
 * lower down goes one level above the first folder that both have. The work grows linearly with both trees.
 */
export function proposePlacements({ entries, card, gameFiles }: PlacementInput): PlacementProposal {
  const tree = buildGameTree(card.roots.map((root) => root.id), gameFiles);
  // What only speaks to the reader says nothing about where the rest belongs.
  const folders = packFolders(entries.filter(({ path }) => !forTheReader(path) && !showsTheResult(path)));
  const ranked = candidates(folders, tree)
    .map((way) => score(way, folders, tree))
    .filter((way) => way.points > 0)
    .sort((a, b) => b.points - a.points || a.base.length - b.base.length || (a.base < b.base ? -1 : 1));
  const choices: BaseChoice[] = ranked.slice(0, 6).map(({ strip, base, matched, exact, common }) => ({ strip, base: base as TargetPath, matched, exact, reason: reasonFor(common, exact) }));
  const [best, second] = ranked;
  if (!best) {
    const root = (card.roots[0]?.id ?? 'game') as TargetPath;
    const strip = sharedFolder(entries);
    choices.push({ strip, base: root, matched: 0, exact: 0, reason: 'None of its folders is known to the game.' });
    return { confidence: 'ask', choices, placement: placementAt(strip, root, entries, card, tree) };
  }
  const close = second !== undefined && second.points >= best.points * 0.8;
  // One folder name in common can be chance; a chain of them, or files of the same name, hardly.
  const firm = best.matched * 2 >= best.inside || best.exact > 0 || best.chain > 1;
  const confidence = close ? 'ask' : firm && best.inside * 2 >= best.total ? 'sure' : 'likely';
  return { confidence, choices, placement: placementAt(best.strip, best.base, entries, card, tree) };
}

/** The placement at a base that the player chose, with what does not belong left out again. */
export function proposeAt({ entries, card, gameFiles }: PlacementInput, strip: string, base: TargetPath): Placement {
  return placementAt(strip, base, entries, card, buildGameTree(card.roots.map((root) => root.id), gameFiles));
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
  // A folder whose name the game knows is hardly a wrapper.
  if (way.strip.split('/').some((name) => tree.foldersByName.has(nameKey(name)))) result.points *= 0.6;
  return result;
}

function reasonFor(common: string, exact: number): string {
  const names = exact > 0 ? `${exact} of its files ${exact === 1 ? 'has' : 'have'} the name of one of the game’s` : '';
  if (common === '') return `${names}.`;
  return `Its folders match the game’s own “${common}”${names ? `, and ${names}` : ''}.`;
}

/** The folder that every file lies in, '' where there is none. */
function sharedFolder(entries: readonly PackEntry[]): string {
  let shared = entries[0] ? parentOf(entries[0].path) : '';
  for (const { path } of entries) while (!isUnder(path, shared)) shared = parentOf(shared);
  return shared;
}

function placementAt(strip: string, base: string, entries: readonly PackEntry[], card: GameCard, tree: GameTree): Placement {
  const living = new Set(card.settings.map((file) => nameKey(file.target)));
  const leftOut = entries.flatMap(({ path }) => {
    const why = whyLeftOut(path, strip, base, tree, living);
    return why ? [{ path, why }] : [];
  });
  return { strip, base: base as TargetPath, leftOut, decisions: { out: [], in: [] } };
}

function whyLeftOut(path: PackPath, strip: string, base: string, tree: GameTree, living: Set<string>): LeftOutReason | undefined {
  const reader = forTheReader(path);
  if (reader === 'system file') return reader;
  if (!isUnder(path, strip)) return reader ?? (showsTheResult(path) ? 'picture of the result' : 'outside the placed folder');
  const inside = strip === '' ? path : path.slice(strip.length + 1);
  const key = nameKey(joinPath(base, inside));
  if (living.has(key)) return 'settings the game writes itself';
  if (tree.files.has(key)) return undefined;
  if (reader) return reader;
  const first = inside.split('/')[0] as string;
  const known = inside.includes('/')
    ? tree.folders.has(nameKey(joinPath(base, first)))
    : (tree.extensions.get(nameKey(base))?.has(extensionOf(path)) ?? false);
  if (showsTheResult(path) && !tree.folders.has(parentOf(key))) return 'picture of the result';
  // A base that the game does not have is one that the player named: everything under it is meant.
  if (known || !tree.folders.has(nameKey(base)) || knowsNothing(tree)) return undefined;
  return showsTheResult(path) || (!inside.includes('/') && base.indexOf('/') < 0 && extensionOf(path) === 'png') ? 'picture of the result' : 'no such folder in the game';
}

/** An empty game folder teaches nothing, so nothing can be missing from it. */
const knowsNothing = (tree: GameTree): boolean => tree.files.size === 0;
