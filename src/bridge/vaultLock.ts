import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { lock } from 'proper-lockfile';
import { z } from 'zod';
import { SatchelError } from '@/core';
import { codeOf, isRunning } from './diskCalls';

/*
 * One process works in a vault at a time: a second app that was started with the same folder must not finish or take back what the
 * first is doing. The lock is a folder whose date its holder renews; one that is not renewed any more counts for nothing.
 */

const LOCK = 'running.lock';
const OWNER = 'running.json';
/** Who finds a lock left behind takes it over behind this one, so that no two do. */
const TAKING = 'taking.lock';
/** A lock that was not renewed for so long (milliseconds) was left behind, whoever bears the holder's number now. */
const STALE = 15_000;
const RENEWED = 3000;
/** The same where the holder is known to be gone: the least that the lock allows. */
const GONE = 2000;
/** How often it is tried (milliseconds), and how many times, while the holder is known to be gone. */
const PAUSE = 200;
const TRIES = 20;

const ownerSchema = z.object({ pid: z.number().int().positive() });

/** Which process holds a vault, as far as that is known. */
function holderOf(vault: string): number | undefined {
  try {
    return ownerSchema.parse(JSON.parse(readFileSync(path.join(vault, OWNER), 'utf8'))).pid;
  } catch {
    // Not there, or cut off: then nobody is known to hold it, and its date decides.
    return undefined;
  }
}

/**
 * Takes a vault for this process.
 *
 * @param onLost called where another process has taken the lock, since this one could not renew it in time
 * @returns to be called at the end
 * @throws SatchelError `vault-locked` where another process works in it
 */
export async function lockVault(vault: string, onLost: () => void = () => undefined): Promise<() => Promise<void>> {
  const owner = path.join(vault, OWNER);
  let isLost = false;
  const onCompromised = () => {
    isLost = true;
    onLost();
  };
  const take = (lockfilePath: string, stale: number) => lock(vault, { realpath: false, lockfilePath: path.join(vault, lockfilePath), stale, update: RENEWED, onCompromised });
  for (let tries = 1; ; tries++) {
    const wasThere = existsSync(path.join(vault, LOCK));
    const holder = holderOf(vault);
    const isGone = wasThere && holder !== undefined && !isRunning(holder);
    let endTaking: (() => Promise<void>) | undefined;
    try {
      endTaking = wasThere ? await take(TAKING, STALE) : undefined;
      const release = await take(LOCK, isGone ? GONE : STALE);
      writeFileSync(owner, JSON.stringify({ pid: process.pid }));
      return async () => {
        if (isLost) return;
        rmSync(owner, { force: true });
        await release().catch(onLost);
      };
    } catch (error) {
      if (codeOf(error) !== 'ELOCKED') throw error;
      if (!isGone || tries === TRIES) throw new SatchelError('vault-locked', {}, { cause: error });
    } finally {
      await endTaking?.();
    }
    await wait(PAUSE);
  }
}
