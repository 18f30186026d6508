import {
  SatchelError,
  checkVault,
  emptyStack,
  withoutFiles,
  noHistory,
  type Failure,
  type Folder,
  type Recovery,
  type Workshop,
  type PackLayer,
} from '@/core';
import { givenFolders } from '@/folders/bridge';
import { BridgeFolder } from '@/folders/bridgeFolder';
import { BrowserFolder } from '@/folders/browser';
import { PickedFolder, isAllowed, type PickedHandle } from '@/folders/picked';
import { memory, type Game, type SetAside } from '@/storage/memory';
import { carriedOutHere } from './carrier';
import { locate } from './locate';
import { mainFolder } from './mainFolder';
import { carriedOutOnServer } from './onServer';
import { Session } from './session';

/** Are the game's folders free to use, as far as the browser and the app's server are concerned? */
export async function isFree(game: Game): Promise<boolean> {
  if (game.kind === 'bridge') {
    const { folders } = await givenFolders();
    // With another backup folder the app would not know what it had put there, and what was there before.
    return Object.values(game.given).every(({ id, backup }) =>
      folders.some((one) => one.id === id && one.backup === backup),
    );
  }
  const handles = [...Object.values(game.handles), ...(game.backup ? [game.backup] : [])];
  const all = await Promise.all(handles.map((handle) => isAllowed(handle as PickedHandle)));
  return all.every(Boolean);
}

async function givenFoldersOf(game: Game, onlyLook: boolean): Promise<Record<string, Folder>> {
  const given: Record<string, Folder> = {};
  for (const { id } of game.card.roots) {
    const handle = game.handles[id];
    const bridged = game.given[id];
    given[id] = bridged
      ? new BridgeFolder(bridged.id, 'game')
      : handle
        ? new PickedFolder(handle)
        : await BrowserFolder.open(`${game.id}-${id}`, { onlyLook });
  }
  return given;
}

/**
 * Opens a game, and finishes or takes back what was cut off in it.
 *
 * @param onlyLook nothing is written: another tab has it
 * @throws SatchelError `newer-data`
 */
export async function openSession(
  game: Game,
  aside: SetAside[],
  onlyLook: boolean,
): Promise<{ session: Session; recovery: Recovery | undefined }> {
  const { folders, located } = await locate(game, await givenFoldersOf(game, onlyLook));
  const main = mainFolder(game);
  const vault = main ? new BridgeFolder(main.id, 'vault') : await BrowserFolder.open(`${game.id}-vault`, { onlyLook });
  await checkVault(vault, game.card.title, onlyLook);
  const backup = main ? new BridgeFolder(main.id, 'backup') : game.backup && new PickedFolder(game.backup);
  const workshop: Workshop = {
    folders,
    vault,
    ...(backup ? { backup } : {}),
    now: () => Date.now(),
    openPack: async (id) => (await session.openPack(id)).pack,
  };
  const session: Session = new Session({
    game,
    workshop,
    located,
    stack: await memory.stack(game.id, aside),
    history: await memory.history(game.id, aside),
    setUps: await memory.setUps(game.id, aside),
    notes: (await memory.packs(aside)).filter((note) => note.game === game.id),
    carrier:
      vault instanceof BridgeFolder
        ? carriedOutOnServer({ game, located, vault, notes: () => session.notes })
        : carriedOutHere(workshop),
  });
  return { session, recovery: onlyLook ? undefined : await session.carrier.recover() };
}

/** Removes everything the app keeps of a game in the browser, its simulated folders included. */
export async function eraseGame(game: Game): Promise<void> {
  for (const { id } of game.card.roots) await BrowserFolder.drop(`${game.id}-${id}`);
  await BrowserFolder.drop(`${game.id}-vault`);
  const all = await memory.packs([]);
  for (const note of all.filter((one) => one.game === game.id)) await memory.removeArchive(note.id);
  await memory.setPacks(all.filter((one) => one.game !== game.id));
  await memory.setStack(game.id, emptyStack);
  await memory.setHistory(game.id, noHistory);
  await memory.setSetUps(game.id, []);
  await memory.removeSnapshots(game.id);
}

/**
 * Packs whose files are not at hand leave the stack: what was decided about them waits for the files. What is deployed
 * stays until it is put back.
 */
export async function dropLost(session: Session, onlyLook: boolean): Promise<Failure[]> {
  const lost: PackLayer[] = [];
  for (const layer of session.packLayers())
    if (!session.note(layer.packId) || !(await session.archive(layer.packId))) lost.push(layer);
  if (lost.length === 0) return [];
  const stack = withoutFiles(session.stack, new Set(lost.map(({ id }) => id)), session.notes);
  if (onlyLook) session.stack = stack;
  else await session.replaceStack(stack);
  return lost.map(({ name }) => new SatchelError('source-missing', { name, path: 'its files' }).failure);
}
