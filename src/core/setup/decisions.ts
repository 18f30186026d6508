import type { GameCard } from '../games/card';
import type { Statement } from '../games/statement';
import type { JsonObject } from './changes';
import type { SetUp } from './setUp';
import { WRITTEN, type PackLayer, type PackNote, type Stack } from './stack';

/** What the player decided in one game, and what the app was told of it: all that can be taken back. */
export interface Decisions {
  stack: Stack;
  card: GameCard;
  statements: readonly Statement[];
  /** The card that was taken in last from a file. */
  taken?: JsonObject | undefined;
  notes: readonly PackNote[];
  setUps: readonly SetUp[];
}

/** What happened, and was not decided: no going back takes it away. */
const FACTS = ['runs', 'drops', 'triedAfter'] as const;

/** What of a card tells which game and which folders it is about. */
const OF_THE_FOLDERS = ['id', 'roots'] as const;

const pickOf = (from: object, names: readonly string[]): JsonObject =>
  Object.fromEntries(Object.entries(from).filter(([name, value]) => names.includes(name) && value !== undefined));
const lessOf = (from: object, names: readonly string[]): JsonObject =>
  Object.fromEntries(Object.entries(from).filter(([name, value]) => !names.includes(name) && value !== undefined));

/** Things with ids as a tree has them: by their ids, and their order. */
const byId = (things: readonly { id: string }[]): { order: string[]; of: JsonObject } => ({
  order: things.map(({ id }) => id),
  of: Object.fromEntries(things.map((one) => [one.id, one as unknown as JsonObject])),
});

/** The same as a list. What an order names twice or not at all, since something else came between, is not lost. */
function asList<T>({ order, of }: { order: readonly string[]; of: JsonObject }): T[] {
  const ids = new Set([...order, ...Object.keys(of)]);
  return [...ids].flatMap((id) => (of[id] === undefined ? [] : [of[id] as T]));
}

interface Tree {
  layers: { order: string[]; of: JsonObject };
  stack: JsonObject;
  statements: { order: string[]; of: JsonObject };
  card: JsonObject;
  taken?: JsonObject;
  notes: JsonObject;
  setUps: { order: string[]; of: JsonObject };
}

/** Decisions as a tree of data in which one decision changes little. */
export function treeOf({ stack, card, statements, taken, notes, setUps }: Decisions): JsonObject {
  const tree: Tree = {
    layers: byId(stack.layers),
    stack: lessOf(stack, ['layers', ...FACTS]),
    statements: byId(statements),
    card: lessOf(card, OF_THE_FOLDERS),
    ...(taken ? { taken } : {}),
    notes: Object.fromEntries(
      notes.flatMap((note) => {
        const written = pickOf(note, WRITTEN);
        return Object.keys(written).length === 0 ? [] : [[note.id, written]];
      }),
    ),
    setUps: byId(setUps),
  };
  return tree as unknown as JsonObject;
}

/**
 * The decisions of a tree.
 *
 * @param now what is not in the tree stays as it is here: what happened, the game's folders, the packs that are at hand
 */
export function decisionsOf(of: JsonObject, now: Decisions): Decisions {
  const tree = of as unknown as Tree;
  return {
    stack: { ...pickOf(now.stack, FACTS), ...tree.stack, layers: asList(tree.layers) } as unknown as Stack,
    card: { ...pickOf(now.card, OF_THE_FOLDERS), ...tree.card } as unknown as GameCard,
    statements: asList<Statement>(tree.statements),
    taken: tree.taken,
    setUps: asList<SetUp>(tree.setUps),
    notes: now.notes.map(
      (note) =>
        ({ ...lessOf(note, WRITTEN), ...(tree.notes[note.id] as JsonObject | undefined) }) as unknown as PackNote,
    ),
  };
}

/** Packs that steps speak of, so that going back or forth finds them. */
export function packsIn(trees: Iterable<JsonObject>): Set<string> {
  const found = new Set<string>();
  const waiting: unknown[] = [...trees];
  while (waiting.length > 0) {
    const one = waiting.pop();
    if (typeof one !== 'object' || one === null) continue;
    const { packId } = one as Partial<PackLayer>;
    if (typeof packId === 'string') found.add(packId);
    waiting.push(...(Object.values(one) as unknown[]));
  }
  return found;
}
