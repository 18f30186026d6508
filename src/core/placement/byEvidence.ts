import type { PackEntry } from '../archives/pack';
import { withoutArchiveEnding } from '../media/archiveEndings';
import { baseName, isUnder, nameKey, parentOf, type TargetPath } from '../paths/paths';
import { shownPlace } from '../paths/search';
import type { PlaceRule } from '../placed/placement';
import { compete } from './competition';
import { confidenceOf } from './confidence';
import { ask, emptyResult, type Context, type PoolResult } from './context';
import { sign, type Evidence } from './evidence';
import type { PlacementMode } from './modes';
import type { BaseChoice } from './overTree';
import { liesOver, mappingOf, type Candidate, type Plan } from './plans';

/** At most so many places are offered. */
const MOST_OFFERED = 5;

/** The name that a folder made for a pack gets: what the pack is called, without an ending. */
const folderNameOf = (name: string): string => {
  const bare = withoutArchiveEnding(name)
    .replace(/[<>:"|?*\\/\u0000-\u001f]+/g, ' ')
    .replace(/[. ]+$/g, '')
    .trim();
  return bare || 'pack';
};

/** A part of the pack whose place the player or the card has said. */
export interface Forced {
  node: string;
  to: string;
  says: string;
  mode?: PlacementMode;
  /** The folder inside, where `to` is an archive. */
  inside?: string;
  /** How firmly it was said. */
  kind?: 'card' | 'cardKind';
}

/** What is known of a pack beforehand. */
interface Special {
  forced?: readonly Forced[];
  /** Folders of the pack to choose from: what lies in them is meant, not they. */
  wrappers?: readonly string[];
}

/** The plans for some files of the pack. */
export const plansFor = (
  entries: readonly PackEntry[],
  context: Context,
  { forced = [], wrappers = [] }: Special = {},
): Plan[] =>
  entries.length === 0
    ? []
    : compete(entries, {
        wrappers,
        forced: forced.map(({ says, kind = 'card', mode = 'title', ...place }) => ({
          ...place,
          mode,
          evidence: [sign(kind, says)],
        })),
        statements: context.statements,
        missed: context.missed,
        tree: context.tree,
        knowledge: context.knowledge,
        steps: context.steps,
        inside: context.inside,
        title: context.card.title,
        packFolder: folderNameOf(context.name),
        roots: context.card.roots.map(({ id, title }) => ({ id, title })),
        settings: new Set(context.card.settings.map(({ target }) => nameKey(target))),
        said: context.readMe?.text ?? '',
      });

const strongest = (evidence: readonly Evidence[]): string =>
  [...evidence]
    .filter(({ weight }) => weight > 0)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, 2)
    .map(({ says }) => says)
    .join(' ');

/** Places files by what the game's folders and the read-me say. */
export function placeByEvidence(
  entries: readonly PackEntry[],
  context: Context,
  plans: readonly Plan[],
): PoolResult | undefined {
  const [best] = plans;
  if (!best) return undefined;
  const confidence = confidenceOf(plans, entries, context);
  const level = confidence === 'ask' ? offer(plans, entries, context, 'place') : { plan: best, open: false };
  const result = resultOf(level.plan, entries);
  return {
    ...result,
    confidence: level.open ? 'ask' : confidence === 'ask' ? 'sure' : confidence,
    choices: choicesOf(plans, entries),
  };
}

/** Asks where it goes: the best plans with what speaks for each. */
function offer(
  plans: readonly Plan[],
  entries: readonly PackEntry[],
  context: Context,
  id: string,
): { plan: Plan; open: boolean } {
  const offered = plans.slice(0, MOST_OFFERED);
  const best = offered[0] as Plan;
  const safe = !liesOver(best, entries, context.tree);
  const [answer] = ask(
    context,
    {
      id,
      kind: 'one',
      title: 'Where does it belong?',
      why: 'What the game’s folders and the pack say points to more than one place, or not clearly to one.',
      options: offered.map((plan) => ({
        id: idOf(plan),
        label: labelOf(plan, context),
        says: strongest(plan.items[0]?.evidence ?? []) || 'Nothing speaks clearly for it.',
      })),
      suggested: safe ? [idOf(best)] : [],
    },
    false,
  );
  const chosen = offered.find((plan) => idOf(plan) === answer);
  return { plan: chosen ?? best, open: chosen === undefined };
}

const idOf = (plan: Plan): string => mappingOf(plan).slice(0, 600);

function labelOf({ items }: Plan, context: Context): string {
  const [first, ...more] = items;
  if (!first) return '';
  const place = (item: Candidate) =>
    `${shownPlace(item.to, context.card.roots)}${item.inside === undefined ? '' : ' (inside the archive)'}`;
  if (more.length === 0) return place(first);
  const places = [
    ...new Set(items.map((item) => shownPlace(item.file ? parentOf(item.to) : item.to, context.card.roots))),
  ];
  return `${places.slice(0, 3).join(', ')}${places.length > 3 ? ` and ${places.length - 3} more places` : ''}`;
}

function choicesOf(plans: readonly Plan[], entries: readonly PackEntry[]): BaseChoice[] {
  return plans
    .flatMap((plan) => {
      const [only, second] = rulesOf(plan.items, entries);
      const evidence = plan.items[0]?.evidence ?? [];
      return only && !second && only.as === 'files'
        ? [
            {
              strip: only.from,
              base: only.to,
              matched: 0,
              exact: 0,
              reason: strongest(evidence) || 'Nothing speaks clearly for it.',
            },
          ]
        : [];
    })
    .slice(0, MOST_OFFERED);
}

/** The folder that a part lies in, and the one that it would lie in, as long as both are called the same. */
function climbed({ node, to, file }: Candidate): { from: string; to: TargetPath } {
  let [from, goal] = [node, to];
  const up = () => ([from, goal] = [parentOf(from), parentOf(goal)]);
  if (file) up();
  while (from !== '' && goal.includes('/') && nameKey(baseName(from)) === nameKey(baseName(goal))) up();
  return { from, to: goal };
}

const keepsName = ({ file, node, to }: Candidate): boolean =>
  !file || nameKey(baseName(node)) === nameKey(baseName(to));

/** A part by itself. */
function ruleFor({ node, file, to, inside }: Candidate): PlaceRule {
  if (inside !== undefined) return { as: 'inside', from: node, to, inner: inside };
  return { as: file ? 'file' : 'files', from: node, to };
}

/** The places that parts of each folder go to. */
function goalsOf(lifted: readonly { item: Candidate; from: string; to: string }[]): Map<string, Set<string>> {
  const goals = new Map<string, Set<string>>();
  for (const { item, from, to } of lifted)
    if (item.inside === undefined)
      goals.set(from, (goals.get(from) ?? new Set()).add(keepsName(item) ? nameKey(to) : `${to}\n${item.node}`));
  return goals;
}

/**
 * A plan's parts as rules: what keeps its name is laid over as a whole, so that what is left out now can be taken in
 * later. Where parts of one folder go to different places each has its own rule.
 */
function ruledItems(
  items: readonly Candidate[],
  entries: readonly PackEntry[],
): { rule: PlaceRule; items: Candidate[] }[] {
  const lifted = items.map((item) => ({ item, ...climbed(item) }));
  const goals = goalsOf(lifted);
  const rules = new Map<string, { rule: PlaceRule; items: Candidate[] }>();
  for (const { item, from, to } of lifted) {
    const isSome = from === '' && items.length > 1 && entries.length > items.length && item.file && goals.size > 1;
    const alone = goals.get(from)?.size === 1 && keepsName(item) && !isSome;
    const rule: PlaceRule = alone && item.inside === undefined ? { as: 'files', from, to } : ruleFor(item);
    const id = `${rule.as}\n${rule.from}\n${rule.to}`;
    rules.set(id, { rule, items: [...(rules.get(id)?.items ?? []), item] });
  }
  return [...rules.values()].sort(
    (a, b) => a.rule.from.length - b.rule.from.length || (a.rule.from < b.rule.from ? -1 : 1),
  );
}

const rulesOf = (items: readonly Candidate[], entries: readonly PackEntry[]): PlaceRule[] =>
  ruledItems(items, entries).map(({ rule }) => rule);

/** A plan as rules and parts. */
function resultOf(plan: Plan, entries: readonly PackEntry[]): PoolResult {
  const result = emptyResult();
  for (const { rule, items } of ruledItems(plan.items, entries)) {
    result.rules.push(rule);
    const [first] = [...items].sort((a, b) => b.files - a.files || b.points - a.points);
    const evidence = [...(first?.evidence ?? [])].sort((a, b) => b.weight - a.weight);
    // A folder that gets its own place beside others is shown with its name.
    const own = first !== undefined && items.length === 1 && first.mode === 'own-folder';
    result.parts.push({
      mode: first?.mode ?? 'over',
      from: own ? first.node : rule.from,
      to: own ? first.to : rule.to,
      files: items.reduce((sum, { files }) => sum + files, 0),
      reason: strongest(evidence) || 'Chosen among the places that are possible.',
      evidence,
    });
  }
  const left = new Set<string>(plan.left.map(({ path }) => path));
  const covered = (path: string) => plan.items.some(({ node, file }) => (file ? node === path : isUnder(path, node)));
  for (const { path } of entries)
    if (left.has(path) || !covered(path))
      result.leftOut.push({
        path,
        why: /\.(?:png|jpe?g|webp|gif|bmp)$/i.test(path) ? 'picture of the result' : 'no place known for it',
      });
  return result;
}
