import type { PackEntry } from '../archives/pack';
import { baseName, extensionOf, joinPath, nameKey, parentOf, stemOf } from '../paths/paths';
import { kindOf } from '../media/kinds';
import { bareId, idForm, type IdKind } from '../study/ids';
import type { PlacementMode } from './context';
import { WEIGHTS, type Evidence } from './evidence';
import type { GameTree } from './gameTree';
import type { Arena } from './competition';
import { sharedFolder } from './overTree';
import type { PackNode } from './packTree';

/** The folder inside the ids' folders where files of these endings lie; '' where they lie straight in it. */
function innerFor(container: string, endings: ReadonlySet<string>, tree: GameTree, names: ReadonlyMap<string, string>): string {
  const votes = new Map<string, number>();
  for (const key of names.keys()) {
    const id = `${container}/${key}`;
    for (const [folder, path] of tree.folders) {
      if (folder !== id && parentOf(folder) !== id) continue;
      const files = tree.files.get(folder);
      if (files && [...files.keys()].some((file) => endings.has(extensionOf(file)))) {
        const inner = folder === id ? '' : baseName(path);
        votes.set(inner, (votes.get(inner) ?? 0) + 1);
      }
    }
  }
  return [...votes].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))[0]?.[0] ?? '';
}

const endingsOf = (entries: readonly PackEntry[]): Set<string> => new Set(entries.map(({ path }) => extensionOf(path)));

/** The folder of a container where a kind of files of an id belongs. */
export function idTarget(kind: IdKind, container: string, id: string, node: PackNode | undefined, entries: readonly PackEntry[], tree: GameTree): string {
  const folder = joinPath(tree.folders.get(container) as string, kind.names.get(nameKey(id)) ?? id);
  const straight = node ? node.files.filter(({ path }) => ['picture', 'texture', 'sound', 'model', 'other'].includes(kindOf(path))) : entries;
  const all = node ? node.folders.reduce((sum, { files }) => sum + files.filter(({ path }) => kindOf(path) !== 'text').length, 0) : straight.length;
  // With folders of its own the pack says what lies where; loose files get the folder that the others have.
  const inner = straight.length > 0 && straight.length * 2 >= all ? innerFor(container, endingsOf(straight), tree, kind.names) : '';
  return joinPath(folder, inner);
}

/** The container whose ids hold files like these. */
export function containerFor(kind: IdKind, entries: readonly PackEntry[], tree: GameTree): string | undefined {
  const endings = endingsOf(entries);
  const holds = (container: string) => [...kind.names.keys()].some((key) => [...tree.files].some(([folder, files]) =>
    (folder === `${container}/${key}` || folder.startsWith(`${container}/${key}/`)) && [...files.keys()].some((file) => endings.has(extensionOf(file)))));
  return kind.containers.find(holds) ?? kind.containers[0];
}

/** Folders named after an id that the player has, and ids that the pack's name or its read-me speaks of. */
export function idCandidates(
  entries: readonly PackEntry[], nodes: ReadonlyMap<string, PackNode>, { tree, knowledge, said, packFolder }: Arena,
): { places: { node: string; to: string; mode: PlacementMode; evidence: Evidence[] }[]; others: string[] } {
  const others: string[] = [];
  const found: { node: string; to: string; mode: PlacementMode; evidence: Evidence[] }[] = [];
  for (const kind of knowledge.ids) {
    const container = containerFor(kind, entries, tree);
    if (container === undefined) continue;
    let named = false;
    for (const node of nodes.values()) {
      if (node.path === '' || idForm(node.name) !== kind.form) continue;
      named = true;
      if (!kind.owned.has(nameKey(node.name))) continue;
      found.push({ node: node.path, to: idTarget(kind, container, node.name, node, entries, tree), mode: 'title', evidence: [{ weight: WEIGHTS.ownId, says: `“${node.name}” is one that you have.` }] });
    }
    // Files that bear ids themselves lie where such files lie.
    const bear = entries.filter(({ path }) => idForm(stemOf(path)) === kind.form);
    if (named || bear.length * 2 > entries.length) continue;
    const mentioned: string[] = [];
    const texts = [packFolder, ...said.slice(0, 64 * 1024).split(/\r\n|\n|\r/)].map(bareId);
    for (const id of kind.owned) {
      if (!texts.some((text) => text.includes(bareId(id)))) continue;
      const shared = sharedFolder(entries);
      const spelled = kind.names.get(id) ?? id;
      mentioned.push(id);
      found.push({ node: shared, to: idTarget(kind, container, spelled, nodes.get(shared), entries, tree), mode: 'title', evidence: [{ weight: WEIGHTS.ownId, says: `“${spelled}” is named, and you have it.` }] });
    }
    if (mentioned.length > 0) others.push(...[...kind.names.keys()].filter((id) => !mentioned.includes(id)).map((id) => `${container}/${id}`));
  }
  return { places: found, others };
}
