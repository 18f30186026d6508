import { packName } from '../archives/packNames';
import type { PackEntry } from '../archives/pack';
import { saysWherePacksGo } from '../games/card';
import { refusedFolders } from '../games/statement';
import { readSteps } from '../inspect/steps';
import { addAll } from '../lists';
import { kindOf } from '../media/kinds';
import { gameFile, gameTreeOf } from '../names/gameTree';
import { knowledgeOf, withNumberedEndings, withoutFolders } from '../names/knowledge';
import {
  baseName,
  extensionOf,
  isUnder,
  joinPath,
  nameKey,
  parentOf,
  type PackPath,
  type TargetPath,
} from '../paths/paths';
import type { LeftOutReason } from '../placed/baggage';
import { packFolders } from '../placed/packFolders';
import { RuleBook, noDecisions, targetOf, type Placement } from '../placed/placement';
import { splitAlternatives, type Split } from './alternatives';
import { placeByEvidence, plansFor } from './byEvidence';
import { placeMarked, placesOfTheCard } from './cardPlaces';
import { confidenceOf } from './confidence';
import { emptyResult, notYetWhere, type Context, type PlacementInput, type PoolResult } from './context';
import { whatStaysOut } from './leftOut';
import { packBaggage, withoutBaggage } from './packBaggage';
import { placeAddonFolder, placeInside, placeLoose, placeZipped } from './placeByKind';
import { nowhere } from './nowhere';
import type { PlacementProposal } from './proposal';
import { placeConverted } from './recipes';
import { placeSettings } from './settingsFiles';
import { proposeStudied } from './placeStudied';
import { placeByTitle } from './titles';

/**
 * Finds where a pack's files go, learning from the card and from the game's folders as they are. A wrong answer is
 * worse than a question: what is not clear is asked. The same input gives the same proposal, in any order of reading.
 */
export function proposePlacements(input: PlacementInput): PlacementProposal {
  const context = contextFor(input);
  return finish(knowsByFolders(input) ? byFolders(input, context) : byCard(input, context), context, input);
}

function mergeInto(result: PoolResult, part: PoolResult): void {
  addAll(result.rules, part.rules);
  addAll(result.parts, part.parts);
  addAll(result.leftOut, part.leftOut);
  addAll(result.made, part.made);
  addAll(result.choices, part.choices);
  if (part.confidence === 'ask' || result.confidence === 'ask') result.confidence = 'ask';
  else if (part.confidence === 'likely') result.confidence = 'likely';
}

const hasNoPlace = ({ rules, choices }: PoolResult): boolean => rules.length === 0 && choices.length === 0;

/** In a game that is known by its folders. */
function byFolders({ entries }: PlacementInput, context: Context): PoolResult {
  const result = emptyResult();
  mergeInto(result, proposeStudied(entries, context));
  takeInWhatTheGameHas(result, context);
  if (hasNoPlace(result) && context.questions.some(({ open }) => open)) waitForAnswers(result, entries);
  return result;
}

/** In a game whose card says where packs go. */
function byCard({ entries }: PlacementInput, context: Context): PoolResult {
  const result = emptyResult();
  // Another edition's layout is converted first; what comes of it may be a zipped pack as well.
  const zipped = placeConverted(entries, context) ? undefined : placeZipped(entries, context);
  if (zipped) {
    mergeInto(result, zipped);
    addAll(
      result.leftOut,
      zipped.rest.map(({ path }) => ({ path, why: packBaggage(path, context) ?? ('no place known for it' as const) })),
    );
    return result;
  }
  // A file that the game has under the very same name may be meant after all; it is looked at again below.
  const settings = placeSettings(withoutBaggage(entries, context, result.leftOut), context);
  mergeInto(result, { ...settings, rest: [] });
  const split = splitAlternatives(settings.rest, context);
  addAll(
    result.leftOut,
    split.unchosen.map(({ path }) => ({ path, why: 'another choice' as const })),
  );
  placeSplit(split, settings.rules.length > 0, context, result);
  takeInWhatTheGameHas(result, context);
  if (hasNoPlace(result)) {
    if (context.questions.some(({ open }) => open)) waitForAnswers(result, entries);
    else mergeInto(result, nowhere(entries, context));
  }
  return result;
}

/** The base of a pack, and the parts of it that were chosen. @param others something else of it has a place */
function placeSplit(split: Split, others: boolean, context: Context, result: PoolResult): void {
  const base = split.base.length > 0 ? placePool(split.base, context) : undefined;
  // What stands beside parts that have a place, and has none itself, is hardly what the pack is about.
  const onlyTexts = split.base.every(({ path }) => kindOf(path) === 'text');
  const unknown = base?.nowhere || (base?.confidence === 'ask' && onlyTexts);
  const beside = unknown && (others || split.chosen.length > 0 || split.open);
  if (beside) {
    notYetWhere(context);
    addAll(
      result.leftOut,
      split.base.map(({ path }) => ({ path, why: 'no place known for it' as const })),
    );
  } else if (base) mergeInto(result, base);
  for (const { folder, entries: chosen } of split.chosen)
    mergeInto(result, placePool(chosen, context, { folder, base: beside ? undefined : base }));
  if (!split.open) return;
  result.confidence = 'ask';
  notYetWhere(context);
}

/** Is the game known by its folders, whatever the player told besides? Titles and recipes are ways of their own. */
const knowsByFolders = ({ card, statements = [] }: PlacementInput): boolean =>
  !saysWherePacksGo(card) || (statements.length > 0 && !card.titles && card.recipes.length === 0);

/**
 * Nothing has a place before the player has answered: that is said of each file, rather than drawing lines to a place
 * it may not get.
 */
function waitForAnswers(result: PoolResult, entries: readonly PackEntry[]): void {
  const out = new Set(result.leftOut.map(({ path }) => path));
  addAll(
    result.leftOut,
    entries.flatMap(({ path }) => (out.has(path) ? [] : [{ path, why: 'waits for your answer' as const }])),
  );
}

/** What looks like baggage but lies over a file that the game has under the very same name is meant after all. */
function takeInWhatTheGameHas(result: PoolResult, { tree }: Context): void {
  const rules = new RuleBook({ rules: result.rules, leftOut: [], made: [], decisions: noDecisions });
  result.leftOut = result.leftOut.filter(({ path, why }) => {
    if (!BAGGAGE.has(why)) return true;
    const goal = targetOf(path, rules);
    return !goal || goal.inside !== undefined || gameFile(tree, nameKey(goal.target)) === undefined;
  });
}

const BAGGAGE: ReadonlySet<LeftOutReason> = new Set(['read-me', 'web link', 'picture of the result', 'a program']);

function contextFor(input: PlacementInput): Context {
  const {
    entries,
    card,
    gameFiles,
    name = 'pack',
    texts = new Map(),
    answers = {},
    readMe,
    statements = [],
    inside = new Map(),
    missed = [],
  } = input;
  const tree = gameTreeOf(
    card.roots.map((root) => root.id),
    gameFiles,
  );
  const steps = readMe
    ? readSteps(readMe.text, { entries, tree, roots: card.roots, title: card.title, download: name })
    : [];
  const knowledge = withNumberedEndings(
    withoutFolders(knowledgeOf(tree), refusedFolders(statements)),
    new Set(entries.map(({ path }) => extensionOf(path))),
  );
  return {
    card,
    tree,
    knowledge,
    name,
    title: packName(name),
    texts,
    answers,
    questions: [],
    readMe,
    steps,
    statements,
    inside,
    missed,
  };
}

function finish(result: PoolResult, context: Context, { answers = {} }: PlacementInput): PlacementProposal {
  const open = context.questions.some((question) => question.open);
  const given = Object.fromEntries(Object.entries(answers).map(([id, answer]) => [id, [...answer]]));
  return {
    confidence: open ? 'ask' : result.confidence,
    placement: {
      rules: result.rules,
      leftOut: result.leftOut,
      made: result.made,
      decisions: { ...noDecisions, answers: given },
    },
    parts: result.parts.sort((a, b) => b.files - a.files || (a.from < b.from ? -1 : 1)),
    questions: context.questions,
    choices: result.choices,
  };
}

/** Files by themselves: the ways that a card knows, then the game's own folders, then what is left. */
function placePool(
  entries: readonly PackEntry[],
  context: Context,
  over?: { folder: string; base: PoolResult | undefined },
): PoolResult {
  for (const way of [placeConverted, placeByTitleWithId, placeMarked, placeAddonFolder]) {
    const found = way(entries, context);
    if (found) return withRest(found, context);
  }
  const inside = placeInside(entries, context);
  if (inside) return withRest(inside, context);
  const titled = placeByTitle(entries, context);
  const plans = plansFor(entries, context, { forced: placesOfTheCard(entries, context) });
  // Where a program sorts textures by title, a name in common with a few of them says less than the title.
  if (titled && confidenceOf(plans, entries, context) !== 'sure') return withRest(titled, context);
  const placed = placeByEvidence(entries, context, plans);
  if (placed) return placed;
  if (over) {
    const rule = over.base?.rules.find((one) => one.as === 'files');
    // A chosen part that says nothing by itself lies over the base as if it stood beside it.
    if (rule) {
      const above = parentOf(over.folder);
      const to = joinPath(
        rule.to,
        isUnder(above, rule.from) ? above.slice(rule.from === '' ? 0 : rule.from.length + 1) : '',
      );
      return {
        ...emptyResult(),
        confidence: 'likely',
        rules: [{ as: 'files', from: over.folder, to }],
        parts: [
          {
            mode: 'over',
            from: over.folder,
            to,
            files: entries.length,
            reason: `“${baseName(over.folder)}” is laid over the rest of the pack.`,
          },
        ],
      };
    }
  }
  return nowhere(entries, context);
}

function placeByTitleWithId(entries: readonly PackEntry[], context: Context): PoolResult | undefined {
  const { titles } = context.card;
  if (!titles) return undefined;
  const fits = new RegExp(`^(?:${titles.pattern})$`, 'i');
  return packFolders(entries).some(({ names }) => names.some((name) => fits.test(name)))
    ? placeByTitle(entries, context)
    : undefined;
}

/** What a way of placing says nothing about: looked at as loose files, else left out with the reason. */
function withRest(result: PoolResult, context: Context): PoolResult {
  if (result.rest.length === 0) return result;
  const loose = placeLoose(result.rest, context);
  if (loose) {
    addAll(result.rules, loose.rules);
    addAll(result.parts, loose.parts);
  }
  const left = loose ? loose.rest : result.rest;
  const out = new Map(result.leftOut.map(({ path, why }) => [path, why]));
  if (loose) for (const rule of loose.rules) out.delete(rule.from as PackPath);
  for (const { path } of left) if (!out.has(path)) out.set(path, 'no place known for it');
  return { ...result, leftOut: [...out].map(([path, why]) => ({ path, why })), rest: [] };
}

/**
 * The placement at a base that the player chose, with what does not belong left out again. Where the game's folders
 * know nothing of what lies under `strip`, all of it is meant: the player has said so.
 */
export function proposeAt(input: PlacementInput, strip: string, base: TargetPath): Placement {
  const { tree } = contextFor(input);
  const out = whatStaysOut(input.entries, { strip, base }, input.card, tree);
  const reasons = new Map<string, LeftOutReason>(out.map(({ path, why }) => [path, why]));
  const known = input.entries.some(({ path }) => isUnder(path, strip) && !reasons.has(path));
  const leftOut = known
    ? out
    : out.filter(({ path, why }) => why !== 'no such folder in the game' || !isUnder(path, strip));
  return { rules: [{ as: 'files', from: strip, to: base }], leftOut, made: [], decisions: noDecisions };
}
