import type { PackEntry } from '../archives/pack';
import { addAll } from '../lists';
import { kindOf } from '../media/kinds';
import { idForm, type IdKind } from '../names/ids';
import { extensionOf, isUnder, nameKey, parentOf } from '../paths/paths';
import { plansFor, type Forced } from './byEvidence';
import { ask, type Context, type PoolResult } from './context';
import { LEVELS } from './evidence';
import { containersFor, idTarget } from './idPlaces';
import { sharedFolder } from '../placed/packFolders';
import { packTree, type PackNode } from './packTree';

export function* foldersOf(node: PackNode): Generator<PackNode> {
  yield node;
  if (node.depth < 4) for (const child of node.children) yield* foldersOf(child);
}

/** Folders named after ids: those the player has not are asked about, or left out beside one that they have. */
export function idParts(
  entries: readonly PackEntry[],
  context: Context,
  result: PoolResult,
): { forced: Forced[]; out: string[] } {
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
        const inside = entries.filter(({ path }) => isUnder(path, node.path));
        addAll(
          result.leftOut,
          inside.map(({ path }) => ({ path, why: 'another region' as const })),
        );
      } else forced.push(ofNoneOwned(node, { kind, container }, entries, context));
    }
    if (named.length === 0) forced.push(...askForId(entries, { kind, container }, context));
  }
  return { forced, out };
}

/** Ids, and the folder that theirs lie in. */
interface InContainer {
  kind: IdKind;
  container: string;
}

const digitsOf = (id: string): string => id.replace(/\D/g, '');

/** A folder named after an id that the player has not: asked for which one it is, the ones with its digits first. */
function ofNoneOwned(
  node: PackNode,
  { kind, container }: InContainer,
  entries: readonly PackEntry[],
  context: Context,
): Forced {
  const isClose = (id: string) => digitsOf(id) === digitsOf(node.name);
  const ids = [...kind.owned]
    .map((key) => kind.names.get(key) ?? key)
    .sort((a, b) => Number(isClose(b)) - Number(isClose(a)) || (a < b ? -1 : 1))
    .slice(0, 12);
  const close = ids.filter(isClose);
  const [answer] = ask(
    context,
    {
      id: `title:${node.path}`,
      kind: 'one',
      title: `“${node.name}” is none that you have`,
      why: 'A folder named after the id of something that is not there is not read.',
      options: [
        ...ids.map((id) => ({ id, label: `Use ${id}`, says: 'one that you have' })),
        { id: node.name, label: `Leave it as ${node.name}`, says: 'It will not be read with what you have' },
      ],
      suggested: close.length === 1 ? close : [],
    },
    false,
  );
  const id = answer ?? close[0] ?? node.name;
  return {
    node: node.path,
    to: idTarget(kind, { container, id }, { node, entries }, context.tree),
    says: answer === undefined ? 'It waits for your answer.' : `You chose ${id}.`,
  };
}

/** Files as they lie in the folders of ids, and nothing says of which. */
function askForId(entries: readonly PackEntry[], { kind, container }: InContainer, context: Context): Forced[] {
  const endings = new Set(entries.map(({ path }) => extensionOf(path)));
  const { tree } = context;
  const alike = [...tree.files].some(
    ([folder, files]) =>
      isUnder(folder, container) &&
      folder !== container &&
      [...files.keys()].some((file) => endings.has(extensionOf(file))),
  );
  if (
    !alike ||
    kind.owned.size === 0 ||
    !entries.every(({ path }) => ['picture', 'texture', 'sound', 'model', 'other'].includes(kindOf(path)))
  )
    return [];
  const [best] = plansFor(entries, context);
  if (best && best.points >= LEVELS.likely.points) return [];
  const shared = sharedFolder(entries);
  const ids = [...kind.owned]
    .map((key) => kind.names.get(key) ?? key)
    .sort()
    .slice(0, 12);
  const [answer] = ask(
    context,
    {
      id: 'title',
      kind: 'one',
      title: 'Which of these is it for?',
      why: 'Files like these lie in folders that are named after ids, and the pack names none.',
      options: ids.map((id) => ({ id, label: id, says: 'one that you have' })),
      suggested: [],
    },
    false,
  );
  if (answer === undefined) return [];
  const to = idTarget(kind, { container, id: answer }, { node: packNode(entries, shared), entries }, tree);
  return [{ node: shared, to, says: `You chose ${answer}.` }];
}

export const packNode = (entries: readonly PackEntry[], path: string): PackNode | undefined =>
  [...foldersOf(packTree(entries))].find((node) => node.path === path);
