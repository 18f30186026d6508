import { largest } from '../lists';
import type { PackEntry } from '../archives/pack';
import { isUnder, nameKey, parentOf, type TargetPath, target as targetIn } from '../paths/paths';
import { RuleBook, leftOutOf, placeFiles, wholeTarget, type Placement } from '../placed/placement';

/** One line between the pack’s tree and the game’s. */
export interface MapLink {
  /** Folder or file of the pack; '' for all of it. */
  from: string;
  to: TargetPath;
  files: number;
  replacing: number;
  moved: boolean;
  as: 'files' | 'inside' | 'edits' | 'whole';
}

/** Where a pack goes, as lines between two trees. */
export interface PlaceMap {
  links: MapLink[];
  leftOut: { from: string; files: number }[];
}

/** More lines than this are too many to be followed by eye; deeper folders are then drawn together. */
const MOST_LINES = 14;
/** Folders with files that stay out; so many are named. */
const MOST_LEFT_OUT = 20;

/**
 * Which folders of the pack go to which folders of the game, at the deepest level that can still be overlooked.
 *
 * @param ownKeys keys of the files that the game has without packs
 */
export function placeMap(
  entries: readonly PackEntry[],
  placement: Placement,
  ownKeys: { has(key: string): boolean },
): PlaceMap {
  const whole = wholeTarget(placement);
  if (whole !== undefined) {
    const replacing = ownKeys.has(nameKey(whole)) ? 1 : 0;
    return { links: [{ from: '', to: whole, files: 1, replacing, moved: false, as: 'whole' }], leftOut: [] };
  }
  const rules = new RuleBook(placement);
  return {
    links: overlook([...fileLines(entries, placement, rules, ownKeys), ...editLines(placement)]),
    leftOut: foldersLeftOut(entries, placement, rules),
  };
}

/** A line for each pair of folders that files go from and to. */
function fileLines(
  entries: readonly PackEntry[],
  placement: Placement,
  rules: RuleBook,
  ownKeys: { has(key: string): boolean },
): MapLink[] {
  const moved = new Set(placement.decisions.moves.map(({ from }) => from));
  const lines = new Map<string, MapLink>();
  for (const { path, target, inside } of placeFiles(entries, placement)) {
    const from = moved.has(path) || rules.find(path)?.rule.as === 'file' ? path : parentOf(path);
    const to = parentOf(inside === undefined ? target : targetIn(`${target}!`, inside));
    const fresh: MapLink = {
      from,
      to,
      files: 0,
      replacing: 0,
      moved: false,
      as: inside === undefined ? 'files' : 'inside',
    };
    const line = lines.get(`${from}\n${to}`) ?? fresh;
    line.files++;
    if (inside === undefined && ownKeys.has(nameKey(target))) line.replacing++;
    line.moved ||= [...moved].some((folder) => isUnder(path, folder));
    lines.set(`${from}\n${to}`, line);
  }
  return [...lines.values()];
}

/** A line for each file that becomes edits of a settings file. */
const editLines = (placement: Placement): MapLink[] =>
  placement.rules.flatMap((rule): MapLink[] =>
    rule.as === 'edits' && !placement.decisions.out.some((path) => path === rule.from)
      ? [{ from: rule.from, to: rule.to, files: 1, replacing: 0, moved: false, as: 'edits' }]
      : [],
  );

/** Folders with files that stay out, but for those that the player left out. */
function foldersLeftOut(entries: readonly PackEntry[], placement: Placement, rules: RuleBook): PlaceMap['leftOut'] {
  const outside = new Map<string, number>();
  for (const [path, why] of leftOutOf(placement, entries, rules))
    if (why !== 'your choice') outside.set(parentOf(path), (outside.get(parentOf(path)) ?? 0) + 1);
  return Array.from(outside, ([from, files]) => ({ from, files }))
    .sort((a, b) => (a.from < b.from ? -1 : 1))
    .slice(0, MOST_LEFT_OUT);
}

/**
 * Draws the deepest lines together with their parents until they can be overlooked: both ends go up by the same name.
 */
function overlook(links: MapLink[]): MapLink[] {
  let current = links;
  for (;;) {
    if (current.length <= MOST_LINES) break;
    const deepest = largest(current.filter(canGoUp).map(({ from }) => from.split('/').length));
    if (deepest === 0) break;
    const merged = new Map<string, MapLink>();
    for (const link of current) {
      const up =
        canGoUp(link) && link.from.split('/').length === deepest
          ? { ...link, from: parentOf(link.from), to: parentOf<TargetPath>(link.to) }
          : link;
      const key = `${up.from}\n${up.to}\n${up.as}`;
      const known = merged.get(key);
      if (known) {
        known.files += up.files;
        known.replacing += up.replacing;
        known.moved ||= up.moved;
      } else merged.set(key, { ...up });
    }
    current = [...merged.values()];
  }
  return current.sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : a.to < b.to ? -1 : 1));
}

/** Both ends have the same last name, so the parents say the same. */
const canGoUp = ({ from, to, as, moved }: MapLink): boolean =>
  as !== 'edits' &&
  !moved &&
  from.includes('/') &&
  to.split('/').length > 2 &&
  nameKey(from.slice(from.lastIndexOf('/') + 1)) === nameKey(to.slice(to.lastIndexOf('/') + 1));
