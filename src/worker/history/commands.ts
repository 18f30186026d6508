import { WRITTEN, decisionsOf, isSame, stackSchema, treeOf, wentTo, type Json, type WorkOptions } from '@/core';
import { memory } from '@/storage/memory';
import type { HistoryCommands } from '../contract';
import { decidedIn } from '../game/decided';
import type { Desk } from '../game/desk';
import type { CommandsOf } from '../game/handlers';

export const historyCommands: CommandsOf<HistoryCommands> = {
  'go to step': {
    title: 'Going back',
    isNoDecision: true,
    run: (desk, { steps }, options) => goTo(desk, steps, options),
  },
};

async function goTo(desk: Desk, steps: number, options: WorkOptions): Promise<void> {
  const { open } = desk;
  const now = decidedIn(open);
  const { history, tree } = wentTo(open.history, treeOf(now), steps);
  const then = decisionsOf(tree, now);
  const noteOf = new Map(now.notes.map((note) => [note.id, note]));
  const rewritten = then.notes.filter((note) => WRITTEN.some((part) => noteOf.get(note.id)?.[part] !== note[part]));
  if (rewritten.length > 0) {
    const byId = new Map(rewritten.map((note) => [note.id, note]));
    await open.saveNotes(open.notes.map((note) => byId.get(note.id) ?? note));
    for (const { id } of rewritten) open.forgetPage(id);
  }
  await open.replaceStack(stackSchema.parse(then.stack));
  if (now.setUps !== then.setUps) await open.saveSetUps(then.setUps);
  open.history = history;
  await memory.setHistory(open.game.id, history);
  const told = (one: typeof now) => [one.card, one.statements, one.taken] as unknown as Json;
  if (isSame(told(now), told(then))) return;
  const { card, statements, taken } = then;
  await desk.changeGame({ ...open.game, card, statements: [...statements], taken: taken as never }, options);
}
