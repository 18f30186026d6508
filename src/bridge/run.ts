import { openAsBlob } from 'node:fs';
import path from 'node:path';
import { SatchelError, deploy, openPack, readState, recover, setInflater, toFailure, withWhole, type Folder, type Pack, type StuckAnswer, type Workshop } from '@/core';
import { SubFolder, WithoutFolder } from '@/folders/sub';
import type { DiskFolder } from './disk';
import { inflateAtOnce } from './inflate';
import { givenFolders } from './given';
import type { News, RootPlace, Run, Workplace } from './wire';

/** Progress is told at most this often, in milliseconds. */
const PACE = 100;

setInflater(inflateAtOnce);

export const packPath = (id: string): string => `packs/${id}.zip`;

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

function workshopOf({ main, roots, packs }: Workplace): Workshop {
  const { vault, backup } = given(main);
  const opened = new Map<string, Promise<Pack>>();
  const names = new Map(packs.map(({ id, name }) => [id, name]));
  const open = async (id: string): Promise<Pack> => {
    if (!/^[\w-]{1,64}$/.test(id) || !(await vault.stat(packPath(id)))) throw new SatchelError('source-missing', { name: names.get(id) ?? 'a pack', path: 'its files' });
    const archive = await openAsBlob(path.join(vault.root, packPath(id)));
    return withWhole(await openPack(archive, names.get(id) ?? 'pack.zip'), archive);
  };
  return {
    folders: Object.fromEntries(Object.entries(roots).map(([root, place]) => [root, rootFolder(place)])),
    vault, backup, now: () => Date.now(),
    openPack: (id) => {
      const known = opened.get(id) ?? open(id);
      opened.set(id, known);
      return known;
    },
  };
}

/** Folders in which a run is under way; nothing else writes there meanwhile. */
const busy = new Set<string>();
export const isBusy = (id: string): boolean => busy.has(id);
/** Questions that wait for the player, by run. */
const waiting = new Map<string, (answer: StuckAnswer) => void>();

/** The player's answer to a run that waits. @returns false where none does */
export function answerRun(run: string, answer: StuckAnswer): boolean {
  const go = waiting.get(run);
  waiting.delete(run);
  go?.(answer);
  return go !== undefined;
}

/** Carries a run out on this computer and tells what happens, line by line. Where the page goes away, everything is taken back. */
export function startRun(order: Run, signal: AbortSignal): Response {
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>({
    async start(controller) {
      let last = 0;
      const tell = (news: News) => {
        try {
          controller.enqueue(encoder.encode(`${JSON.stringify(news)}\n`));
        } catch {
          // Nobody listens any more: the signal stops the run.
        }
      };
      const used = [order.main, ...Object.values(order.roots).map(({ folder }) => folder)];
      try {
        if (used.some((id) => busy.has(id))) throw new SatchelError('journal-open');
        used.forEach((id) => busy.add(id));
        tell(await carryOut(order, signal, (news) => {
          const now = Date.now();
          if ('progress' in news && now - last < PACE && news.progress.done < news.progress.total) return;
          last = now;
          tell(news);
        }));
      } catch (error) {
        tell({ failure: toFailure(error) });
      } finally {
        used.forEach((id) => busy.delete(id));
        waiting.delete(order.run);
      }
      try {
        controller.close();
      } catch {
        // It is closed already where nobody listens.
      }
    },
  });
  return new Response(stream, { headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' } });
}

async function carryOut(order: Run, signal: AbortSignal, tell: (news: News) => void): Promise<News> {
  const workshop = workshopOf(order);
  const { vault } = given(order.main);
  const { work } = order;
  const onProgress = (progress: { phase: string; done: number; total: number; unit: 'files' | 'bytes' }) => tell({ progress });
  if (work.do === 'recover') {
    const recovery = await recover(workshop, { onProgress });
    return { recovered: true, ...(recovery ? { recovery } : {}) };
  }
  const plan = { ...work.plan, unchanged: 0, drifted: [], leftAlone: [], refused: [] };
  const entry = await deploy(plan, workshop, {
    title: work.title, layers: work.layers, signal, onProgress,
    onStuck: (stuck) => new Promise((answer) => {
      if (signal.aborted) return answer('take back');
      signal.addEventListener('abort', () => answer('take back'), { once: true });
      waiting.set(order.run, answer);
      tell({ stuck });
    }),
  });
  await forgetPacks(vault, workshop);
  return { entry };
}

/** Archives that nothing deployed comes from go; the browser has them and can send them again. */
async function forgetPacks(vault: DiskFolder, workshop: Workshop): Promise<void> {
  const needed = new Set((await readState(workshop.vault)).files.flatMap(({ from }) => (from.kind === 'pack' ? [packPath(from.packId)] : [])));
  for await (const { path: of } of vault.list('packs')) if (!needed.has(of)) await vault.remove(of);
}
