import { endsLikeArchive, withoutArchiveEnding } from '../archives/endings';
import type { PackEntry } from '../archives/pack';
import { baseName, extensionOf, isUnder, joinPath, nameKey, parentOf, stemOf, type TargetPath } from '../paths/paths';
import { kindOf } from '../media/kinds';
import { LEVELS, WEIGHTS, hasSign, pointsOf, sign, type Evidence } from './evidence';
import { ask, emptyResult, slugOf, type Context, type PlacementMode, type PoolResult } from './context';
import { compete } from './competition';
import { liesOver, mappingOf, signatureOf, weighty, type Candidate, type Plan } from './plans';
import { gameFile } from './gameTree';
import { ADDITIONS } from '../study/knowledge';
import type { WordStep } from '../inspect/steps';
import { sharedFolder, type BaseChoice } from './overTree';
import type { PlaceRule } from './placement';

/** At most so many places are offered. */
const MOST_OFFERED = 5;

/** The name that a folder made for a pack gets: what the pack is called, without an ending. */
const folderNameOf = (name: string): string => {
  const bare = withoutArchiveEnding(name).replace(/[<>:"|?*\\/\u0000-\u001f]+/g, ' ').replace(/[. ]+$/g, '').trim();
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
export const plansFor = (entries: readonly PackEntry[], context: Context, { forced = [], wrappers = [] }: Special = {}): Plan[] =>
  entries.length === 0 ? [] : compete(entries, {
    wrappers, forced: forced.map(({ says, kind = 'card', mode = 'title', ...place }) => ({ ...place, mode, evidence: [sign(kind, says)] })),
    statements: context.statements, missed: context.missed, tree: context.tree, knowledge: context.knowledge, steps: context.steps, inside: context.inside, title: context.card.title, packFolder: folderNameOf(context.name),
    roots: context.card.roots.map(({ id, title }) => ({ id, title })), said: context.readMe?.text ?? '',
  });

const strongest = (evidence: readonly Evidence[]): string =>
  [...evidence].filter(({ weight }) => weight > 0).sort((a, b) => b.weight - a.weight).slice(0, 2).map(({ says }) => says).join(' ');

/** Where something goes, as the player reads it. */
export const shownPlace = (to: string, { card }: Context): string => {
  const cut = to.indexOf('/');
  const root = card.roots.find(({ id }) => id === (cut < 0 ? to : to.slice(0, cut)));
  return `${root?.title ?? to}${cut < 0 ? '' : to.slice(cut)}`;
};

/** As good as the best, within this factor. */
const NEARLY = 1.25;

/** Is the best plan clear, and by how much? Something is only laid over what is there where more than names agree. */
export function confidenceOf(plans: readonly Plan[], entries: readonly PackEntry[], context: Context): 'sure' | 'likely' | 'ask' {
  const [best] = plans;
  if (!best) return 'ask';
  const matter = weighty(entries);
  const own = signatureOf(best, matter);
  const second = plans.find((plan) => signatureOf(plan, matter) !== own);
  const ahead = best.points - (second?.points ?? 0);
  const onlyNames = best.items.some((item) => !agreesBeyondNames(item, best)) && liesOver(best, entries, context.tree);
  const which = best.items.some(({ evidence }) => hasSign(evidence, 'whichOne'));
  if (onlyNames || which || best.items.every((item) => saysLittle(item, context))) return 'ask';
  // Nothing is laid over something that could just as well be one more of its kind beside it.
  const fresh = plans.find((plan) => plan !== best && plan.items.every(({ mode }) => mode === 'own-folder') && !liesOver(plan, entries, context.tree));
  if (fresh && fresh.points * NEARLY > best.points && liesOver(best, entries, context.tree)) return 'ask';
  // That files of its ending lie in several folders says of none of them that it is meant.
  const byEnding = best.items.every((item) => item.file && item.evidence.every(({ weight, kind, line }) => weight <= 0 || kind === 'form' || kind === 'forPacks' || (kind === undefined && line === undefined))) && !best.items.some(({ to }) => gameFile(context.tree, nameKey(to)) !== undefined);
  if (byEnding && second && second.points * 2 > best.points && entries.length === 1 && ahead < LEVELS.sure.ahead) return 'ask';
  if (best.points >= LEVELS.sure.points && ahead >= LEVELS.sure.ahead) return 'sure';
  return best.points >= LEVELS.likely.points && ahead >= LEVELS.likely.ahead ? 'likely' : 'ask';
}

/**
 * A picture or a sound that only lies where others of its ending lie: the game reads it where something names it, and nothing
 * does. A name of the form that they all have is such a thing.
 */
function saysLittle({ file, node, evidence, to }: Candidate, { tree }: Context): boolean {
  if (!file || !['picture', 'texture', 'sound'].includes(kindOf(node)) || evidence.some(({ line }) => line !== undefined)) return false;
  if (hasSign(evidence, 'card', 'missed', 'spokenOf', 'ownId', 'learnt', 'learntOnce')) return false;
  if (gameFile(tree, nameKey(to)) !== undefined) return false;
  return !/[\d_-]/.test(stemOf(node)) || !hasSign(evidence, 'form');
}

/** A folder that agrees, a read-me, an id, several files of one place: more than a name that two files happen to share. */
const agreesBeyondNames = ({ evidence, file, to }: Candidate, { items }: Plan): boolean =>
  pointsOf(evidence) >= LEVELS.likely.points
  && (!file || !parentOf(to).includes('/') || hasSign(evidence, 'spokenOf', 'card', 'missed') || evidence.some(({ line }) => line !== undefined) || items.filter((other) => other.file && parentOf(other.to) === parentOf(to)).length > 1);

/** Places files by what the game's folders and the read-me say. */
export function placeByEvidence(entries: readonly PackEntry[], context: Context, plans: readonly Plan[]): PoolResult | undefined {
  const [best] = plans;
  if (!best) return undefined;
  const confidence = confidenceOf(plans, entries, context);
  const level = confidence === 'ask' ? offer(plans, entries, context, 'place') : { plan: best, open: false };
  const result = resultOf(level.plan, entries);
  return { ...result, confidence: level.open ? 'ask' : confidence === 'ask' ? 'sure' : confidence, choices: choicesOf(plans, entries) };
}

/** Asks where it goes: the best plans with what speaks for each. */
function offer(plans: readonly Plan[], entries: readonly PackEntry[], context: Context, id: string): { plan: Plan; open: boolean } {
  const offered = plans.slice(0, MOST_OFFERED);
  const best = offered[0] as Plan;
  const safe = !liesOver(best, entries, context.tree);
  const [answer] = ask(context, {
    id, kind: 'one', title: 'Where does it belong?', why: 'What the game’s folders and the pack say points to more than one place, or not clearly to one.',
    options: offered.map((plan) => ({ id: idOf(plan), label: labelOf(plan, context), says: strongest(plan.items[0]?.evidence ?? []) || 'Nothing speaks clearly for it.' })),
    suggested: safe ? [idOf(best)] : [],
  }, false);
  const chosen = offered.find((plan) => idOf(plan) === answer);
  return { plan: chosen ?? best, open: chosen === undefined };
}

const idOf = (plan: Plan): string => mappingOf(plan).slice(0, 600);

function labelOf({ items }: Plan, context: Context): string {
  const [first, ...more] = items;
  if (!first) return '';
  const place = (item: Candidate) => `${shownPlace(item.to, context)}${item.inside === undefined ? '' : ' (inside the archive)'}`;
  if (more.length === 0) return place(first);
  const places = [...new Set(items.map((item) => shownPlace(item.file ? parentOf(item.to) : item.to, context)))];
  return `${places.slice(0, 3).join(', ')}${places.length > 3 ? ` and ${places.length - 3} more places` : ''}`;
}

function choicesOf(plans: readonly Plan[], entries: readonly PackEntry[]): BaseChoice[] {
  return plans.flatMap((plan) => {
    const [only, second] = rulesOf(plan.items, entries);
    const evidence = plan.items[0]?.evidence ?? [];
    return only && !second && only.as === 'files' ? [{ strip: only.from, base: only.to, matched: 0, exact: 0, reason: strongest(evidence) || 'Nothing speaks clearly for it.' }] : [];
  }).slice(0, MOST_OFFERED);
}

/** The folder that a part lies in, and the one that it would lie in, as long as both are called the same. */
function climbed({ node, to, file }: Candidate): { from: string; to: string } {
  let [from, goal] = [node, to as string];
  const up = () => ([from, goal] = [parentOf(from), parentOf(goal)]);
  if (file) up();
  while (from !== '' && goal.includes('/') && nameKey(baseName(from)) === nameKey(baseName(goal))) up();
  return { from, to: goal };
}

/**
 * A plan's parts as rules: what keeps its name is laid over as a whole, so that what is left out now can be taken in later.
 * Where parts of one folder go to different places each has its own rule.
 */
function ruledItems(items: readonly Candidate[], entries: readonly PackEntry[]): { rule: PlaceRule; items: Candidate[] }[] {
  const lifted = items.map((item) => ({ item, ...climbed(item) }));
  const goals = new Map<string, Set<string>>();
  const sameName = ({ file, node, to }: Candidate) => !file || nameKey(baseName(node)) === nameKey(baseName(to));
  for (const { item, from, to } of lifted) if (item.inside === undefined) goals.set(from, (goals.get(from) ?? new Set()).add(sameName(item) ? nameKey(to) : `${to}\n${item.node}`));
  const rules = new Map<string, { rule: PlaceRule; items: Candidate[] }>();
  for (const { item, from, to } of lifted) {
    const { node, file, inside } = item;
    const alone = (goals.get(from)?.size ?? 0) === 1 && sameName(item) && !(from === '' && items.length > 1 && entries.length > items.length && file && goals.size > 1);
    const rule: PlaceRule = inside !== undefined ? { as: 'inside', from: node, to: item.to, inner: inside }
      : alone ? { as: 'files', from, to: to as TargetPath } : file ? { as: 'file', from: node, to: item.to } : { as: 'files', from: node, to: item.to };
    const id = `${rule.as}\n${rule.from}\n${rule.to}`;
    rules.set(id, { rule, items: [...(rules.get(id)?.items ?? []), item] });
  }
  return [...rules.values()].sort((a, b) => a.rule.from.length - b.rule.from.length || (a.rule.from < b.rule.from ? -1 : 1));
}

const rulesOf = (items: readonly Candidate[], entries: readonly PackEntry[]): PlaceRule[] => ruledItems(items, entries).map(({ rule }) => rule);

/** A plan as rules and parts. */
function resultOf(plan: Plan, entries: readonly PackEntry[]): PoolResult {
  const result = emptyResult();
  for (const { rule, items } of ruledItems(plan.items, entries)) {
    result.rules.push(rule);
    const [first] = [...items].sort((a, b) => b.files - a.files || b.points - a.points);
    const evidence = [...(first?.evidence ?? [])].sort((a, b) => b.weight - a.weight);
    // A folder that gets its own place beside others is shown with its name.
    const own = first !== undefined && items.length === 1 && first.mode === 'own-folder';
    result.parts.push({ mode: first?.mode ?? 'over', from: own ? first.node : rule.from, to: own ? first.to : rule.to, files: items.reduce((sum, { files }) => sum + files, 0), reason: strongest(evidence) || 'Chosen among the places that are possible.', evidence });
  }
  const left = new Set<string>(plan.left.map(({ path }) => path));
  const covered = (path: string) => plan.items.some(({ node, file }) => (file ? node === path : isUnder(path, node)));
  for (const { path } of entries) if (left.has(path) || !covered(path)) result.leftOut.push({ path, why: /\.(?:png|jpe?g|webp|gif|bmp)$/i.test(path) ? 'picture of the result' : 'no place known for it' });
  return result;
}

/** An archive that stays one: as it came, or packed anew from a folder of it. */
interface Zipped {
  to: TargetPath;
  /** The folder of the pack that is packed anew, where what the game looks for lies a level too deep. */
  from?: string;
  evidence: Evidence[];
  points: number;
}

/** Archives that have nothing in common are the game's own data: one more among them counts this share. */
const OF_MANY_KINDS = 0.2;

/** Do the archives in a folder have a file or a folder of one name in common? Unknown ones could. */
function ofOneKind(folder: string, inside: ReadonlyMap<string, readonly string[]>): boolean {
  const known = [...inside].filter(([archive]) => nameKey(parentOf(archive)) === folder).map(([, paths]) => new Set(paths.flatMap((path) => [nameKey(path), nameKey(path.split('/')[0] as string)])));
  const [first] = known;
  return !first || known.length < 2 || [...first].some((name) => known.filter((set) => set.has(name)).length > known.length / 2);
}

/** Should the archive stay as it is? Judged by what lies where it would lie, and by the read-me. */
export function keptZipped(entries: readonly PackEntry[], context: Context): Zipped | undefined {
  const { tree, knowledge, name, steps, inside } = context;
  const ending = extensionOf(name);
  if (ending === '' || entries.some(({ path }) => extensionOf(path) === ending || kindOf(path) === 'archive')) return undefined;
  const told = steps.find((step): step is WordStep => step.kind === 'keep zipped');
  const homes = [...(knowledge.homes.get(ending) ?? [])].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  const all = knowledge.endings.get(ending) ?? 0;
  const top = sharedFolder(weighty(entries));
  let best: Zipped | undefined;
  for (const [folder, count] of homes.slice(0, 6)) {
    const evidence: Evidence[] = [{ weight: (WEIGHTS.amongArchives * count) / all * (count > 1 ? 1 : 0.6) * (ofOneKind(folder, inside) ? 1 : OF_MANY_KINDS), says: `${count === 1 ? 'An archive lies' : `${count} archives lie`} there unopened.` }];
    const alike = [...inside].filter(([archive]) => nameKey(parentOf(archive)) === folder).map(([, paths]) => new Set(paths.flatMap((path) => [nameKey(path), extensionOf(path)])));
    const shared = alike.filter((set) => entries.some(({ path }) => set.has(nameKey(path)))).length;
    // A file by which things in folders are known, too, says less.
    const common = (path: string) => knowledge.families.some(({ core }) => core.has(`F:${nameKey(path)}`));
    const markedAt = (at: string) => alike.length > 0 && entries.some(({ path }) => parentOf(path) === at && !common(baseName(path)) && alike.every((set) => set.has(nameKey(baseName(path)))));
    const marked = markedAt('');
    const deeper = !marked && top !== '' && markedAt(top);
    if (shared > 0 || deeper) evidence.push({ weight: marked || deeper ? WEIGHTS.alikeArchives : WEIGHTS.atHome * 1.5, says: deeper ? `Those hold files that lie here in “${baseName(top)}”, a level too deep.` : 'Those hold files of the same paths.' });
    if (told) evidence.push({ weight: WEIGHTS.told, says: `The read-me says so: “${told.text}”`, line: told.line });
    if (!endsLikeArchive(name)) {
      evidence.push({ weight: (WEIGHTS.ending * count) / all, says: `${count.toLocaleString('en')} of ${all.toLocaleString('en')} .${ending} files of the game lie there.` });
      if (ADDITIONS.has(baseName(folder))) evidence.push(sign('forPacks', `“${baseName(folder)}” is a name for what players add.`));
    }
    const spelled = tree.folders.get(folder) as string;
    const points = pointsOf(evidence);
    if (!best || points > best.points) best = { to: joinPath(spelled, deeper ? `${slugOf(baseName(top))}.zip` : name) as TargetPath, ...(deeper ? { from: top } : {}), evidence, points };
  }
  for (const step of told ? steps : []) {
    if (step.kind !== 'put' || step.folders.length !== 1) continue;
    const [folder] = step.folders as [string];
    const evidence: Evidence[] = [{ weight: WEIGHTS.told, says: `The read-me says so: “${step.text}”`, line: step.line }];
    if (!best || best.points < WEIGHTS.told + 1) best = { to: joinPath(folder, name) as TargetPath, evidence, points: WEIGHTS.told + 1 };
  }
  return best;
}
