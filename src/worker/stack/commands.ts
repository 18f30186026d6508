import type { TargetPath } from '@/core';
import type { StackCommands } from '../contract';
import type { CommandsOf } from '../game/handlers';
import { withoutLayer } from '../game/order';
import { leaveOut } from './leaveOut';
import { decideConflict, decideRest, forgetStale, startMerge } from './merges';
import { addRule, dropRule, moveTo, setPick } from './order';
import { mergePacks, takeApart } from './packMerging';

export const stackCommands: CommandsOf<StackCommands> = {
  'switch pack': {
    title: ({ on }) => (on ? 'Putting it in' : 'Leaving it out'),
    run: ({ open }, { layer, on }) => open.replaceLayer(layer, (one) => ({ ...one, on })),
  },
  'take out': {
    title: 'Taking it out of the stack',
    run: async ({ open }, { layer }) => {
      const layers = open.stack.layers.filter(({ id }) => id !== layer);
      await open.saveStack({ ...withoutLayer(open, layer), layers });
    },
  },
  'move pack': { title: 'Moving it', run: ({ open }, { layer, place }) => moveTo(open, layer, place) },
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
  'merge file': { title: 'Merging the file', run: ({ open }, { target }) => startMerge(open, target as TargetPath) },
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
