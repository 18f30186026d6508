import type { PackEntry } from '../archives/pack';
import { namesOfIdsIn } from '../games/statement';
import type { Step } from '../inspect/step';
import type { Family } from '../names/families';
import { baseName, extensionOf, nameKey } from '../paths/paths';
import type { Arena } from './arena';
import { wantedByTheLog, type Wanted } from './missed';
import { sharedFolder } from '../placed/packFolders';
import { namedByFile, packTree, type PackNode } from './packTree';

/** Parts deeper than this are placed with what they lie in. */
export const DEEPEST = 6;

const MOST_NODES = 400;

/** Of larger packs fewer parts are looked at by themselves: what counts there is the whole. */
const MANY_ENTRIES = 5000;

/** Shorter words in a pack's name name no folder. */
export const SHORTEST_NAME = 4;

/** A pack, or a part of one, as it takes part in a competition. */
export interface Entrant {
  entries: readonly PackEntry[];
  arena: Arena;
  top: PackNode;
  /** The folder that all of it lies in. */
  shared: string;
  /** The parts that are looked at by themselves, by their paths. */
  nodes: ReadonlyMap<string, PackNode>;
  fileNames: ReadonlySet<string>;
  wanted: readonly Wanted[];
  /** The pack's name and its read-me, as far as they are looked through. */
  speech: string;
  /** Words of the pack's name. */
  packWords: ReadonlySet<string>;
  /** What ids are called. */
  called: ReadonlyMap<string, string>;
}

export function entrantOf(entries: readonly PackEntry[], arena: Arena): Entrant {
  const top = packTree(entries);
  const words = nameKey(arena.packFolder).split(/[^\p{L}\p{N}]+/u);
  return {
    entries,
    arena: { ...arena, steps: arena.steps.map((step) => within(meant(step, entries), arena)) },
    top,
    shared: sharedFolder(entries),
    nodes: nodesOf(top, entries.length),
    fileNames: new Set(entries.map(({ path }) => path)),
    wanted: wantedByTheLog(entries, arena.missed, arena.tree, arena.roots[0]?.id ?? 'game'),
    speech: `${arena.packFolder}\n${arena.said.slice(0, 65_536)}`,
    packWords: new Set(words.filter((word) => word.length >= SHORTEST_NAME)),
    called: namesOfIdsIn(arena.statements),
  };
}

/** What a part of the pack is called as one of a kind: by its folder, by a file in it, or as the pack. */
export function nameIn({ arena }: Entrant, node: PackNode, family?: Family): string {
  const clash = family && nameKey(node.name) === baseName(family.key);
  if (node.path !== '' && !clash) return node.name;
  return (family && (namedByFile(node, family) ?? numberOf(arena.packFolder, family))) ?? arena.packFolder;
}

/** Where things of a kind are called by their numbers, the one that a download's name has: `04` for “Level 4”. */
export function numberOf(packFolder: string, { members }: Family): string | undefined {
  const names = [...members].map(baseName);
  if (!names.every((name) => /^\d+$/.test(name))) return undefined;
  const [number, other] = packFolder.match(/(?<![\p{L}\d.])\d+(?![\p{L}\d.])/gu) ?? [];
  if (number === undefined || other !== undefined) return undefined;
  const digits = Math.min(...names.map((name) => name.length));
  return number.replace(/^0+(?=\d)/, '').padStart(digits, '0');
}

/** The parts of a pack from the top down, so many of them. */
function nodesOf(top: PackNode, entries: number): Map<string, PackNode> {
  const nodes = new Map<string, PackNode>();
  const most = entries > MANY_ENTRIES ? MOST_NODES / 8 : MOST_NODES;
  const queue = [top];
  for (let node = queue.shift(); node && nodes.size < most; node = queue.shift()) {
    nodes.set(node.path, node);
    if (node.depth < DEEPEST) queue.push(...node.children);
  }
  return nodes;
}

/** “Rename it to x.map”: the one file of that ending is meant. */
function meant(step: Step, entries: readonly PackEntry[]): Step {
  if (step.kind !== 'put' || step.what.length > 0 || !step.name?.includes('.')) return step;
  const fits = entries.filter(({ path }) => extensionOf(path) === extensionOf(step.name ?? ''));
  return fits.length === 1 ? { ...step, what: [fits[0]?.path as string] } : step;
}

/** “Add it to main.box”, which is an archive of the game: inside it. */
function within(step: Step, arena: Arena): Step {
  if (step.kind !== 'put' || step.how !== 'into' || step.folders.length > 0 || step.files.length === 0) return step;
  const isSame = (one: string) => step.files.some((file) => nameKey(baseName(file)) === nameKey(baseName(one)));
  if (!step.files.every((file) => arena.inside.has(file)) || step.what.some(isSame)) return step;
  return { ...step, how: 'inside' };
}
