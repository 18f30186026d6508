import {
  LEFT_OUT_SAYS,
  RuleBook,
  foldersAbove,
  isUnder,
  joinPath,
  leftOutOf,
  nameKey,
  targetOf,
  type ImageInfo,
  type TreeRow,
} from '@/core';
import type { PlaceRow, QueryOf } from '../contract';
import type { Session } from './session';
import type { LazyRow } from './stepRows';

const describe = (image: ImageInfo | undefined): string | undefined =>
  image &&
  `${image.width} × ${image.height}, ${image.format.toUpperCase().replace(/^(DDS|KTX2) /, '')}${image.mipLevels > 1 ? `, ${image.mipLevels} levels` : ''}`;

/** The files and folders of a pack, and where each goes. */
export async function treeRows(session: Session, query: QueryOf<'pack' | 'place'>): Promise<LazyRow[]> {
  const layer = session.layer(query.layer);
  const { pack, tree, images } = await session.openPack(layer.packId);
  const { placement } = layer;
  const rules = new RuleBook(placement);
  const out = leftOutOf(placement, pack.entries, rules);
  const outCounts = new Map<string, number>();
  if (query.view === 'place')
    for (const path of out.keys())
      for (let cut = path.lastIndexOf('/'); cut > 0; cut = path.lastIndexOf('/', cut - 1))
        outCounts.set(path.slice(0, cut), (outCounts.get(path.slice(0, cut)) ?? 0) + 1);
  return tree.rows(new Set(query.open), query.search).map((row: TreeRow) => (): PlaceRow => {
    if (row.kind === 'file') {
      const why = out.get(row.path as never);
      const goal = why ? undefined : goalOf(row.path, rules, session.picture.ownKeys);
      const leftOut = why && LEFT_OUT_SAYS[why];
      return { ...row, picture: describe(images.get(row.path)), leftOut, ...(goal ?? NOWHERE) };
    }
    const placed = row.files - (outCounts.get(row.path) ?? 0);
    return {
      ...row,
      picture: undefined,
      goesTo: placed > 0 ? folderTarget(row.path, rules) : undefined,
      leftOut: placed === 0 ? 'Nothing in it goes into the game.' : undefined,
      placed,
      effect: undefined,
    };
  });
}

/** Folders of a pack in which something else happens than that a new file comes into the game. */
export async function firstPlaced(session: Session, id: string): Promise<string[]> {
  const { packId, placement } = session.layer(id);
  const { pack, tree } = await session.openPack(packId);
  const rules = new RuleBook(placement);
  const out = leftOutOf(placement, pack.entries, rules);
  const { ownKeys } = session.picture;
  const busy = foldersAbove(
    pack.entries
      .map(({ path }) => path)
      .filter((path) => out.has(path) || goalOf(path, rules, ownKeys)?.effect !== 'new'),
  );
  return tree.firstFolders(busy.size === 0 ? undefined : (folder) => busy.has(folder));
}

const NOWHERE = { goesTo: undefined, placed: 0, effect: undefined };

/** Where a file of the pack comes to lie, and what that does there. */
function goalOf(
  path: string,
  rules: RuleBook,
  ownKeys: { has(key: string): boolean },
): Pick<PlaceRow, 'goesTo' | 'placed' | 'effect'> | undefined {
  const goal = targetOf(path, rules);
  if (!goal) return undefined;
  if (goal.edits) return { goesTo: goal.target, placed: 1, effect: 'edits' };
  if (goal.inside !== undefined) return { goesTo: `${goal.target}!/${goal.inside}`, placed: 1, effect: 'inside' };
  return { goesTo: goal.target, placed: 1, effect: ownKeys.has(nameKey(goal.target)) ? 'replaces' : 'new' };
}

/** Where a folder of the pack comes to lie, where one rule holds for it. */
function folderTarget(folder: string, rules: RuleBook): string | undefined {
  const rule = rules.find(`${folder}/x`)?.rule;
  if (!rule || !isUnder(folder, rule.from)) return undefined;
  const rest = folder.slice(rule.from === '' ? 0 : rule.from.length + 1);
  if (rule.as === 'inside') return `${rule.to}!/${joinPath(rule.inner, rest)}`;
  return rule.as === 'files' ? joinPath(rule.to, rest) : undefined;
}
