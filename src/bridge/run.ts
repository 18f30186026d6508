import { SatchelError, toFailure, type StuckAnswer } from '@/core';
import { MANY, carryOut, type Listener } from './carryOut';
import { givenFolders } from './given';
import { onOwnThread } from './ownThread';
import { newsLines } from './newsLines';
import { lockVault } from './vaultLock';
import type { News, Run } from './wire';

/** Runs that write so much (bytes) get a thread of their own, too. */
const MUCH = 64 * 1024 * 1024;

/** Folders in which a run is under way; nothing else writes there meanwhile. */
const busy = new Set<string>();
export const isBusy = (id: string): boolean => busy.has(id);
/** Runs that only look after originals, by folder: they make way for every other. */
const minding = new Map<string, { stop: AbortController; ended: Promise<void> }>();

const foldersOf = (order: Run): string[] => [order.main, ...Object.values(order.roots).map(({ folder }) => folder)];

/**
 * @param onLost told where another process has taken the vault meanwhile
 * @returns to be called when the run is over
 * @throws SatchelError `journal-open` where another run is under way here, `vault-locked` where one is in another
 * process
 */
async function takeFolders(order: Run, onLost: () => void): Promise<() => Promise<void>> {
  const used = foldersOf(order);
  if (used.some((id) => busy.has(id))) throw new SatchelError('journal-open');
  used.forEach((id) => busy.add(id));
  const free = () => used.forEach((id) => busy.delete(id));
  try {
    for (const one of used.map((id) => minding.get(id))) {
      one?.stop.abort();
      await one?.ended;
    }
    const vault = givenFolders().get(order.main)?.parts.vault;
    const unlock = vault && (await lockVault(vault.root, onLost));
    return async () => {
      await unlock?.();
      free();
    };
  } catch (error) {
    free();
    throw error;
  }
}

/** The same for a run that only looks after originals. */
async function takeForMinding(order: Run, stop: AbortController): Promise<() => Promise<void>> {
  const used = foldersOf(order);
  if (used.some((id) => busy.has(id) || minding.has(id))) throw new SatchelError('journal-open');
  let end: () => void = () => undefined;
  const ended = new Promise<void>((done) => (end = done));
  used.forEach((id) => minding.set(id, { stop, ended }));
  return async () => {
    used.forEach((id) => minding.delete(id));
    end();
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

/**
 * Carries a run out on this computer and tells what happens, line by line. Where the page goes away, everything is
 * taken back.
 */
export function startRun(order: Run, signal: AbortSignal): Response {
  return newsLines<News>(async (tell) => {
    let release: (() => Promise<void>) | undefined;
    const stop = new AbortController();
    const stopped = AbortSignal.any([signal, stop.signal]);
    try {
      release = await (order.work.do === 'mind' ? takeForMinding(order, stop) : takeFolders(order, () => stop.abort()));
      const listener: Listener = {
        signal: stopped,
        tell,
        ask: (stuck) =>
          new Promise((answer) => {
            if (stopped.aborted) return answer('take back');
            stopped.addEventListener('abort', () => answer('take back'), { once: true });
            waiting.set(order.run, answer);
            tell({ stuck });
          }),
      };
      const isLarge =
        order.work.do === 'deploy' &&
        (order.work.plan.steps.length >= MANY || order.work.plan.steps.reduce((sum, { size }) => sum + size, 0) > MUCH);
      return await (isLarge ? onOwnThread : carryOut)(order, listener);
    } catch (error) {
      return { failure: toFailure(error) };
    } finally {
      waiting.delete(order.run);
      // Who hears that it is over may begin the next one.
      await release?.();
    }
  });
}
