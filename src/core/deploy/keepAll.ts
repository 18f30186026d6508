import { SatchelError, throwIfAborted } from '../errors';
import { readBytes, statAndHash, type Gone } from '../folder';
import { sha256, sha256OfChunks } from '../hash';
import { nameKey } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import { piecesOf } from './large';
import type { Content, DeployedFile, Kept, PlanStep, Workshop } from './model';
import { goneOf } from './swap';
import { placeOf } from './takeBack';
import { keepByName } from './secondNames';
import { keep, keepLarge } from './vault';

/** What was there before each step of a plan, kept. */
export interface KeptAll {
  kept: Content[];
  /** The versions that may go; undefined where there is no file. */
  gone: (Gone | undefined)[];
  /** Second names in the vault, by step. */
  named: Map<number, string>;
}

/** Makes sure that what every step is about to touch can be had again. Nothing in the game is changed here. */
export async function keepAll(
  steps: readonly PlanStep[], records: Map<string, DeployedFile>, workshop: Workshop, { signal, onProgress }: WorkOptions,
): Promise<KeptAll> {
  const { vault } = workshop;
  const kept: Content[] = new Array<Content>(steps.length).fill({ kind: 'absent' });
  const gone = new Array<Gone | undefined>(steps.length).fill(undefined);
  const named = new Map<number, string>();
  const total = steps.filter((step) => step.before).length;
  let done = 0;
  await inParallel([...steps.entries()], WIDTH, async ([i, step]) => {
    throwIfAborted(signal);
    const { folder, path } = placeOf(workshop, step.target);
    const readAt = Date.now();
    const found = await statAndHash(folder, path);
    const now = found?.stat;
    if (now?.size !== step.before?.size || now?.modified !== step.before?.modified) throw new SatchelError('changed-since-plan', { path: step.target });
    if (step.made?.bytes) await keep(vault, step.made.bytes);
    if (step.made?.base) await keep(vault, step.made.base);
    if (!now) return;
    const pieces = piecesOf(folder, path, now.size);
    let bytes = pieces || found?.sha256 ? undefined : await readBytes(folder, path);
    const hash = found?.sha256 ?? (await (pieces ? sha256OfChunks(pieces()) : sha256(bytes as Uint8Array<ArrayBuffer>)));
    gone[i] = goneOf(now, hash, readAt);
    const content: Kept = { kind: 'kept', sha256: hash, size: now.size };
    const record = records.get(nameKey(step.target));
    // A deployed file still lies in its pack; everything else is kept here.
    const from = record?.sha256 === hash && record.from.kind === 'pack' ? record.from : undefined;
    // Settings files are written to by others and are small: they are copied, too.
    const byName = !from && !step.made && (await keepByName(vault, { folder, path }, content, now));
    const name = byName || (await keepByName(vault, { folder, path }, content, now, i));
    if (name) named.set(i, name);
    const copied = !from && !byName;
    if (copied && pieces) await keepLarge(vault, pieces(), content);
    else if (copied) {
      const knownHash = bytes && hash;
      bytes ??= await readBytes(folder, path);
      if ((await keep(vault, bytes, knownHash)).sha256 !== hash) throw new SatchelError('changed-since-plan', { path: step.target });
    }
    kept[i] = from ?? content;
    done++;
    onProgress?.({ phase: 'Keeping originals', done, total, unit: 'files' });
  }, ([, step]) => step.before?.size ?? 0);
  await vault.settle?.();
  return { kept, gone, named };
}
