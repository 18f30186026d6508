import { randomUUID } from 'node:crypto';
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
/** A lock that was not renewed for so long (milliseconds) was left behind, whoever bears the holder's number now. */
const STALE = 15_000;
const RENEWED = 3000;
/** The same where the holder is known to be gone: the least that the lock allows. */
const GONE = 2000;
/** Two that find the same lock left behind may both believe to have taken it: each renews it so often (milliseconds), */
const CONTESTED = 1000;
/** and after this time (milliseconds) one of them has seen that the lock is not its own. */
const CONTEST = 1600;

const ownerSchema = z.object({ pid: z.number().int().positive(), token: z.string() });

function ownerOf(vault: string): z.infer<typeof ownerSchema> | undefined {
  try {
    return ownerSchema.parse(JSON.parse(readFileSync(path.join(vault, OWNER), 'utf8')));
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
  const wasThere = existsSync(path.join(vault, LOCK));
  const holder = wasThere ? ownerOf(vault) : undefined;
  const isGone = holder !== undefined && !isRunning(holder.pid);
  let isLost = false;
  const onCompromised = () => {
    isLost = true;
    onLost();
  };
  const options = { realpath: false, lockfilePath: path.join(vault, LOCK), update: wasThere ? CONTESTED : RENEWED, onCompromised };
  let release: () => Promise<void>;
  try {
    release = await lock(vault, { ...options, stale: isGone ? GONE : STALE, retries: isGone ? { retries: 20, factor: 1, minTimeout: 200 } : 0 });
  } catch (error) {
    if (codeOf(error) === 'ELOCKED') throw new SatchelError('vault-locked', {}, { cause: error });
    throw error;
  }
  const token = randomUUID();
  writeFileSync(path.join(vault, OWNER), JSON.stringify({ pid: process.pid, token }));
  if (wasThere) {
    await wait(CONTEST);
    // The other one holds it now; it is not this one's to give back.
    if (isLost || ownerOf(vault)?.token !== token) throw new SatchelError('vault-locked');
  }
  return async () => {
    if (isLost) return;
    rmSync(path.join(vault, OWNER), { force: true });
    await release().catch(onLost);
  };
}
