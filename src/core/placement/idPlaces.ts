import type { PackEntry } from '../archives/pack';
import { baseName, extensionOf, joinPath, nameKey, parentOf, quotedTarget, stemOf } from '../paths/paths';
import { kindOf } from '../media/kinds';
import { formOf } from '../names/knowledge';
import { bareId, idForm, type IdKind } from '../names/ids';
import type { PlacementMode } from './modes';
import { speaksOf } from '../inspect/readMeSentences';
import { WEIGHTS, pointsOf, sign, type Evidence } from './evidence';
import type { GameTree } from '../names/gameTree';
import type { Arena } from './arena';
import { sharedFolder } from '../placed/packFolders';
import type { PackNode } from './packTree';

/** What the ids of one container hold of one ending. */
interface Held {
  /** How many ids have such files, and how many files there are. */
  ids: number;
  files: number;
  /** Names of files, with how many ids have each, and the forms of these names. */
  names: Map<string, number>;
  forms: Set<string>;
  /** The folder inside the id in which they lie ('' straight in it), with how often. */
  inner: Map<string, number>;
}

const indexes = new WeakMap<IdKind, Map<string, Map<string, Held>>>();

/**
 * Container → ending → what is held; made once for a kind, in one pass over the game's folders: there can be thousands
 * of ids.
 */
function heldBy(kind: IdKind, { files: byFolder, folders }: GameTree): Map<string, Map<string, Held>> {
  const known = indexes.get(kind);
  if (known) return known;
  const made = new Map<string, Map<string, Held>>(
    kind.containers.map((container) => [container, new Map<string, Held>()]),
  );
  const owners = new Map<string, string>();
  for (const [at, files] of byFolder)
    for (let id = at, depth = 0; id.includes('/'); id = parentOf(id), depth++) {
      const held = kind.names.has(baseName(id)) ? made.get(parentOf(id)) : undefined;
      if (!held) continue;
      for (const file of files.keys()) hold(held, file, id, owners);
      const inner = depth === 0 ? '' : depth === 1 ? baseName(folders.get(at) ?? at) : undefined;
      if (inner !== undefined) voteFor(inner, held, new Set([...files.keys()].map(extensionOf)));
    }
  indexes.set(kind, made);
  return made;
}

/** Counts a file of an id. @param owners the id that had the latest file of an ending in a container */
function hold(held: Map<string, Held>, file: string, id: string, owners: Map<string, string>): void {
  const ending = extensionOf(file);
  const one: Held = held.get(ending) ?? { ids: 0, files: 0, names: new Map(), forms: new Set(), inner: new Map() };
  held.set(ending, one);
  const owner = `${ending} ${parentOf(id)}`;
  if (owners.get(owner) !== id) one.ids++;
  owners.set(owner, id);
  one.files++;
  one.names.set(file, (one.names.get(file) ?? 0) + 1);
  one.forms.add(formOf(file));
}

/** Files of these endings lie in a folder of that name inside the id's. */
function voteFor(inner: string, held: ReadonlyMap<string, Held>, endings: ReadonlySet<string>): void {
  for (const ending of endings) {
    const votes = (held.get(ending) as Held).inner;
    votes.set(inner, (votes.get(inner) ?? 0) + 1);
  }
}

/** The folder inside the ids' folders where files of these endings lie; '' where they lie straight in it. */
function innerFor(kind: IdKind, container: string, endings: ReadonlySet<string>, tree: GameTree): string {
  const votes = new Map<string, number>();
  const held = heldBy(kind, tree).get(container);
  for (const ending of endings)
    for (const [name, count] of held?.get(ending)?.inner ?? []) votes.set(name, (votes.get(name) ?? 0) + count);
  return [...votes].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0] ?? '';
}

const endingsOf = (entries: readonly PackEntry[]): Set<string> => new Set(entries.map(({ path }) => extensionOf(path)));

/** The folder of a container where a kind of files of an id belongs. */
export function idTarget(
  kind: IdKind,
  { container, id }: { container: string; id: string },
  { node, entries }: { node: PackNode | undefined; entries: readonly PackEntry[] },
  tree: GameTree,
): string {
  const folder = joinPath(tree.folders.get(container) as string, kind.names.get(nameKey(id)) ?? id);
  const kinds = ['picture', 'texture', 'sound', 'model', 'other'];
  // Of a pack of texts alone they are what it brings.
  const only = entries.every(({ path }) => kindOf(path) === 'text') ? [...kinds, 'text'] : kinds;
  const straight = node ? node.files.filter(({ path }) => only.includes(kindOf(path))) : entries;
  const all = node
    ? node.folders.reduce(
        (sum, { files }) =>
          sum + files.filter(({ path }) => only.length > kinds.length || kindOf(path) !== 'text').length,
        0,
      )
    : straight.length;
  // With folders of its own the pack says what lies where; loose files get the folder that the others have.
  const inner =
    straight.length > 0 && straight.length * 2 >= all ? innerFor(kind, container, endingsOf(straight), tree) : '';
  return joinPath(folder, inner);
}

/** A folder of ids, and how well files like these fit into its ids' folders. */
interface Container {
  folder: string;
  evidence: Evidence[];
}

/** Each of the ids has files of the same few names there, and these have others. */
const CLOSED = 0.75;

/** The folders whose ids hold files like these, the likeliest first; where none does, the one with most ids. */
export function containersFor(kind: IdKind, entries: readonly PackEntry[], tree: GameTree): Container[] {
  const endings = endingsOf(entries);
  const own = entries.map(({ path }) => nameKey(baseName(path)));
  const found: Container[] = [];
  for (const folder of kind.containers) {
    const held = heldBy(kind, tree).get(folder);
    const parts = [...endings].flatMap((ending) => held?.get(ending) ?? []);
    if (parts.length === 0) continue;
    const files = parts.reduce((sum, part) => sum + part.files, 0);
    const repeated =
      parts.reduce(
        (sum, { names }) => sum + [...names.values()].reduce((more, count) => more + (count > 1 ? count : 0), 0),
        0,
      ) / files;
    const known = own.filter((name) => parts.some(({ names }) => names.has(name))).length / own.length;
    const shown = quotedTarget(tree.folders.get(folder) as string);
    const evidence: Evidence[] = [];
    if (known > 0)
      evidence.push({ weight: WEIGHTS.atHome * known, says: `Those in ${shown} hold files of these names.` });
    else if (own.some((name) => parts.some(({ forms }) => forms.has(formOf(name)))))
      evidence.push(sign('form', 'Its names have the form of the names there.'));
    else if (parts.some(({ ids }) => ids > 1) && repeated >= CLOSED)
      evidence.push({
        weight: WEIGHTS.otherNames,
        says: `Each in ${shown} has files of the same names, and these have others.`,
      });
    found.push({ folder, evidence });
  }
  found.sort((a, b) => pointsOf(b.evidence) - pointsOf(a.evidence));
  const [most] = kind.containers;
  return found.length > 0 || most === undefined ? found : [{ folder: most, evidence: [] }];
}

/** In so many folders of ids a pack's files can belong. */
const MOST_CONTAINERS = 4;

interface IdPlace {
  node: string;
  to: string;
  mode: PlacementMode;
  evidence: Evidence[];
}

/** A pack, and what ids are called in its game. */
interface IdInput {
  entries: readonly PackEntry[];
  nodes: ReadonlyMap<string, PackNode>;
  arena: Arena;
  called: ReadonlyMap<string, string>;
}

/** Folders named after an id that the player has, and ids that the pack's name or its read-me speaks of. */
export function idCandidates(input: IdInput): { places: IdPlace[]; others: string[] } {
  const { entries, nodes, arena } = input;
  const places: IdPlace[] = [];
  const others: string[] = [];
  for (const kind of arena.knowledge.ids) {
    const named = [...nodes.values()].filter((node) => node.path !== '' && idForm(node.name) === kind.form);
    places.push(...named.flatMap((node) => ownPlaces(kind, node, input)));
    // Files that bear ids themselves lie where such files lie.
    const bear = entries.filter(({ path }) => idForm(stemOf(path)) === kind.form);
    if (named.length > 0 || bear.length * 2 > entries.length) continue;
    const containers = containersFor(kind, entries, arena.tree);
    const mentioned = mentionedIds(kind, input);
    places.push(...mentioned.flatMap((id) => mentionedPlaces(kind, id, containers.slice(0, MOST_CONTAINERS), input)));
    if (mentioned.length > 0)
      for (const { folder } of containers)
        others.push(...[...kind.names.keys()].filter((id) => !mentioned.includes(id)).map((id) => `${folder}/${id}`));
  }
  return { places, others };
}

/** Where a folder that is called by an id belongs, if the player has it. */
function ownPlaces(kind: IdKind, node: PackNode, { entries, arena: { tree } }: IdInput): IdPlace[] {
  if (!kind.owned.has(nameKey(node.name))) return [];
  const own = node.folders.flatMap(({ files }) => files);
  return containersFor(kind, own, tree)
    .slice(0, MOST_CONTAINERS)
    .map(({ folder, evidence }) => ({
      node: node.path,
      to: idTarget(kind, { container: folder, id: node.name }, { node, entries }, tree),
      mode: 'title',
      evidence: [sign('ownId', `“${node.name}” is one that you have.`), ...evidence],
    }));
}

/** The ids that the player has and the pack's name or read-me names, or by what they are called. */
function mentionedIds(kind: IdKind, { arena: { packFolder, said }, called }: IdInput): string[] {
  const lines = [packFolder, ...said.slice(0, 64 * 1024).split(/\r\n|\n|\r/)];
  const texts = lines.map(bareId);
  const speaks = (title: string | undefined) => title !== undefined && speaksOf(lines.join('\n'), title);
  return [...kind.owned].filter((id) => texts.some((text) => text.includes(bareId(id))) || speaks(called.get(id)));
}

/** Where a pack that names an id belongs: under the id as its name, or in the id's folders. */
function mentionedPlaces(kind: IdKind, id: string, containers: readonly Container[], input: IdInput): IdPlace[] {
  const { entries, nodes, arena, called } = input;
  const title = called.get(id);
  const shared = sharedFolder(entries);
  const spelled = kind.names.get(id) ?? id;
  const isNamed = sign('ownId', `“${spelled}”${title === undefined ? '' : ` (“${title}”)`} is named, and you have it.`);
  const getsName = sign('idsHere', 'Files of this kind are called after ids there, so it gets that name.');
  const borne = borneBy(kind, entries, spelled, arena.tree).map(({ path, to }): IdPlace => ({
    node: path,
    to,
    mode: 'title',
    evidence: [isNamed, getsName],
  }));
  const inFolders = containers.map(({ folder, evidence }): IdPlace => ({
    node: shared,
    to: idTarget(kind, { container: folder, id: spelled }, { node: nodes.get(shared), entries }, arena.tree),
    mode: 'title',
    evidence: [isNamed, ...evidence],
  }));
  return [...borne, ...inFolders];
}

/** Where a lone file of an ending goes under an id as its name: files of its ending there are called after ids. */
function borneBy(
  { files: folders, form }: IdKind,
  entries: readonly PackEntry[],
  id: string,
  tree: GameTree,
): { path: string; to: string }[] {
  const things = entries.filter(({ path }) => kindOf(path) !== 'text');
  return things
    .filter(({ path }) => things.filter((other) => extensionOf(other.path) === extensionOf(path)).length === 1)
    .flatMap(({ path }) => {
      const ending = extensionOf(path);
      const homes = new Set([...folders.values()].flat());
      return [...homes]
        .filter((folder) =>
          [...(tree.files.get(folder)?.keys() ?? [])].some(
            (file) => extensionOf(file) === ending && idForm(stemOf(file)) === form,
          ),
        )
        .slice(0, MOST_CONTAINERS)
        .map((folder) => ({ path, to: `${tree.folders.get(folder) as string}/${id}.${ending}` }));
    });
}
