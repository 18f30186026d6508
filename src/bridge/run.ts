import { SatchelError, toFailure, type StuckAnswer } from '@/core';
import { MANY, carryOut, type Listener } from './carryOut';
import { givenFolders } from './given';
import { onOwnThread } from './ownThread';
import { lockVault } from './vaultLock';
import type { News, Run } from './wire';

/** Runs that write so much (bytes) get a thread of their own, too. */
const MUCH = 64 * 1024 * 1024;

/** Folders in which a run is under way; nothing else writes there meanwhile. */
const busy = new Set<string>();
export const isBusy = (id: string): boolean => busy.has(id);
/** @returns to be called when the run is over @throws SatchelError `journal-open` where another run is under way, here or in another process */
function takeFolders(order: Run): () => void {
  const used = [order.main, ...Object.values(order.roots).map(({ folder }) => folder)];
  if (used.some((id) => busy.has(id))) throw new SatchelError('journal-open');
  const vault = givenFolders().get(order.main)?.parts.vault;
  const unlock = vault && lockVault(vault.root);
  used.forEach((id) => busy.add(id));
  return () => {
    used.forEach((id) => busy.delete(id));
    unlock?.();
  };
}

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
      const tell = (news: News) => {
        try {
          controller.enqueue(encoder.encode(`${JSON.stringify(news)}\n`));
        } catch {
          // Nobody listens any more: the signal stops the run.
        }
      };
      let release: (() => void) | undefined;
      try {
        release = takeFolders(order);
        const listener: Listener = {
          signal,
          tell,
          ask: (stuck) =>
            new Promise((answer) => {
              if (signal.aborted) return answer('take back');
              signal.addEventListener('abort', () => answer('take back'), { once: true });
              waiting.set(order.run, answer);
              tell({ stuck });
            }),
        };
        const isLarge = order.work.do === 'deploy' && (order.work.plan.steps.length >= MANY || order.work.plan.steps.reduce((sum, { size }) => sum + size, 0) > MUCH);
        tell(await (isLarge ? onOwnThread : carryOut)(order, listener));
      } catch (error) {
        tell({ failure: toFailure(error) });
      } finally {
        release?.();
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
