import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { lock } from 'proper-lockfile';
import { z } from 'zod';
import { SatchelError } from '@/core';
import { codeOf, isRunning } from './diskCalls';

/*
 * One process works in a vault at a time: a second app that was started with the same folder must not finish or take
 * back what the first is doing. The lock is a folder whose date its holder renews; one that is not renewed any more
 * counts for nothing.
 */

const LOCK = 'running.lock';
const OWNER = 'running.json';
/** Who finds a lock left behind takes it over behind this one, so that no two do. */
const TAKING = 'taking.lock';
/** A lock that was not renewed for so long (milliseconds) was left behind, whoever bears the holder's number now. */
const STALE = 15_000;
const RENEWED = 3000;
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
  // The package knows its locks by the file that is locked: each has one of its own.
  const take = (name: string) =>
    lock(path.join(vault, name), {
      realpath: false,
      lockfilePath: path.join(vault, name),
      stale: STALE,
      update: RENEWED,
      onCompromised,
    });
  let endTaking: (() => Promise<void>) | undefined;
  try {
    if (existsSync(path.join(vault, LOCK))) {
      endTaking = await take(TAKING);
      const holder = holderOf(vault);
      // Its name goes first: a lock without a name is not taken for that of a process that is gone.
      if (holder !== undefined && !isRunning(holder))
        for (const name of [OWNER, LOCK])
          rmSync(path.join(/* turbopackIgnore: true */ vault, name), { recursive: true, force: true });
    }
    const release = await take(LOCK);
    writeFileSync(owner, JSON.stringify({ pid: process.pid }));
    return async () => {
      if (isLost) return;
      rmSync(owner, { force: true });
      await release().catch(onLost);
    };
  } catch (error) {
    if (codeOf(error) === 'ELOCKED') throw new SatchelError('vault-locked', {}, { cause: error });
    throw error;
  } finally {
    await endTaking?.();
  }
}
