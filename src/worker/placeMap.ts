import { RuleBook, isUnder, largest, leftOutOf, nameKey, parentOf, placeFiles, wholeTarget, type TargetPath } from '@/core';
import type { MapLink, PlaceMapView } from './api';
import type { PackLayer } from '@/storage/memory';
import type { Session } from './session';

/** More lines than this are too many to be followed by eye; deeper folders are then drawn together. */
const MOST_LINES = 14;

/** Which folders of the pack go to which folders of the game, at the deepest level that can still be overlooked. */
export async function placeMap(session: Session, layer: PackLayer): Promise<PlaceMapView> {
  const { pack } = await session.openPack(layer.packId);
  const { placement } = layer;
  const whole = wholeTarget(placement);
  const { ownKeys } = session.picture;
  if (whole !== undefined) return { links: [{ from: '', to: whole, files: 1, replacing: ownKeys.has(nameKey(whole)) ? 1 : 0, moved: false, as: 'whole' }], leftOut: [] };

  const rules = new RuleBook(placement);
  const moved = new Set(placement.decisions.moves.map(({ from }) => from));
  const lines = new Map<string, MapLink>();
  for (const { path, target, inside } of placeFiles(pack.entries, placement)) {
    const from = moved.has(path) || rules.find(path)?.rule.as === 'file' ? path : parentOf(path);
    const to = inside === undefined ? parentOf(target) : parentOf(`${target}!/${inside}`);
    const key = `${from}\n${to}`;
    const line = lines.get(key) ?? { from, to: to as TargetPath, files: 0, replacing: 0, moved: false, as: inside === undefined ? 'files' : 'inside' };
    line.files++;
    if (inside === undefined && ownKeys.has(nameKey(target))) line.replacing++;
    line.moved ||= [...moved].some((folder) => isUnder(path, folder));
    lines.set(key, line);
  }
  for (const rule of placement.rules) if (rule.as === 'edits' && !placement.decisions.out.some((path) => path === rule.from)) lines.set(`${rule.from}\n${rule.to}`, { from: rule.from, to: rule.to, files: 1, replacing: 0, moved: false, as: 'edits' });

  const outside = new Map<string, number>();
  for (const [path, why] of leftOutOf(placement, pack.entries, rules)) if (why !== 'your choice') outside.set(parentOf(path), (outside.get(parentOf(path)) ?? 0) + 1);
  return { links: overlook([...lines.values()]), leftOut: [...outside].map(([from, files]) => ({ from, files })).sort((a, b) => (a.from < b.from ? -1 : 1)).slice(0, 20) };
}

/** Draws the deepest lines together with their parents until they can be overlooked: both ends go up by the same name. */
function overlook(links: MapLink[]): MapLink[] {
  let current = links;
  for (;;) {
    if (current.length <= MOST_LINES) break;
    const deepest = largest(current.filter(canGoUp).map(({ from }) => from.split('/').length));
    if (deepest === 0) break;
    const merged = new Map<string, MapLink>();
    for (const link of current) {
      const up = canGoUp(link) && link.from.split('/').length === deepest ? { ...link, from: parentOf(link.from), to: parentOf(link.to) as TargetPath } : link;
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
const canGoUp = ({ from, to, as, moved }: MapLink): boolean => as !== 'edits' && !moved && from.includes('/') && to.split('/').length > 2 && nameKey(from.slice(from.lastIndexOf('/') + 1)) === nameKey(to.slice(to.lastIndexOf('/') + 1));
