import type { PackEntry } from '../archives/pack';
import { baseName, isUnder, joinPath, nameKey, parentOf, type TargetPath } from '../paths/paths';
import type { PlacementMode } from './modes';
import { COMBINED, WEIGHTS, type Evidence } from './evidence';
import { gameFile, type GameTree } from '../names/gameTree';

/** One part of a pack and one place for it, with everything that was seen for and against. */
export interface Candidate {
  /** The folder or file of the pack. */
  node: string;
  file: boolean;
  to: TargetPath;
  /** Set where `to` is an archive of the game: the folder inside. */
  inside?: string | undefined;
  mode: PlacementMode;
  evidence: Evidence[];
  points: number;
  files: number;
}

/** A way to place all of a pack: a candidate for each of its parts. */
export interface Plan {
  items: Candidate[];
  points: number;
  /** Files for which no place is known. */
  left: PackEntry[];
}

/** Pictures beside a pack show what it looks like: that they have no place weighs little. */
const weightLeft = ({ path }: PackEntry): number =>
  /\.(?:png|jpe?g|webp|gif|bmp|txt|md|pdf|html?|url|rtf|docx?)$/i.test(path) ? 0.15 : 1;

/** Puts the plans of a folder's parts together: the best of each, and each second best in turn. */
export function combine(parts: readonly { plans: Plan[]; entries: PackEntry[] }[]): Plan[] {
  const best = parts.map(({ plans }) => plans[0]);
  const join = (chosen: readonly (Plan | undefined)[]): Plan | undefined => {
    const items = chosen.flatMap((plan) => plan?.items ?? []);
    if (items.length === 0) return undefined;
    const left = parts.flatMap(({ entries }, i) => chosen[i]?.left ?? (chosen[i] ? [] : entries));
    let sum = 0,
      weights = 0,
      least = Infinity;
    chosen.forEach((plan) => {
      if (!plan) return;
      const weight = Math.sqrt(plan.items.reduce((count, { files }) => count + files, 0));
      sum += weight * plan.points;
      weights += weight;
      least = Math.min(least, plan.points);
    });
    const placed = items.reduce((count, { files }) => count + files, 0);
    const lost = left.reduce((count, entry) => count + weightLeft(entry), 0);
    const points =
      (1 - COMBINED.weakest) * (sum / weights) +
      COMBINED.weakest * least +
      (WEIGHTS.astray * lost) / (placed + lost) -
      Math.min(COMBINED.most, COMBINED.each * (items.length - 1));
    return { items, points, left };
  };
  const plans = [join(best)];
  parts.forEach(({ plans: some }, i) => {
    for (const other of some.slice(1, 4)) plans.push(join(best.map((plan, at) => (at === i ? other : plan))));
  });
  return plans.filter((plan): plan is Plan => plan !== undefined && plan.points > 0);
}

/** Where a plan puts each file, in short: two plans of one mapping are one. */
export function mappingOf({ items }: Plan): string {
  return [
    ...new Set(
      items.map(({ node, to, file, inside }) => {
        // A folder kept under its own name is the folder above laid over the one above.
        let [from, goal] = [node, to as string];
        while (
          !file &&
          from !== '' &&
          inside === undefined &&
          nameKey(baseName(from)) === nameKey(baseName(goal)) &&
          goal.includes('/')
        )
          [from, goal] = [parentOf(from), parentOf(goal)];
        return `${file ? parentOf(from) : from}>${file ? (baseName(from) === baseName(goal) ? parentOf(goal) : goal) : goal}${inside === undefined ? '' : '!'}`;
      }),
    ),
  ]
    .sort()
    .join('|');
}

/** Larger parts are told apart by their rules alone. */
export const MOST_COMPARED = 600;

/** Where a plan puts every file, as one text: two plans that come to the same are one. */
export function signatureOf(plan: Plan, entries: readonly PackEntry[]): string {
  if (entries.length === 0 || entries.length > MOST_COMPARED) return mappingOf(plan);
  return nameKey(
    entries
      .map(({ path }) => {
        const item = plan.items.find((one) => (one.file ? one.node === path : isUnder(path, one.node)));
        return item
          ? `${item.file ? item.to : joinPath(item.to, item.node === '' ? path : path.slice(item.node.length + 1))}${item.inside === undefined ? '' : `!${item.inside}`}`
          : '';
      })
      .join('\n'),
  );
}

/** The files that matter: pictures and texts beside the rest go along or stay out. */
export const weighty = (entries: readonly PackEntry[]): readonly PackEntry[] => {
  const some = entries.filter((entry) => weightLeft(entry) === 1);
  return some.length > 0 ? some : entries;
};

/** Plans by their points, each outcome once. */
export function distinct(plans: readonly Plan[], entries: readonly PackEntry[]): Plan[] {
  const seen = new Set<string>();
  const order = [...plans].sort(
    (a, b) => b.points - a.points || a.items.length - b.items.length || (mappingOf(a) < mappingOf(b) ? -1 : 1),
  );
  return order.filter((plan) => {
    const id = signatureOf(plan, entries);
    return !seen.has(id) && seen.add(id);
  });
}

/** Does it lie over files that are there? */
export function liesOver({ items }: Plan, entries: readonly PackEntry[], tree: GameTree): boolean {
  return items.some(
    ({ node, to, file, inside }) =>
      inside === undefined &&
      (file
        ? gameFile(tree, nameKey(to)) !== undefined
        : entries.some(
            ({ path }) =>
              isUnder(path, node) &&
              gameFile(tree, nameKey(joinPath(to, node === '' ? path : path.slice(node.length + 1)))) !== undefined,
          )),
  );
}
