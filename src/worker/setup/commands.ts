import { SatchelError, type SetUp } from '@/core';
import type { SetUpCommands } from '../contract';
import type { CommandsOf } from '../game/handlers';
import { takeFromDisk } from '../game/onDisk';
import type { Session } from '../game/session';
import { readKit, saveKit, takeKit } from './kit';
import { setUpOf, stackOf, wayOf } from './ways';

/** More set-ups of one game are not kept. */
const MOST_SET_UPS = 100;

const named = (session: Session, wanted: string, but?: string): string => {
  const name = wanted.trim().slice(0, 80);
  if (name === '') throw new SatchelError('bad-name', { name: wanted, why: 'it is empty' });
  if (session.setUps.some((one) => one.id !== but && one.name === name))
    throw new SatchelError('bad-name', { name, why: 'another set-up has it' });
  return name;
};

export const setUpCommands: CommandsOf<SetUpCommands> = {
  'keep set-up': {
    title: 'Keeping the set-up',
    run: async ({ open }, { name: wanted, of }) => {
      if (open.setUps.length >= MOST_SET_UPS)
        throw new SatchelError('too-many', { what: 'set-ups', most: String(MOST_SET_UPS) });
      const made: SetUp = {
        id: crypto.randomUUID(),
        name: named(open, wanted),
        at: Date.now(),
        stack: await wayOf(open, of),
      };
      await open.saveSetUps([...open.setUps, made]);
    },
  },
  'rename set-up': {
    title: 'Renaming the set-up',
    run: ({ open }, { id, name: wanted }) => {
      const name = named(open, wanted, id);
      return open.saveSetUps(open.setUps.map((one) => (one.id === id ? { ...one, name } : one)));
    },
  },
  'remove set-up': {
    title: 'Removing the set-up',
    run: ({ open }, { id }) => open.saveSetUps(open.setUps.filter((one) => one.id !== id)),
  },
  'save kit': {
    title: 'Packing the kit',
    canCancel: true,
    run: ({ open }, { withPacks }, options) => saveKit(open, withPacks, options),
  },
  'read kit': {
    title: ({ name }) => `Reading “${name}”`,
    canCancel: true,
    run: ({ open }, { name, file }, options) => readKit(open, file, name, options),
  },
  'take kit': {
    title: 'Taking the kit in',
    run: (desk, wanted, options) => takeKit(desk, wanted, options),
  },
  'choose set-up': {
    title: 'Taking the set-up',
    isNoDecision: true,
    run: async (desk, { take }, options) => {
      const { open } = desk;
      const { elsewhere } = open;
      if (elsewhere === undefined || elsewhere === 'newer') return;
      open.elsewhere = undefined;
      if (take === 'browser') return;
      await desk.changeGame(await takeFromDisk(open, elsewhere), options);
    },
  },
  'give up waiting': {
    title: 'Doing without the pack',
    run: ({ open }, { layer }) =>
      open.saveStack({ waiting: open.stack.waiting.filter((one) => one.layer.id !== layer) }),
  },
  'take set-up': {
    title: 'Taking the set-up',
    run: async ({ open }, { id }) => {
      const { stack, gone } = stackOf(open, setUpOf(open, id).stack);
      await open.replaceStack(stack);
      return gone.map(({ name }) => name);
    },
  },
};
