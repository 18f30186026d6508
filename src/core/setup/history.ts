import { z } from 'zod';
import { withChanges, type Change, type Json, type JsonObject } from './changes';

/** So many changes can be taken back, and so many characters of JSON are kept for it. */
export const MOST_STEPS = 200;
const MOST_CHARACTERS = 4_000_000;

const json = z.json() as unknown as z.ZodType<Json>;
const changeSchema: z.ZodType<Change> = z.union([
  z.object({ at: z.array(z.string()).min(1), from: z.number().int().min(0), out: z.array(json), in: z.array(json) }),
  z.object({ at: z.array(z.string()).min(1), before: json.optional(), after: json.optional() }),
]);

const stepSchema = z.object({
  /** What was done, in words. */
  says: z.string(),
  at: z.number(),
  changes: z.array(changeSchema),
  /** Characters of its JSON. */
  size: z.number(),
});
type HistoryStep = z.infer<typeof stepSchema>;

/** What was decided, the latest last, and what was taken back, the next to be done again last. */
export const historySchema = z.object({ past: z.array(stepSchema), future: z.array(stepSchema) });
export interface History {
  past: readonly HistoryStep[];
  future: readonly HistoryStep[];
}

export const noHistory: History = { past: [], future: [] };

/** The latest steps that fit into the bounds. One alone may be larger than they are: it is kept all the same. */
function bounded(past: readonly HistoryStep[]): HistoryStep[] {
  let room = MOST_CHARACTERS;
  const kept: HistoryStep[] = [];
  for (let i = past.length - 1; i >= 0 && kept.length < MOST_STEPS; i--) {
    const step = past[i] as HistoryStep;
    room -= step.size;
    if (room < 0 && kept.length > 0) break;
    kept.push(step);
  }
  return kept.reverse();
}

/** The history with one more decision. What had been taken back before it cannot be done again any more. */
export function noted(history: History, says: string, at: number, changes: Change[]): History {
  const step = { says, at, changes, size: says.length + JSON.stringify(changes).length };
  return { past: bounded([...history.past, step]), future: [] };
}

/**
 * Goes back, or forth, until so many steps lie in the past.
 *
 * @param tree as it is now
 * @returns the tree as it was then, and the history with the other steps in the future
 */
export function wentTo(history: History, tree: JsonObject, steps: number): { history: History; tree: JsonObject } {
  const [past, future] = [[...history.past], [...history.future]];
  const goal = Math.min(Math.max(steps, 0), past.length + future.length);
  let now = tree;
  while (past.length > goal) {
    const step = past.pop() as HistoryStep;
    now = withChanges(now, step.changes, 'back');
    future.push(step);
  }
  while (past.length < goal) {
    const step = future.pop() as HistoryStep;
    now = withChanges(now, step.changes, 'forth');
    past.push(step);
  }
  return { history: { past, future }, tree: now };
}
