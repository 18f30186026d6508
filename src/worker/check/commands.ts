import { SatchelError, halve, withLogRule } from '@/core';
import { runGullwick } from '@/trial/gullwick';
import { runHedgerow } from '@/trial/hedgerow';
import { runTinplate } from '@/trial/tinplate';
import type { CheckCommands } from '../contract';
import type { CommandsOf } from '../game/handlers';
import { look } from '../game/look';
import { readGiven } from './after';
import { neededBy, setUse, takeStep } from './apart';
import { applyFix } from './fixes';
import { noteRun } from './runs';

export const checkCommands: CommandsOf<CheckCommands> = {
  'trial run': {
    title: 'Trial run',
    canCancel: true,
    run: async ({ open }, _, options) => {
      const { program, user, player, hall } = open.workshop.folders;
      const { trial } = open.game.card;
      if (trial === 'gullwick' && program && user) await runGullwick({ program, user }, options);
      else if (trial === 'tinplate' && player && user) await runTinplate({ player, user }, options);
      else if (trial === 'hedgerow' && hall) await runHedgerow({ hall }, options);
      else throw new SatchelError('unknown-thing', { what: 'trial run for this game' });
      await open.saveStack({ triedAfter: open.picture.ledger[0]?.number ?? 0 });
      await look(open);
      await noteRun(open);
    },
  },
  fix: { title: 'Changing the layers', run: ({ open }, { fix }) => applyFix(open, fix) },
  'set aside': {
    title: 'Setting it aside',
    run: ({ open }, { id, says, note }) => {
      const others = open.stack.aside.filter((one) => one.id !== id);
      return open.saveStack({ aside: [...others, { id, says, note: note.trim().slice(0, 300) }] });
    },
  },
  'take up': {
    title: 'Taking it up again',
    run: ({ open }, { id }) => open.saveStack({ aside: open.stack.aside.filter((one) => one.id !== id) }),
  },
  halve: {
    title: 'Choosing the first half',
    run: ({ open }) => {
      const before = open.packLayers().map(({ id, on }) => ({ id, on }));
      const suspects = before.filter(({ on }) => on).map(({ id }) => id);
      return takeStep(open, { why: 'halving', before, suspects, answers: [] });
    },
  },
  'try alone': {
    title: 'Leaving the others out',
    run: async ({ open }, { layer }) => {
      const before = open.stack.apart?.before ?? open.packLayers().map(({ id, on }) => ({ id, on }));
      const needed = await neededBy(open, layer);
      await open.saveStack({
        apart: { why: 'alone', before, suspects: [layer], answers: [] },
        layers: setUse(open, new Set([layer, ...needed]), before),
      });
    },
  },
  'answer halving': {
    title: 'Choosing the next ones',
    run: async ({ open }, { failed }) => {
      const { apart } = open.stack;
      const step = apart && halve(apart.suspects, apart.answers);
      if (!apart || step?.next !== 'try') return;
      await takeStep(open, { ...apart, answers: [...apart.answers, { on: step.on, failed }] });
    },
  },
  'end apart': {
    title: 'Putting the packs back',
    run: async ({ open }, { without }) => {
      const out = new Set(without);
      const before = open.stack.apart?.before ?? [];
      const on = new Set(before.filter((one) => one.on && !out.has(one.id)).map(({ id }) => id));
      const { apart: _, ...rest } = open.stack;
      await open.replaceStack({ ...rest, layers: setUse(open, on, before) });
    },
  },
  'add log rule': {
    title: 'Taking the rule',
    run: ({ open, changeGame }, { rule }, options) =>
      changeGame({ ...open.game, card: withLogRule(open.game.card, rule) }, options),
  },
  'read given log': {
    title: 'Reading the log',
    canCancel: true,
    run: ({ open, games }, given, options) => {
      const others = games.map(({ card }) => ({
        title: card.title,
        rules: card.log?.rules ?? [],
        trace: card.log?.trace,
      }));
      return readGiven(open, others, given, options);
    },
  },
};
