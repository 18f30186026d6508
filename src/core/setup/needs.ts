import { packsIn } from './decisions';
import type { JsonObject } from './changes';
import type { History } from './history';
import type { SetUp } from './setUp';
import type { Stack } from './stack';

/** What still needs a pack's files: how the game is played, what is deployed, a set-up by its name, or a way back. */
export type Need = 'stack' | 'deployed' | 'undo' | { setUp: string };

/** Where packs may be needed. */
interface Users {
  stack: Pick<Stack, 'layers'>;
  setUps: readonly SetUp[];
  history: History;
  /** Ids of packs that something in the game comes from. */
  deployed: Iterable<string>;
}

const packsOf = ({ layers }: Pick<Stack, 'layers'>): string[] =>
  layers.flatMap((layer) => (layer.kind === 'pack' ? [layer.packId] : []));

const changesOf = ({ changes }: History['past'][number]): JsonObject[] => changes;

/** What needs which pack, by the packs' ids. A pack that is not named is needed by nothing. */
export function needsOfPacks({ stack, setUps, history, deployed }: Users): Map<string, Need[]> {
  const needs = new Map<string, Need[]>();
  const add = (ids: Iterable<string>, need: Need) => {
    for (const id of new Set(ids)) needs.set(id, [...(needs.get(id) ?? []), need]);
  };
  add(packsOf(stack), 'stack');
  add(deployed, 'deployed');
  for (const { name, stack: way } of setUps) add(packsOf(way), { setUp: name });
  add(packsIn([...history.past, ...history.future].flatMap(changesOf)), 'undo');
  return needs;
}

/** Can a pack be let go without anything missing it but a way back? */
export const isSpare = (needs: readonly Need[] | undefined): boolean => (needs ?? []).every((need) => need === 'undo');

/**
 * The history without the steps that would bring packs back which are let go, and without those that only they lead to:
 * the way back then begins after the last of them, the way forth ends before the first.
 */
export function historyWithout({ past, future }: History, packs: ReadonlySet<string>): History {
  const names = (step: History['past'][number]) => [...packsIn(changesOf(step))].some((id) => packs.has(id));
  // Both lists have the step that is nearest to now at their end.
  return { past: past.slice(past.findLastIndex(names) + 1), future: future.slice(future.findLastIndex(names) + 1) };
}
