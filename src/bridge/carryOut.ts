import {
  SatchelError,
  deploy,
  mindOriginals,
  packsOnDisk,
  readState,
  recover,
  throwIfAborted,
  type Folder,
  type PackReader,
  type Progress,
  type Stuck,
  type StuckAnswer,
  type Workshop,
} from '@/core';
import { SubFolder, WithoutFolder } from '@/folders/sub';
import type { DiskFolder } from './disk';
import { givenFolders } from './given';
import { archivePath, openArchive, packPath } from './packs';
import { lockVault } from './vaultLock';
import type { News, RootPlace, Run, Workplace } from './wire';

/** Progress is told at most this often, in milliseconds. */
const PACE = 200;
/** How often it is looked whether a pack has come, in milliseconds. */
const POLL = 50;
/** What is worth a thread of its own: so many steps, or files of one pack. */
export const MANY = 256;

function given(id: string) {
  const found = givenFolders().get(id);
  if (!found) throw new SatchelError('unknown-thing', { what: 'folder that this app was started with' });
  return found.parts;
}

function rootFolder({ folder, inside, hidden }: RootPlace): Folder {
  const whole = given(folder).game;
  const part = inside === undefined ? whole : new SubFolder(whole, inside);
  return hidden.length > 0 ? new WithoutFolder(part, hidden) : part;
}

type Opener = (archive: string, name: string) => PackReader | Promise<PackReader>;

/** What a deployment on this computer works with. */
function workshopOf(
  { main, roots, packs }: Workplace,
  openerOf: (id: string) => Opener,
  arrival: (id: string, vault: DiskFolder) => Promise<void>,
): Workshop {
  const { vault, backup } = given(main);
  const opened = new Map<string, Promise<PackReader>>();
  const names = new Map(packs.map(({ id, name }) => [id, name]));
  const open = async (id: string): Promise<PackReader> => {
    await arrival(id, vault);
    if (!(await vault.stat(packPath(id))))
      throw new SatchelError('source-missing', { name: names.get(id) ?? 'a pack', path: 'its files' });
    return openerOf(id)(archivePath(vault, id), names.get(id) ?? 'pack.zip');
  };
  return {
    folders: Object.fromEntries(Object.entries(roots).map(([root, place]) => [root, rootFolder(place)])),
    vault,
    backup,
    now: () => Date.now(),
    openPack: (id) => {
      const known = opened.get(id) ?? open(id);
      opened.set(id, known);
      return known;
    },
  };
}

export interface Listener {
  signal: AbortSignal;
  tell(news: News): void;
  /** Returns the player's answer; “take back” where nobody listens any more. */
  ask(stuck: Stuck): Promise<StuckAnswer>;
  /** Opens archives of which many files are wanted. */
  openLarge?: Opener;
}

/** Carries a run out. @returns the last news of it */
export async function carryOut(order: Run, { signal, tell, ask, openLarge = openArchive }: Listener): Promise<News> {
  const { steps, coming } =
    order.work.do === 'deploy'
      ? { steps: order.work.plan.steps, coming: order.work.coming }
      : { steps: [], coming: [] };
  const wanted = new Map<string, number>();
  for (const { after } of steps)
    if (after.kind === 'pack') wanted.set(after.packId, (wanted.get(after.packId) ?? 0) + 1);
  const workshop = workshopOf(
    order,
    (id) => ((wanted.get(id) ?? 0) >= MANY ? openLarge : openArchive),
    async (id, vault) => {
      const awaited = coming.find((pack) => pack.id === id);
      if (!awaited) return;
      for (let polls = 1; (await vault.stat(packPath(id)))?.size !== awaited.size; polls++) {
        throwIfAborted(signal);
        if (polls % 20 === 0) tell({ progress: { phase: 'Handing the packs over', done: 0, total: 0, unit: 'files' } });
        await new Promise((done) => setTimeout(done, POLL));
      }
    },
  );
  // Opened while originals are still being kept.
  for (const [id, files] of wanted) if (files >= MANY) workshop.openPack(id).catch(() => undefined);
  let told = 0;
  const onProgress = (progress: Progress) => {
    const now = Date.now();
    if (now - told < PACE && progress.done < progress.total) return;
    told = now;
    tell({ progress });
  };
  const { work } = order;
  if (work.do === 'recover') {
    const recovery = await recover(workshop, { onProgress });
    return { recovered: true, ...(recovery ? { recovery } : {}) };
  }
  if (work.do === 'mind') {
    const { vault } = given(order.main);
    // Another process may deploy meanwhile.
    const alone = async <T>(change: () => Promise<T>): Promise<T> => {
      const release = await lockVault(vault.root);
      return change().finally(release);
    };
    return { minded: await mindOriginals(workshop, { signal, onProgress, alone }) };
  }
  const plan = { ...work.plan, unchanged: 0, drifted: [], leftAlone: [], refused: [] };
  const entry = await deploy(plan, workshop, {
    title: work.title,
    layers: work.layers,
    signal,
    onProgress,
    onStuck: ask,
    copiesLater: true,
  });
  await forgetPacks(given(order.main), new Set([...wanted.keys(), ...order.packs.map((pack) => pack.id)]));
  return { entry };
}

/**
 * Archives go that nobody knows any more: the page does not, nothing deployed comes from them, and no set-up beside the
 * originals names them. Another browser may count on finding them here.
 *
 * @param known ids of packs that the page knows
 */
async function forgetPacks({ vault, backup }: ReturnType<typeof given>, known: ReadonlySet<string>): Promise<void> {
  const others: { path: string; id: string }[] = [];
  for await (const { path } of vault.list('packs')) {
    const id = /^packs\/(.+)\.zip$/.exec(path)?.[1] ?? '';
    if (!known.has(id)) others.push({ path, id });
  }
  if (others.length === 0) return;
  const { files } = await readState(vault);
  const deployed = files.flatMap(({ from }) => (from.kind === 'pack' ? [from.packId] : []));
  const needed = new Set([...deployed, ...(await packsOnDisk(backup))]);
  for (const { path, id } of others) if (!needed.has(id)) await vault.remove(path);
}
