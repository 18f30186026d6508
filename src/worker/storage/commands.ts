import { historyWithout, isSpare } from '@/core';
import { memory } from '@/storage/memory';
import type { StorageCommands } from '../contract';
import type { CommandsOf } from '../game/handlers';
import { forgetUnused, needsIn } from '../game/unused';

export const storageCommands: CommandsOf<StorageCommands> = {
  'let packs go': {
    title: 'Letting packs go',
    isNoDecision: true,
    run: async ({ open }, { ids }) => {
      const needs = await needsIn(open);
      open.history = historyWithout(open.history, new Set(ids.filter((id) => isSpare(needs.get(id)))));
      await memory.setHistory(open.game.id, open.history);
      await forgetUnused(open);
    },
  },
};
