import { SatchelError, throwIfAborted } from '../errors';
import { readBytes, statAndHash } from '../folder';
import { sha256, sha256OfChunks } from '../hash';
import { nameKey } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import { copyOriginal, noteCopies, type BackedUp } from './backup';
import { piecesOf } from './large';
import type { Content, DeployedFile, Kept, PlanStep, Workshop } from './model';
import { placeOf } from './takeBack';
import { keep, keepByName, keepLarge } from './vault';

/**
 * Makes sure that what every step is about to touch can be had again. Nothing in the game is changed here.
 *
 * @returns what was there before each step, and the steps before which a file was kept by giving it a second name
 */
export async function keepAll(steps: readonly PlanStep[], records: Map<string, DeployedFile>, workshop: Workshop, { signal, onProgress }: WorkOptions): Promise<{ kept: Content[]; named: number[] }> {
  const kept: Content[] = new Array<Content>(steps.length).fill({ kind: 'absent' });
  const named: number[] = [];
  const copies: BackedUp[] = [];
  const total = steps.filter((step) => step.before).length;
  let done = 0;
  await inParallel([...steps.entries()], WIDTH, async ([i, step]) => {
    throwIfAborted(signal);
    const { folder, path } = placeOf(workshop, step.target);
    const found = await statAndHash(folder, path);
    const now = found?.stat;
    if (now?.size !== step.before?.size || now?.modified !== step.before?.modified) throw new SatchelError('changed-since-plan', { path: step.target });
    if (step.made?.bytes) await keep(workshop.vault, step.made.bytes);
    if (step.made?.base) await keep(workshop.vault, step.made.base);
    if (!now) return;
    const pieces = piecesOf(folder, path, now.size);
    let bytes = pieces || found?.sha256 ? undefined : await readBytes(folder, path);
    const hash = found?.sha256 ?? (await (pieces ? sha256OfChunks(pieces()) : sha256(bytes as Uint8Array<ArrayBuffer>)));
    const content: Kept = { kind: 'kept', sha256: hash, size: now.size };
    const record = records.get(nameKey(step.target));
    // A deployed file still lies in its pack; everything else is kept here.
    const from = record?.sha256 === hash && record.from.kind === 'pack' ? record.from : undefined;
    // Settings files are written to by others and are small: they are copied.
    const byName = !from && !step.made && (await keepByName(workshop.vault, { folder, path }, content, now));
    if (byName) named.push(i);
    else if (!from && pieces) await keepLarge(workshop.vault, pieces(), content);
    else if (!from) {
      const knownHash = bytes && hash;
      bytes ??= await readBytes(folder, path);
      if ((await keep(workshop.vault, bytes, knownHash)).sha256 !== hash) throw new SatchelError('changed-since-plan', { path: step.target });
    }
    kept[i] = from ?? content;
    // What was kept by name is copied when it has landed: until then it is the game's own file.
    if (workshop.backup && !record && !byName) copies.push(await copyOriginal({ backup: workshop.backup, vault: workshop.vault }, step.target, hash, bytes ? { bytes } : {}));
    done++;
    onProgress?.({ phase: 'Keeping originals', done, total, unit: 'files' });
  }, ([, step]) => step.before?.size ?? 0);
  if (workshop.backup) await noteCopies(workshop.backup, copies);
  await workshop.vault.settle?.();
  await workshop.backup?.settle?.();
  return { kept, named };
}
