import {
  oneOr,
  SatchelError,
  checkDeployed,
  copyOriginals,
  countOf,
  exportBag,
  importBag,
  makeBackup,
  removeBackup,
  unpackBag,
  parseTarget,
} from '@/core';
import type { SetAside } from '@/storage/memory';
import type { LedgerCommands } from '../contract';
import type { DeployWork } from '../game/carrier';
import type { CommandsOf } from '../game/handlers';
import type { Session } from '../game/session';
import { backupOf, restoreBackup } from './backups';
import { restoreScope } from './restorePart';
import { goBack } from './states';

export const ledgerCommands: CommandsOf<LedgerCommands> = {
  'check deployed': {
    title: 'Reading every deployed file',
    canCancel: true,
    run: async ({ open }, _, options) => {
      open.seen.lookAtFilesAgain();
      const { files, drifted } = await checkDeployed(open.workshop, options);
      const all = countOf(files, 'deployed file');
      return drifted.length === 0
        ? `${oneOr(files, 'The one deployed file was', `All ${all} were`)} read: each is as it was written.`
        : `${all} ${oneOr(files, 'was', 'were')} read: ${countOf(drifted.length, 'differs', 'differ')} from what was written.`;
    },
  },
  restore: {
    title: 'Putting it back',
    canCancel: true,
    run: ({ open }, { scope }, options) => restoreScope(open, scope, options),
  },
  'make backup': {
    title: 'Making the backup',
    run: async ({ open }, { name, targets }) => {
      open.seen.lookAtFilesAgain();
      await makeBackup(open.workshop, { id: crypto.randomUUID(), name, targets: targets.map(parseTarget) });
    },
  },
  'restore backup': {
    title: 'Restoring the backup',
    canCancel: true,
    run: async ({ open }, { id }, options) => restoreBackup(open, await backupOf(open, id), options),
  },
  'forget backup': {
    title: 'Forgetting the backup',
    run: ({ open }, { id }) => removeBackup(open.workshop.vault, id),
  },
  'copy originals': {
    title: 'Copying the originals',
    run: ({ open }, _, options) => copyAll(open, options),
  },
  'set backup folder': {
    title: 'Copying the originals',
    run: async (desk, { handle }, options) => {
      const changed = { ...desk.open.game, backup: handle };
      const inside = await Promise.all(Object.values(changed.handles).map((game) => game.resolve(handle)));
      if (inside.some((names) => names !== null)) throw new SatchelError('backup-in-game', { name: handle.name });
      await desk.changeGame(changed, options);
      return copyAll(desk.open, options);
    },
  },
  'go back': {
    title: ({ number }) => `Going back to deployment ${number}`,
    run: ({ open, tellAside }, { number }) => {
      const aside: SetAside[] = [];
      return goBack(open, number, aside).finally(() => tellAside(aside));
    },
  },
  'export bag': {
    title: 'Packing the originals',
    canCancel: true,
    run: async ({ open: { game, workshop } }, _, options) => {
      const { title } = game.card;
      const at = Date.now();
      const blob = await exportBag(workshop.vault, { game: game.id, title, at }, options);
      return { name: `${title} originals ${new Date(at).toISOString().slice(0, 10)}.zip`, blob };
    },
  },
  'import bag': {
    title: 'Taking the backup in',
    canCancel: true,
    run: async ({ open }, { file }, options) => {
      const bag = await importBag(file, file.name, options);
      await unpackBag(bag, open.workshop.vault, options);
      return { originals: bag.originals, title: bag.about.title };
    },
  },
};

async function copyAll({ seen, workshop }: Session, options: DeployWork): Promise<string> {
  seen.lookAtFilesAgain();
  const { copies } = await copyOriginals(workshop, options);
  return `${countOf(copies, 'original lies', 'originals lie')} in the backup folder, each read back and checked.`;
}
