import { parseTarget } from '@/core';
import type { StackCommands } from '../contract';
import { writeNotes } from '../game/written';
import type { CommandsOf } from '../game/handlers';
import { leaveOut } from './leaveOut';
import { decideConflict, decideRest, forgetStale, startMerge } from './fileMerges';
import { addRule, dropRule, moveTo, setPick, switchAll, takeOut } from './movePacks';
import { mergePacks, takeApart } from './packMerging';

export const stackCommands: CommandsOf<StackCommands> = {
  'switch packs': {
    title: ({ on }) => (on ? 'Putting in' : 'Leaving out'),
    run: ({ open }, { layers, on }) => switchAll(open, layers, on),
  },
  'take out': {
    title: 'Taking out of the stack',
    run: ({ open }, { layers }) => takeOut(open, layers),
  },
  'move packs': { title: 'Moving', run: ({ open }, { layers, place }) => moveTo(open, layers, place) },
  'head packs': {
    title: 'Putting under a heading',
    run: ({ open }, { layers, heading }) => {
      const packIds = layers.map((id) => open.layer(id).packId);
      return writeNotes(open, packIds, { heading });
    },
  },
  'add rule': { title: 'Taking the rule', run: ({ open }, { lower, upper }) => addRule(open, { lower, upper }) },
  'drop rule': { title: 'Taking the rule away', run: ({ open }, { lower, upper }) => dropRule(open, lower, upper) },
  pick: {
    title: 'Choosing what is used',
    run: ({ open }, { scope, at, layer }) => setPick(open, scope, at, layer),
  },
  'leave out': {
    title: 'Leaving the file out',
    run: ({ open }, { layer, target }) => leaveOut(open, layer, target),
  },
  'drop own file': {
    title: 'Dropping your version',
    run: ({ open }, { target }) =>
      open.saveStack({ layers: open.withOwn(open.ownLayer().files.filter((file) => file.target !== target)) }),
  },
  'merge file': { title: 'Merging the file', run: ({ open }, { target }) => startMerge(open, parseTarget(target)) },
  'decide conflict': { title: 'Deciding', run: ({ open }, decision) => decideConflict(open, decision) },
  'decide rest': { title: 'Deciding the rest', run: ({ open }, { merge, take }) => decideRest(open, merge, take) },
  'forget stale': { title: 'Forgetting old decisions', run: ({ open }, { merge }) => forgetStale(open, merge) },
  'drop merge': {
    title: 'Taking the merge away',
    run: ({ open }, { merge }) =>
      open.saveStack({ layers: open.stack.layers.filter(({ kind, id }) => kind !== 'merge' || id !== merge) }),
  },
  'merge packs': {
    title: 'Merging the packs',
    canCancel: true,
    run: ({ open }, { layers, container }, options) => mergePacks(open, layers, container, options),
  },
  'take apart': {
    title: 'Taking it apart',
    run: ({ open }, { layer }) => takeApart(open, layer),
  },
};
