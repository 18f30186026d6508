import { liesAsSettings } from '../inspect/stated';
import type { PackEntry } from '../archives/pack';
import { firstRoot } from '../games/card';
import { addAll } from '../lists';
import { kindOf } from '../media/kinds';
import { formOf } from '../names/knowledge';
import { isLanguage } from '../names/languages';
import {
  baseName,
  extensionOf,
  isUnder,
  joinPath,
  nameKey,
  parentOf,
  stemOf,
  type TargetPath,
  target as rootTarget,
} from '../paths/paths';
import { forTheReader } from '../placed/baggage';
import { packFolders, sharedFolder } from '../placed/packFolders';
import { RuleBook, noDecisions, targetOf, type PlaceRule } from '../placed/placement';
import { thingOf } from '../study/settingsStudy';
import { alikeSiblings, findGroups, looksLikeChoice, saysForWhom, splitAt, type Group } from './alternatives';
import { placeByEvidence, plansFor } from './byEvidence';
import { placesOf, placesOfTheCard } from './cardPlaces';
import { collisionsOf } from './collisions';
import { emptyResult, notYetWhere, type Context, type PoolResult } from './context';
import { FIT } from './evidence';
import { foldersOf, idParts, packNode } from './idParts';
import { isOfTheGame, packBaggage, withoutBaggage } from './packBaggage';
import { packTree } from './packTree';
import { placeZipped } from './placeByKind';
import type { Plan } from './plans';
import { asEdits, settingsTargets } from './settingsFiles';
import { stayZipped } from './stayZipped';
import { fitFor } from './weigh';

/** Places a pack in a game that nobody described: by what its folders, the pack and the read-me say. */
export function proposeStudied(entries: readonly PackEntry[], context: Context): PoolResult {
  const result = emptyResult();
  const useful = usefulFiles(entries, context, result);
  if (useful.length === 0) return result;
  const byRegion = idParts(useful, context, result);
  const pool = useful.filter(({ path }) => !byRegion.out.some((folder) => isUnder(path, folder)));
  const forced = [...byRegion.forced, ...placesOfTheCard(pool, context)];
  const first = plansFor(pool, context, { forced });
  const told = placesOf(context, 'kept-zipped').length > 0 ? placeZipped(entries, context) : undefined;
  if (told)
    return {
      ...told,
      leftOut: told.rest.map(({ path }) => ({ path, why: packBaggage(path, context) ?? 'no place known for it' })),
      rest: [],
    };
  const whole = stayZipped(entries, first[0], context);
  if (whole) return whole;
  const split = splitAt(pool, groupsOf(pool, first[0], context), context);
  addAll(
    result.leftOut,
    split.unchosen.map(({ path }) => ({ path, why: 'another choice' as const })),
  );
  const wanted = [...split.base, ...split.chosen.flatMap(({ entries: chosen }) => chosen)];
  // What is chosen from is a wrapper, unless it is a thing by itself.
  const wrappers = split.chosen.map(({ folder }) => folder).filter((folder) => !isThing(pool, folder, context));
  // The same files have the same plans.
  const plans =
    wrappers.length === 0 && wanted.length === pool.length ? first : plansFor(wanted, context, { forced, wrappers });
  const placed = placeByEvidence(wanted, context, plans);
  if (placed) {
    // What was chosen lies over the rest.
    const late = (from: string) => split.chosen.findIndex(({ folder }) => isUnder(from, folder));
    placed.rules.sort((a, b) => late(a.from) - late(b.from));
    addAll(result.rules, placed.rules);
    addAll(result.parts, placed.parts);
    addAll(result.leftOut, placed.leftOut);
    addAll(result.choices, placed.choices);
    result.confidence = placed.confidence;
  } else if (wanted.length > 0) nowhereKnown(wanted, context, result);
  if (split.open) {
    result.confidence = 'ask';
    notYetWhere(context);
  }
  intoSettings(wanted, context, result);
  return result;
}

/** What only speaks to the reader, was left behind by a computer, or is a program, is sorted out first. */
function usefulFiles(entries: readonly PackEntry[], context: Context, result: PoolResult): readonly PackEntry[] {
  const { readMe, knowledge } = context;
  // Only what stands above the rest speaks of it; a text among other things is one of them.
  const above =
    readMe &&
    (forTheReader(readMe.path) ||
      (parentOf(readMe.path) === sharedFolder(entries) &&
        !isOneOfMany(readMe.path, context) &&
        !liesAsSettings(readMe.path, context.card) &&
        !isTextOfTheGame(readMe.path, entries, context)));
  // A file that each thing of a kind has is no read-me, whatever it is called.
  const markers = new Set(
    knowledge.families.flatMap(({ core }) => [...core].flatMap((one) => (one.startsWith('F:') ? [one.slice(2)] : []))),
  );
  const twins = twinTexts(entries, context);
  const isPageOfMany = (path: string) => forTheReader(path) === 'web link' && isOneOfMany(path, context);
  return withoutBaggage(entries, context, result.leftOut, (path) =>
    markers.has(nameKey(baseName(path))) || twins.has(path) || isPageOfMany(path)
      ? null
      : above && path === readMe.path
        ? 'read-me'
        : undefined,
  );
}

/** Texts beside a file of their name, where the game has such pairs: `coal.scn` with `coal.txt`. */
function twinTexts(entries: readonly PackEntry[], { tree, knowledge }: Context): Set<string> {
  const found = new Set<string>();
  for (const { files } of packFolders(entries))
    for (const { path } of files) {
      if (kindOf(path) !== 'text') continue;
      const others = files.filter(
        (other) => other.path !== path && nameKey(stemOf(other.path)) === nameKey(stemOf(path)),
      );
      const pairs = (at: string, ending: string) =>
        [...(tree.files.get(at)?.keys() ?? [])].filter(
          (name) => extensionOf(name) === ending && tree.files.get(at)?.has(`${stemOf(name)}.${extensionOf(path)}`),
        ).length >= 2;
      if (
        others.some(({ path: other }) =>
          [...(knowledge.homes.get(extensionOf(other))?.keys() ?? [])]
            .slice(0, 50)
            .some((at) => pairs(at, extensionOf(other))),
        )
      )
        found.add(path);
    }
  return found;
}

/**
 * Does a text have the form of texts that lie together in the game: `q004.txt` beside `q001.txt`, a language beside
 * languages?
 */
function isOneOfMany(path: string, { tree, knowledge }: Context): boolean {
  const form = formOf(baseName(path));
  const languages = (folder: string) =>
    [...(tree.files.get(folder)?.keys() ?? [])].filter(
      (name) => extensionOf(name) === extensionOf(path) && isLanguage(name),
    ).length;
  if (
    isLanguage(baseName(path)) &&
    [...(knowledge.homes.get(extensionOf(path))?.keys() ?? [])].some((folder) => languages(folder) >= 2)
  )
    return true;
  return (
    /\d/.test(form) &&
    [...(knowledge.homes.get(extensionOf(path))?.keys() ?? [])].some(
      (folder) => [...(tree.files.get(folder)?.keys() ?? [])].filter((name) => formOf(name) === form).length >= 2,
    )
  );
}

/**
 * Is a text one of the game's own? The game has it in a folder called like its own, or keeps several texts in such a
 * folder; or the pack is nothing but texts, and the game has one of that name.
 */
function isTextOfTheGame(path: string, entries: readonly PackEntry[], { tree }: Context): boolean {
  if (isOfTheGame(path, tree)) return true;
  const name = nameKey(baseName(path));
  if (tree.foldersOfFile.has(name) && entries.every((entry) => kindOf(entry.path) === 'text')) return true;
  const isText = (other: string) => extensionOf(other) === extensionOf(name) && forTheReader(other) === undefined;
  return (tree.foldersByName.get(nameKey(baseName(parentOf(path)))) ?? []).some(
    (folder) => [...(tree.files.get(folder)?.keys() ?? [])].filter(isText).length >= SEVERAL,
  );
}

/** One text in a folder may be about it. */
const SEVERAL = 2;

interface Groups {
  exclusive: Group[];
  optional: string[];
}

/** Parts to choose from: by their names, by what the read-me says, and because they lead to the same files. */
function groupsOf(entries: readonly PackEntry[], plan: Plan | undefined, context: Context): Groups {
  const named = findGroups(entries, context);
  const free = (folder: string) => {
    const taken = [...named.exclusive.flatMap(({ options }) => options), ...named.optional];
    return !taken.some((one) => isUnder(folder, one) || isUnder(one, folder));
  };
  if (context.steps.some(({ kind }) => kind === 'choose one')) {
    const group = alikeSiblings(entries).find(({ options }) => options.every(free));
    if (group) named.exclusive.push(group);
  } else {
    // Several new things of a kind hold files of the same names; they do not exclude each other.
    const areThings = ({ options }: Group) =>
      options.every((folder) => !looksLikeChoice(folder) && isThing(entries, folder, context));
    named.exclusive = named.exclusive.filter((group) => !areThings(group));
  }
  for (const folder of optionalFolders(entries, context)) if (free(folder)) named.optional.push(folder);
  if (plan) {
    const found = collisionsOf(plan, entries, context.tree);
    for (const group of found.exclusive) if (group.options.every(free)) named.exclusive.push(group);
    for (const folder of found.optional) if (free(folder)) named.optional.push(folder);
  }
  return named;
}

/** Folders that the read-me calls optional, and those that say in their names for whom they are. */
function optionalFolders(entries: readonly PackEntry[], { steps }: Context): string[] {
  const isPart = (folder: string) =>
    entries.some(({ path }) => path !== folder && isUnder(path, folder)) &&
    !entries.every(({ path }) => isUnder(path, folder));
  const told = steps.flatMap((step) => (step.kind === 'optional' ? step.what : []));
  const forSome = [...foldersOf(packTree(entries))].filter(
    ({ depth, path, count }) => depth > 0 && saysForWhom(path) && count < entries.length,
  );
  return [...told.filter(isPart), ...forSome.map(({ path }) => path)];
}

/** Does a folder of the pack look like one more of the game's things of a kind? */
function isThing(entries: readonly PackEntry[], folder: string, { knowledge }: Context): boolean {
  const node = packNode(entries, folder);
  if (!node) return false;
  return knowledge.families.some((family) => {
    const { fit, whole } = fitFor(node, node.name, family, knowledge);
    return family.members.size > 1 && fit > FIT.thing && whole > FIT.half;
  });
}

/** No place speaks for itself: the folders that could be meant are offered, none is taken. */
function nowhereKnown(entries: readonly PackEntry[], context: Context, result: PoolResult): void {
  const { card, knowledge, name } = context;
  const strip = sharedFolder(entries);
  const root = firstRoot(card);
  const own = baseName(strip) || name.replace(/\.\w+$/, '');
  const choice = (base: TargetPath, reason: string) => ({ strip, base, matched: 0, exact: 0, reason });
  result.choices.push(choice(root, 'None of its folders is known to the game.'));
  for (const { folder } of knowledge.families.slice(0, 4))
    result.choices.push(
      choice(joinPath(rootTarget(folder, ''), own), 'As a folder of its own beside the others there.'),
    );
  result.confidence = 'ask';
  result.rules.push({ as: 'files', from: strip, to: root });
}

/**
 * Data that each of many things in the game's own folder has: it belongs to the thing, and is replaced with the thing.
 */
function belongsToAThing(target: string, { card, knowledge }: Context): boolean {
  const family = thingOf(target, knowledge, card.roots[0]?.id ?? '');
  return family !== undefined && !(card.profiles && nameKey(card.profiles.folder) === family.key);
}

/** How many of some files lie in each folder, or below it. */
function filesBelow(targets: readonly string[]): Map<string, number> {
  const found = new Map<string, number>();
  for (const target of targets)
    for (let folder = nameKey(parentOf(target)); folder !== ''; folder = parentOf(folder))
      found.set(folder, (found.get(folder) ?? 0) + 1);
  return found;
}

/** What comes to lie where the player's own settings are becomes edits of them; nothing else does. */
function intoSettings(entries: readonly PackEntry[], context: Context, result: PoolResult): void {
  const own = new Map(settingsTargets(context.card, context.tree.targets).map((file) => [nameKey(file.target), file]));
  if (own.size === 0 || result.rules.length === 0) return;
  const book = new RuleBook({ rules: result.rules, leftOut: [], made: [], decisions: noDecisions });
  const edits: PlaceRule[] = [];
  const out = new Set<string>(result.leftOut.map(({ path }) => path));
  const goals = entries.flatMap(({ path }) => {
    const goal = targetOf(path, book);
    return goal ? [{ path, goal }] : [];
  });
  const brought = filesBelow(goals.map(({ goal }) => goal.target));
  for (const { path, goal } of goals) {
    if (goal.inside !== undefined || out.has(path)) continue;
    const whole = (brought.get(nameKey(parentOf(goal.target))) ?? 0) > 1;
    const file = whole && belongsToAThing(goal.target, context) ? undefined : own.get(nameKey(goal.target));
    if (!file) continue;
    const text = context.texts.get(path);
    if (text === undefined) {
      result.leftOut.push({ path, why: 'settings the game writes itself' });
      continue;
    }
    const { rule, part } = asEdits(path, text, file.target, file.dialect);
    edits.push(rule);
    result.parts.push(part);
  }
  const edited = new Set(edits.map(({ from }) => from));
  result.rules = [...result.rules.filter(({ as, from }) => !(as === 'file' && edited.has(from))), ...edits];
}
