import {
  byHand,
  editFates,
  nameKey,
  takeAsOriginals,
  takeAsOwn,
  zipFolder,
  type LedgerEntry,
  parseTarget,
} from '@/core';
import { memory } from '@/storage/memory';
import type { DeployCommands } from '../contract';
import { carryOut } from '../game/carryOut';
import type { DeployWork } from '../game/carrier';
import { dropKey } from '../game/drops';
import type { CommandsOf } from '../game/handlers';
import { look } from '../game/look';
import type { Session } from '../game/session';
import { forgetUnused } from '../game/unused';

export const deployCommands: CommandsOf<DeployCommands> = {
  deploy: {
    title: 'Deploying',
    canCancel: true,
    run: async (desk, _, options) => {
      desk.forgetRecovery();
      // The plan is made again on the folders as they are now: what was shown a minute ago may have changed.
      await look(desk.open, options);
      return deploy(desk.open, options);
    },
  },
  'put all back': {
    title: 'Putting everything back',
    canCancel: true,
    run: async (desk, _, options) => {
      const { open } = desk;
      desk.forgetRecovery();
      await look(open, options);
      const entry = await carryOut(open, open.picture.putBack, 'Put everything back', { ...options, layers: [] });
      await forgetUnused(open);
      return entry;
    },
  },
  'take as mine': {
    title: 'Keeping your version',
    run: async ({ open }, { targets }) => {
      open.seen.lookAtFilesAgain();
      const taken = await takeAsOwn(open.workshop, targets.map(parseTarget), 'own');
      const keys = new Set(taken.map(({ target }) => nameKey(target)));
      const others = open.ownLayer().files.filter(({ target }) => !keys.has(nameKey(target)));
      await open.saveStack({ layers: open.withOwn([...others, ...taken]) });
    },
  },
  'take as original': {
    title: 'Taking the new originals',
    run: async ({ open }, { targets }) => {
      open.seen.lookAtFilesAgain();
      await takeAsOriginals(open.workshop, targets.map(parseTarget));
    },
  },
  'pack by hand': {
    title: 'Packing it for your own hands',
    canCancel: true,
    run: async ({ open }, _, options) => {
      await look(open, options);
      const { card } = open.game;
      const titles = Object.fromEntries(card.roots.map(({ id, title }) => [id, title]));
      const about = { ...options, game: card.title, titles, at: Date.now() };
      const { deploy: put, restore } = await byHand(open.picture.plan, open.workshop, about);
      const name = card.title.replace(/[<>:"/\\|?*]+/g, ' ');
      return [
        { name: `${name} put in.zip`, blob: put },
        { name: `${name} take back.zip`, blob: restore },
      ];
    },
  },
  'pack folders': {
    title: 'Packing a copy of the game folders',
    canCancel: true,
    run: ({ open }, _, options) => zipFolder(open.workshop.folders, options),
  },
};

/** Deploys what waits, and remembers what the game had dropped and the stack that it is of. */
async function deploy(session: Session, options: DeployWork): Promise<LedgerEntry> {
  const lost = editFates(session.picture.state, session.picture.settings).filter(({ fate }) => fate === 'dropped');
  let entry = await carryOut(session, session.picture.plan, 'Deploy', options);
  // A file whose name only changes its letters' case goes first, and comes again under its new name.
  if (session.picture.plan.steps.some(({ again }) => again)) {
    await look(session, options);
    if (session.picture.plan.steps.length > 0)
      entry = await carryOut(session, session.picture.plan, 'Deploy, renamed files', options);
  }
  if (lost.length > 0) {
    const drops = { ...session.stack.drops };
    for (const { file, path } of lost) drops[dropKey(file, path)] = (drops[dropKey(file, path)] ?? 0) + 1;
    await session.saveStack({ drops });
  }
  await memory.setSnapshot(session.game.id, entry.number, session.stack);
  return entry;
}
