import { SatchelError, reasonOf, throwIfAborted } from '../errors';
import { readBytes, statAndHash, type FileStat, type Folder, type Gone, type Hashed } from '../folder';
import { sha256, sha256OfChunks } from '../hash';
import { byPath, nameKey, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import type { Asking } from './asking';
import { piecesOf, type Chunks } from './large';
import type { Content, DeployedFile, Kept, PlanStep, Workshop } from './model';
import { goneOf } from './swap';
import { placeOf } from './takeBack';
import { keepByName } from './secondNames';
import { keep, keepLarge } from './vault';

/** What was there before each step of a plan, kept. */
export interface KeptAll {
  /** The steps that can be carried out, and what was there before each. */
  steps: PlanStep[];
  kept: Content[];
  /** The versions that may go; undefined where there is no file. */
  gone: (Gone | undefined)[];
  /** Second names in the vault. */
  names: (string | undefined)[];
  /** Targets that may not be read; the player leaves them as they are. */
  unread: TargetPath[];
}

/** What is known of one file that will be touched. */
interface KeptOne {
  step: PlanStep;
  kept: Content;
  gone?: Gone;
  name?: string;
}

/**
 * Makes sure that what every step is about to touch can be had again. Nothing in the game is changed here.
 *
 * @param options.asking what to do about a file that may not be read
 */
export async function keepAll(
  steps: readonly PlanStep[],
  records: Map<string, DeployedFile>,
  workshop: Workshop,
  { signal, onProgress, asking }: WorkOptions & { asking: Asking },
): Promise<KeptAll> {
  const found = new Array<KeptOne | undefined>(steps.length);
  const unread: TargetPath[] = [];
  const total = steps.filter((step) => step.before).length;
  let done = 0;
  await inParallel(
    [...steps.entries()],
    WIDTH,
    async ([i, step]) => {
      throwIfAborted(signal);
      const one = await orLeave(step.target, asking, () => keepOne(i, step, records, workshop));
      if (one) found[i] = one;
      else unread.push(step.target);
      if (step.before) onProgress?.({ phase: 'Keeping originals', done: ++done, total, unit: 'files' });
    },
    ([, step]) => step.before?.size ?? 0,
  );
  await workshop.vault.settle?.();
  const all = found.filter((one) => one !== undefined);
  return {
    steps: all.map(({ step }) => step),
    kept: all.map(({ kept }) => kept),
    gone: all.map(({ gone }) => gone),
    names: all.map(({ name }) => name),
    unread: unread.sort(byPath),
  };
}

/** Where a file may not be read the player says how it goes on. @returns undefined where it is left as it is */
async function orLeave<T>(target: TargetPath, asking: Asking, work: () => Promise<T>): Promise<T | undefined> {
  for (;;) {
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof SatchelError && error.code === 'folder-refused') || !asking.possible) throw error;
      const answer = await asking.ask({ target, why: reasonOf(error) });
      if (answer === 'take back') throw error;
      if (answer !== 'again') return undefined;
    }
  }
}

/** A file of the game as it is when it is kept; its bytes are held only where they are small. */
interface FileNow {
  folder: Folder;
  path: string;
  stat: FileStat;
  content: Kept;
  /** In pieces, where it is large. */
  pieces: (() => Chunks) | undefined;
  bytes: Uint8Array<ArrayBuffer> | undefined;
}

async function lookAt(folder: Folder, path: string, { stat, sha256: known }: Hashed): Promise<FileNow> {
  const pieces = piecesOf(folder, path, stat.size);
  const bytes = pieces || known ? undefined : await readBytes(folder, path);
  const hash = known ?? (await (pieces ? sha256OfChunks(pieces()) : sha256(bytes as Uint8Array<ArrayBuffer>)));
  return { folder, path, stat, content: { kind: 'kept', sha256: hash, size: stat.size }, pieces, bytes };
}

const isAsPlanned = (step: PlanStep, now: FileStat | undefined): boolean =>
  now?.size === step.before?.size && now?.modified === step.before?.modified;

/** What a step writes, and the text that its edits went onto. */
async function keepMade({ made }: PlanStep, { vault }: Workshop): Promise<void> {
  if (made?.bytes) await keep(vault, made.bytes);
  if (made?.base) await keep(vault, made.base);
}

async function keepOne(
  i: number,
  step: PlanStep,
  records: ReadonlyMap<string, DeployedFile>,
  workshop: Workshop,
): Promise<KeptOne> {
  const { vault } = workshop;
  const { folder, path } = placeOf(workshop, step.target);
  const readAt = Date.now();
  const found = await statAndHash(folder, path);
  if (!isAsPlanned(step, found?.stat)) throw new SatchelError('changed-since-plan', { path: step.target });
  await keepMade(step, workshop);
  if (!found) return { step, kept: { kind: 'absent' } };
  const now = await lookAt(folder, path, found);
  const { stat, content } = now;
  const record = records.get(nameKey(step.target));
  // A deployed file still lies in its pack; everything else is kept here.
  const from = record?.sha256 === content.sha256 && record.from.kind === 'pack' ? record.from : undefined;
  // Settings files are written to by others and are small: they are copied, too.
  const byName = !from && !step.made && (await keepByName(vault, now, content));
  const name = byName || (await keepByName(vault, now, content, i));
  if (!from && !byName) await keepCopy(step.target, now, workshop);
  return { step, kept: from ?? content, gone: goneOf(stat, content.sha256, readAt), ...(name ? { name } : {}) };
}

/** A copy of the very bytes that were hashed. */
async function keepCopy(target: TargetPath, now: FileNow, { vault }: Workshop): Promise<void> {
  const { folder, path, content, pieces, bytes } = now;
  if (pieces) return void (await keepLarge(vault, pieces(), content));
  const kept = await keep(vault, bytes ?? (await readBytes(folder, path)), bytes && content.sha256);
  if (kept.sha256 !== content.sha256) throw new SatchelError('changed-since-plan', { path: target });
}
