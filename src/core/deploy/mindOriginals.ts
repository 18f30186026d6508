import { z } from 'zod';
import { throwIfAborted } from '../errors';
import type { Folder } from '../folder';
import { byPath, type TargetPath } from '../paths/paths';
import { inParallel, type WorkOptions } from '../progress';
import { hashOfFile } from './large';
import { targetSchema, type Workshop } from './model';
import {
  copyOriginal,
  copyOriginals,
  dataPath,
  healFrom,
  isShared,
  originalsOf,
  readCopies,
  writeCopies,
  type Original,
} from './plainCopies';
import { listLate } from './secondNames';
import {
  keepFile,
  objectPath,
  watchFile,
  readJson,
  readLedger,
  readLedgerSteps,
  readState,
  writeJson,
  writeState,
} from './vault';

/** Every original and every copy is read again after this time (milliseconds). */
const DAY = 24 * 3600 * 1000;
const FILE = 'minded.json';
/** Originals that are read at the same time: nobody waits for it. */
const FEW = 2;

const mishapSchema = z.object({
  target: targetSchema,
  /**
   * `healed`: one of the two copies was damaged and was made anew from the other. `lost`: neither is as it was. `late`:
   * a program that had the file open went on writing to it after it was replaced; what it wrote is kept.
   */
  what: z.enum(['healed', 'lost', 'late']),
  at: z.number(),
});
/** Something that was found about a kept original. */
export type Mishap = z.infer<typeof mishapSchema>;

export const mindedSchema = z.object({
  /** Number of the deployment up to which every original has its plain copy; 0 where none is needed. */
  copiedThrough: z.number().default(0),
  /** When every original was read last, and found good or healed; milliseconds since 1970-01-01 UTC. */
  readAt: z.number().default(0),
  mishaps: z.array(mishapSchema).default([]),
});
/** How it stands with the kept originals. */
export type Minded = z.infer<typeof mindedSchema>;

/** What was found when the originals were minded last. */
export const minded = async (vault: Folder): Promise<Minded> =>
  (await readJson(vault, FILE, mindedSchema, 'what is known of the copies')) ?? mindedSchema.parse({});

export interface MindOptions extends WorkOptions {
  /** Keeps others from changing what is deployed meanwhile. */
  alone?<T>(work: () => Promise<T>): Promise<T>;
}

/** How many mishaps are remembered. */
const MOST = 200;

/**
 * Looks after the kept originals while nothing else is going on: makes the plain copies that are missing, keeps what
 * programs wrote to files that had been replaced under them, and, once a day, reads every original and every copy, so
 * that one which does not fit its hash any more is found before it is needed, and healed from the other. Can be stopped
 * and called again.
 *
 * @throws SatchelError `cancelled`, or what the folders throw
 */
export async function mindOriginals(
  workshop: Workshop,
  { signal, onProgress, alone = (work) => work() }: MindOptions = {},
): Promise<Minded> {
  const { vault } = workshop;
  const before = await minded(vault);
  const found: Mishap[] = [];
  const note = (target: TargetPath, what: Mishap['what']) => void found.push({ target, what, at: workshop.now() });
  const options = { ...(signal ? { signal } : {}), ...(onProgress ? { onProgress } : {}) };
  const [latest] = await readLedger(vault);
  for (const target of await mindLate(workshop)) note(target, 'late');
  const { missing } = await copyOriginals(workshop, options);
  for (const original of missing) note(original.target, await mend(workshop, original, alone));
  const due = workshop.now() - before.readAt >= DAY;
  if (due)
    await readAll(workshop, options, async (original) => note(original.target, await mend(workshop, original, alone)));
  const lost = new Set(found.filter(({ what }) => what === 'lost').map(({ target }) => target));
  const earlier = before.mishaps.filter(
    (one) =>
      !found.some(({ target }) => target === one.target) && (one.what !== 'lost' || !due || lost.has(one.target)),
  );
  const now: Minded = {
    copiedThrough: workshop.backup ? (latest?.number ?? 0) : 0,
    readAt: due ? workshop.now() : before.readAt,
    mishaps: [...found, ...earlier].slice(0, MOST),
  };
  if (JSON.stringify(now) !== JSON.stringify(before)) await writeJson(vault, FILE, now);
  return now;
}

/** Files that were replaced: what was written to one since is kept, and after a day nobody watches it any more. */
async function mindLate(workshop: Workshop): Promise<TargetPath[]> {
  const { vault } = workshop;
  const changed = new Set<TargetPath>();
  for (const { path, hash, number, since } of await listLate(vault)) {
    const isSame = (await hashOfFile(vault, path)) === hash;
    if (!isSame) {
      const { sha256: now } = await keepFile(vault, vault, path);
      // Who wrote once may write again.
      await watchFile(vault, path, number, now);
      for (const { target, before } of await readLedgerSteps(vault, number))
        if (before.kind === 'kept' && before.sha256 === hash) changed.add(target);
    } else if (workshop.now() - since > DAY) await vault.remove(path);
  }
  return [...changed].sort(byPath);
}

/** Reads every original, and its copy. @param bad told of each that is not as it was, or is no file of its own */
async function readAll(
  workshop: Workshop,
  { signal, onProgress }: WorkOptions,
  bad: (original: Original) => Promise<void>,
): Promise<void> {
  const { backup, vault } = workshop;
  const originals = await originalsOf(vault);
  const copied = backup ? await readCopies(backup) : undefined;
  let done = 0;
  await inParallel(originals, FEW, async (original) => {
    throwIfAborted(signal);
    const { sha256: hash } = original.content;
    const path = dataPath(original.target);
    const isGood = (await hashOfFile(vault, objectPath(hash))) === hash;
    const isCopied = !backup || (copied?.get(path) === hash && (await hashOfFile(backup, path)) === hash);
    if (!isGood || !isCopied) await bad(original);
    // A copy of an earlier version of this app may be the same file under a second name.
    else if (backup && (await isShared({ backup, vault }, original))) await copyOriginal({ backup, vault }, original);
    onProgress?.({ phase: 'Reading the originals again', done: ++done, total: originals.length, unit: 'files' });
  });
}

/** Mends an original that the vault, or the backup folder, does not hold as it was. */
async function mend(
  workshop: Workshop,
  original: Original,
  alone: NonNullable<MindOptions['alone']>,
): Promise<Mishap['what']> {
  const { backup, vault } = workshop;
  const { target, content } = original;
  const object = objectPath(content.sha256);
  if ((await hashOfFile(vault, object)) !== content.sha256) {
    const isLate = await keepLateWrite(workshop, original);
    if (backup && (await hashOfFile(backup, dataPath(target))) === content.sha256)
      await healFrom({ vault, backup }, original);
    else return isLate ? alone(() => takeLate(workshop, original)) : 'lost';
    return isLate ? 'late' : 'healed';
  }
  await copyAnew(workshop, original);
  return 'healed';
}

async function copyAnew({ backup, vault }: Workshop, original: Original): Promise<void> {
  if (!backup) return;
  await copyOriginal({ backup, vault }, original);
  await writeCopies(
    backup,
    new Map([...(await readCopies(backup)), [dataPath(original.target), original.content.sha256]]),
  );
}

/** Was a kept file written to since it came to the vault, by a program that had it open? What it wrote is kept. */
async function keepLateWrite(workshop: Workshop, { content }: Original): Promise<boolean> {
  const { vault } = workshop;
  const stat = await vault.stat(objectPath(content.sha256));
  if (!stat) return false;
  for (const { number, at } of await readLedger(vault)) {
    if (
      !(await readLedgerSteps(vault, number)).some(
        ({ before }) => before.kind === 'kept' && before.sha256 === content.sha256,
      )
    )
      continue;
    // Bytes that rot on a disk leave the date as it was.
    if (stat.modified < at) return false;
    await keepFile(vault, vault, objectPath(content.sha256));
    return true;
  }
  return false;
}

/** Without a good copy, what the program wrote is what goes back into the game. */
async function takeLate(workshop: Workshop, { target, content }: Original): Promise<Mishap['what']> {
  const { vault } = workshop;
  const late = await keepFile(vault, vault, objectPath(content.sha256));
  const state = await readState(vault);
  const files = state.files.map((file) =>
    file.target === target && file.original.kind === 'kept' && file.original.sha256 === content.sha256
      ? { ...file, original: late }
      : file,
  );
  await writeState(vault, { ...state, files });
  await copyAnew(workshop, { target, content: late });
  return 'late';
}
