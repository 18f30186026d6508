import type { PackEntry } from '../archives/pack';
import { addAll } from '../lists';
import { kindOf } from '../media/kinds';
import { baseName, extensionOf, isUnder, nameKey, parentOf, stemOf, type TargetPath } from '../paths/paths';
import { idForm, type IdKind } from '../study/ids';
import { formOf } from '../study/knowledge';
import { isLanguage } from '../study/languages';
import { thingOf } from '../study/settingsStudy';
import { alikeSiblings, findGroups, looksLikeChoice, saysForWhom, splitAt, type Group } from './alternatives';
import { forTheReader } from './baggage';
import { keptZipped, placeByEvidence, plansFor, shownPlace, type Forced } from './byEvidence';
import { collisionsOf } from './collisions';
import type { Plan } from './plans';
import { ask, emptyResult, notYetWhere, type Context, type PoolResult } from './context';
import { FIT, LEVELS } from './evidence';
import { containersFor, idTarget } from './idPlaces';
import { sharedFolder } from './overTree';
import { packBaggage, withoutBaggage } from './packBaggage';
import { packFolders } from './packFolders';
import { placeZipped, placesOf, placesOfTheCard } from './places';
import { packTree, type PackNode } from './packTree';
import { fitFor } from './weigh';
import { RuleBook, noDecisions, targetOf, type PlaceRule } from './placement';
import { asEdits, settingsTargets } from './settingsFiles';

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
  if (told) return { ...told, leftOut: told.rest.map(({ path }) => ({ path, why: packBaggage(path, context) ?? 'no place known for it' })), rest: [] };
  const whole = stayZipped(entries, first[0], context);
  if (whole) return whole;
  const split = splitAt(pool, groupsOf(pool, first[0], context), context);
  addAll(result.leftOut, split.unchosen.map(({ path }) => ({ path, why: 'another choice' as const })));
  const wanted = [...split.base, ...split.chosen.flatMap(({ entries: chosen }) => chosen)];
  // What is chosen from is a wrapper, unless it is a thing by itself.
  const wrappers = split.chosen.map(({ folder }) => folder).filter((folder) => !isThing(pool, folder, context));
  // The same files have the same plans.
  const plans = wrappers.length === 0 && wanted.length === pool.length ? first : plansFor(wanted, context, { forced, wrappers });
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
  const above = readMe && (forTheReader(readMe.path) || (parentOf(readMe.path) === sharedFolder(entries) && !isOneOfMany(readMe.path, context)));
  // A file that each thing of a kind has is no read-me, whatever it is called.
  const markers = new Set(knowledge.families.flatMap(({ core }) => [...core].flatMap((one) => (one.startsWith('F:') ? [one.slice(2)] : []))));
  const twins = twinTexts(entries, context);
  return withoutBaggage(entries, context, result.leftOut, (path) => (markers.has(nameKey(baseName(path))) || twins.has(path) ? null : above && path === readMe.path ? 'read-me' : undefined));
}

/** Texts beside a file of their name, where the game has such pairs: `coal.scn` with `coal.txt`. */
function twinTexts(entries: readonly PackEntry[], { tree, knowledge }: Context): Set<string> {
  const found = new Set<string>();
  for (const { files } of packFolders(entries)) for (const { path } of files) {
    if (kindOf(path) !== 'text') continue;
    const others = files.filter((other) => other.path !== path && nameKey(stemOf(other.path)) === nameKey(stemOf(path)));
    const pairs = (at: string, ending: string) => [...(tree.files.get(at)?.keys() ?? [])].filter((name) => extensionOf(name) === ending && tree.files.get(at)?.has(`${stemOf(name)}.${extensionOf(path)}`)).length >= 2;
    if (others.some(({ path: other }) => [...(knowledge.homes.get(extensionOf(other))?.keys() ?? [])].slice(0, 50).some((at) => pairs(at, extensionOf(other))))) found.add(path);
  }
  return found;
}

/** Does a text have the form of texts that lie together in the game: `q004.txt` beside `q001.txt`, a language beside languages? */
function isOneOfMany(path: string, { tree, knowledge }: Context): boolean {
  const form = formOf(baseName(path));
  const languages = (folder: string) => [...(tree.files.get(folder)?.keys() ?? [])].filter((name) => extensionOf(name) === extensionOf(path) && isLanguage(name)).length;
  if (isLanguage(baseName(path)) && [...(knowledge.homes.get(extensionOf(path))?.keys() ?? [])].some((folder) => languages(folder) >= 2)) return true;
  return /\d/.test(form) && [...(knowledge.homes.get(extensionOf(path))?.keys() ?? [])].some((folder) => [...(tree.files.get(folder)?.keys() ?? [])].filter((name) => formOf(name) === form).length >= 2);
}

/** Parts to choose from: by their names, by what the read-me says, and because they lead to the same files. */
function groupsOf(entries: readonly PackEntry[], plan: Plan | undefined, context: Context): { exclusive: Group[]; optional: string[] } {
  const named = findGroups(entries, context);
  const taken = () => [...named.exclusive.flatMap(({ options }) => options), ...named.optional];
  const free = (folder: string) => !taken().some((one) => isUnder(folder, one) || isUnder(one, folder));
  const told = context.steps.find((step) => step.kind === 'choose one');
  // Several new things of a kind hold files of the same names; they do not exclude each other.
  if (!told) named.exclusive = named.exclusive.filter(({ options }) => !options.every((folder) => !looksLikeChoice(folder) && isThing(entries, folder, context)));
  if (told) {
    const group = alikeSiblings(entries).find(({ options }) => options.every(free));
    if (group) named.exclusive.push(group);
  }
  for (const step of context.steps)
    if (step.kind === 'optional') for (const folder of step.what) if (entries.some(({ path }) => path !== folder && isUnder(path, folder)) && free(folder) && !entries.every(({ path }) => isUnder(path, folder))) named.optional.push(folder);
  // A folder that says in its name for whom it is stays out until it is asked for.
  for (const node of foldersOf(packTree(entries))) if (node.depth > 0 && saysForWhom(node.path) && free(node.path) && node.count < entries.length) named.optional.push(node.path);
  if (plan) {
    const found = collisionsOf(plan, entries, context.tree);
    for (const group of found.exclusive) if (group.options.every(free)) named.exclusive.push(group);
    for (const folder of found.optional) if (free(folder)) named.optional.push(folder);
  }
  return named;
}

/** Does a folder of the pack look like one more of the game's things of a kind? */
function isThing(entries: readonly PackEntry[], folder: string, { knowledge }: Context): boolean {
  const node = packNode(entries, folder);
  return node !== undefined && knowledge.families.some((family) => family.members.size > 1 && fitFor(node, node.name, family, knowledge).fit > FIT.thing);
}

function* foldersOf(node: PackNode): Generator<PackNode> {
  yield node;
  if (node.depth < 4) for (const child of node.children) yield* foldersOf(child);
}

/** Folders named after ids: those the player has not are asked about, or left out beside one that they have. */
function idParts(entries: readonly PackEntry[], context: Context, result: PoolResult): { forced: Forced[]; out: string[] } {
  const { tree, knowledge } = context;
  const forced: Forced[] = [];
  const out: string[] = [];
  const nodes = [...foldersOf(packTree(entries))].filter(({ path }) => path !== '');
  for (const kind of knowledge.ids) {
    const named = nodes.filter(({ name }) => idForm(name) === kind.form);
    const own = named.filter(({ name }) => kind.owned.has(nameKey(name)));
    const container = containersFor(kind, entries, tree)[0]?.folder;
    if (container === undefined) continue;
    for (const node of named) {
      if (own.includes(node)) continue;
      if (own.some((other) => parentOf(other.path) === parentOf(node.path))) {
        out.push(node.path);
        addAll(result.leftOut, entries.filter(({ path }) => isUnder(path, node.path)).map(({ path }) => ({ path, why: 'another region' as const })));
        continue;
      }
      const digits = node.name.replace(/\D/g, '');
      const ids = [...kind.owned].map((key) => kind.names.get(key) ?? key).sort((a, b) => Number(b.replace(/\D/g, '') === digits) - Number(a.replace(/\D/g, '') === digits) || (a < b ? -1 : 1)).slice(0, 12);
      const close = ids.filter((id) => id.replace(/\D/g, '') === digits);
      const [answer] = ask(context, {
        id: `title:${node.path}`, kind: 'one', title: `“${node.name}” is none that you have`,
        why: 'A folder named after the id of something that is not there is not read.',
        options: [...ids.map((id) => ({ id, label: `Use ${id}`, says: 'one that you have' })), { id: node.name, label: `Leave it as ${node.name}`, says: 'It will not be read with what you have' }],
        suggested: close.length === 1 ? close : [],
      }, false);
      const id = answer ?? close[0] ?? node.name;
      forced.push({ node: node.path, to: idTarget(kind, container, id, node, entries, tree), says: answer === undefined ? 'It waits for your answer.' : `You chose ${id}.` });
    }
    if (named.length === 0) askForId(entries, kind, container, context, forced);
  }
  return { forced, out };
}

/** Files as they lie in the folders of ids, and nothing says of which. */
function askForId(entries: readonly PackEntry[], kind: IdKind, container: string, context: Context, forced: Forced[]): void {
  const endings = new Set(entries.map(({ path }) => extensionOf(path)));
  const { tree } = context;
  const alike = [...tree.files].some(([folder, files]) => isUnder(folder, container) && folder !== container && [...files.keys()].some((file) => endings.has(extensionOf(file))));
  if (!alike || kind.owned.size === 0 || !entries.every(({ path }) => ['picture', 'texture', 'sound', 'model', 'other'].includes(kindOf(path)))) return;
  const [best] = plansFor(entries, context);
  if (best && best.points >= LEVELS.likely.points) return;
  const shared = sharedFolder(entries);
  const ids = [...kind.owned].map((key) => kind.names.get(key) ?? key).sort().slice(0, 12);
  const [answer] = ask(context, {
    id: 'title', kind: 'one', title: 'Which of these is it for?', why: 'Files like these lie in folders that are named after ids, and the pack names none.',
    options: ids.map((id) => ({ id, label: id, says: 'one that you have' })), suggested: [],
  }, false);
  if (answer === undefined) return;
  forced.push({ node: shared, to: idTarget(kind, container, answer, packNode(entries, shared), entries, tree), says: `You chose ${answer}.` });
}

const packNode = (entries: readonly PackEntry[], path: string): PackNode | undefined => [...foldersOf(packTree(entries))].find((node) => node.path === path);

/** Whether the archive stays as it is; asked where both would do. */
function stayZipped(entries: readonly PackEntry[], plan: Plan | undefined, context: Context): PoolResult | undefined {
  const zipped = keptZipped(entries, context);
  if (!zipped || zipped.points <= 0) return undefined;
  const ahead = zipped.points - (plan?.points ?? 0);
  const clear = Math.abs(ahead) >= LEVELS.likely.ahead && Math.max(zipped.points, plan?.points ?? 0) >= LEVELS.likely.points;
  if (!clear && zipped.points > 1.5) {
    const [answer] = ask(context, {
      id: 'zipped', kind: 'one', title: 'Does it stay zipped?', why: 'Archives lie unopened in the game’s folders, and this one could be one of them.',
      options: [{ id: 'whole', label: 'Leave it zipped', says: shownPlace(zipped.to, context) }, { id: 'unpacked', label: 'Unpack it', says: plan ? shownPlace(plan.items[0]?.to ?? '', context) : 'You choose where' }],
      suggested: [],
    }, false);
    if (answer !== 'whole' && (answer !== undefined || ahead < 0)) return undefined;
  } else if (ahead < 0 || zipped.points < LEVELS.likely.points) return undefined;
  const says = zipped.evidence.map((one) => one.says).join(' ');
  if (zipped.from !== undefined) {
    const { from } = zipped;
    const inside = entries.filter(({ path }) => isUnder(path, from));
    return {
      ...emptyResult(), confidence: 'likely', rules: [{ as: 'inside', from, to: zipped.to, inner: '' }], leftOut: entries.filter(({ path }) => !isUnder(path, from)).map(({ path }) => ({ path, why: packBaggage(path, context) ?? 'no place known for it' })),
      parts: [{ mode: 'zipped', from, to: zipped.to, files: inside.length, reason: `${says} It is packed anew without that folder.`, evidence: zipped.evidence }],
    };
  }
  return {
    ...emptyResult(), confidence: zipped.points >= LEVELS.sure.points ? 'sure' : 'likely', rules: [{ as: 'whole', from: '', to: zipped.to }],
    parts: [{ mode: 'zipped', from: '', to: zipped.to, files: 1, reason: says, evidence: zipped.evidence }],
  };
}

/** No place speaks for itself: the folders that could be meant are offered, none is taken. */
function nowhereKnown(entries: readonly PackEntry[], context: Context, result: PoolResult): void {
  const { card, knowledge, name } = context;
  const strip = sharedFolder(entries);
  const root = (card.roots[0]?.id ?? 'game') as TargetPath;
  const own = baseName(strip) || name.replace(/\.\w+$/, '');
  const choice = (base: string, reason: string) => ({ strip, base: base as TargetPath, matched: 0, exact: 0, reason });
  result.choices.push(choice(root, 'None of its folders is known to the game.'));
  for (const { folder } of knowledge.families.slice(0, 4)) result.choices.push(choice(`${folder}/${own}`, 'As a folder of its own beside the others there.'));
  result.confidence = 'ask';
  result.rules.push({ as: 'files', from: strip, to: root });
}

/** Data that each of many things in the game's own folder has: it belongs to the thing, and is replaced with the thing. */
function belongsToAThing(target: string, { card, knowledge }: Context): boolean {
  const family = thingOf(target, knowledge, card.roots[0]?.id ?? '');
  return family !== undefined && !(card.profiles && nameKey(card.profiles.folder) === family.key);
}

/** What comes to lie where the player's own settings are becomes edits of them; nothing else does. */
function intoSettings(entries: readonly PackEntry[], context: Context, result: PoolResult): void {
  const own = new Map(settingsTargets(context.card, context.tree.targets).map((file) => [nameKey(file.target), file]));
  if (own.size === 0 || result.rules.length === 0) return;
  const book = new RuleBook({ rules: result.rules, leftOut: [], made: [], decisions: noDecisions });
  const edits: PlaceRule[] = [];
  const out = new Set<string>(result.leftOut.map(({ path }) => path));
  const brought = new Map<string, number>();
  for (const { path } of entries) {
    const goal = targetOf(path, book);
    if (goal) for (let folder = nameKey(parentOf(goal.target)); folder !== ''; folder = parentOf(folder)) brought.set(folder, (brought.get(folder) ?? 0) + 1);
  }
  for (const { path } of entries) {
    const goal = targetOf(path, book);
    const whole = goal !== undefined && (brought.get(nameKey(parentOf(goal.target))) ?? 0) > 1;
    const file = goal && goal.inside === undefined && !(whole && belongsToAThing(goal.target, context)) ? own.get(nameKey(goal.target)) : undefined;
    const text = context.texts.get(path);
    if (!file || out.has(path)) continue;
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
