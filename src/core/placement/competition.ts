import type { PackEntry } from '../archives/pack';
import type { Arena } from './arena';
import { DEEPEST, entrantOf, type Entrant } from './entrant';
import type { PackNode } from './packTree';
import { MOST_COMPARED, combine, distinct, type Candidate, type Plan } from './plans';
import { Offers } from './offers';
import { MOST_FILES, Surroundings } from './surroundings';
import { KEPT, Weighing } from './weighing';

/** The competition for some files of a pack in a game: the best plans, best first. */
export function compete(entries: readonly PackEntry[], arena: Arena): Plan[] {
  const entrant = entrantOf(entries, arena);
  const around = new Surroundings(entrant);
  return solve(entrant.top, entrant, new Weighing(entrant, around, new Offers(entrant, around)));
}

const planOf = (one: Candidate): Plan => ({ items: [one], points: one.points, left: [] });

/** The best ways to place a part: as a whole, or each of its own parts. */
function solve(node: PackNode, entrant: Entrant, weighing: Weighing): Plan[] {
  if (!entrant.nodes.has(node.path)) return [];
  const own = weighing.candidates(node.path, node).map(planOf);
  if (node.depth >= DEEPEST) return own;
  const parts: { plans: Plan[]; entries: PackEntry[] }[] = node.children.map((child) => ({
    plans: solve(child, entrant, weighing),
    entries: child.folders.flatMap(({ files }) => files),
  }));
  for (const file of node.files.slice(0, MOST_FILES))
    parts.push({ plans: weighing.candidates(file.path, undefined).map(planOf), entries: [file] });
  const over = node.files.slice(MOST_FILES);
  if (over.length > 0) parts.push({ plans: [], entries: [...over] });
  const [only, second] = parts;
  const split = only && !second ? only.plans : combine(parts);
  const compared = node.count > MOST_COMPARED ? [] : node.folders.flatMap(({ files }) => files);
  return distinct([...own, ...split], compared).slice(0, KEPT);
}
