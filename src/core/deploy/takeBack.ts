import { SatchelError, type ErrorCode } from '../errors';
import type { FileStat, Folder, Gone } from '../folder';
import { sha256, sha256OfChunks } from '../hash';
import { byPath, parentOf, splitTarget, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import { LARGE } from '../bytes';
import { hashOfFile } from './large';
import type { Content, JournalStep, Workshop } from './model';
import { goneOf, swapFile, type Put } from './swap';
import { Watch, watchNamed } from './secondNames';
import { latePath, keepFile, keepAside, keepNamed, piecesOfKept, readKept } from './vault';

/** The folder that a target lies in, and its path there. */
export function placeOf(workshop: Workshop, target: TargetPath): { folder: Folder; path: string } {
  const { root, path } = splitTarget(target);
  const folder = workshop.folders[root];
  if (!folder) throw new SatchelError('unknown-thing', { what: `folder “${root}”` });
  return { folder, path };
}

type InPack = Pick<Extract<Content, { kind: 'pack' }>, 'packId' | 'path' | 'size'>;

/** SHA-256 of a pack's file, however large. @throws as `Pack.read` */
export async function hashInPack(
  { packId, path, size }: InPack,
  { openPack }: Pick<Workshop, 'openPack'>,
): Promise<string> {
  const pack = await openPack(packId);
  return size > LARGE && pack.chunks ? sha256OfChunks(pack.chunks(path)) : sha256(await pack.read(path));
}

/**
 * A content as something that can be put in a file's place.
 *
 * @throws SatchelError `bad-memory` where the vault does not hold it
 */
async function putOf(content: Content, { vault, openPack }: Workshop, folder: Folder): Promise<Put | undefined> {
  if (content.kind === 'absent') return undefined;
  const inPieces = content.size > LARGE && (folder.swap ?? folder.writeChunks) !== undefined;
  if (content.kind === 'kept') {
    const pieces = inPieces ? await piecesOfKept(vault, content) : undefined;
    return pieces ? { pieces, sha256: content.sha256 } : { bytes: await readKept(vault, content) };
  }
  const pack = await openPack(content.packId);
  const { chunks } = pack;
  return inPieces && chunks ? { pieces: () => chunks(content.path) } : { bytes: await pack.read(content.path) };
}

/** A file as it is now. */
interface Now {
  size: number;
  sha256: string;
  stat: FileStat;
  readAt: number;
}

/** How often a file is looked at anew that another program writes to at this very moment, */
const TRIES = 50;
/** and what shows that it does. */
const AGAIN: ReadonlySet<ErrorCode> = new Set(['changed-meanwhile', 'folder-missing-file', 'not-landed']);

/**
 * Brings every target back to what the journal says was there before. Works from any half-way state, any number of
 * times. What another program has written meanwhile is never replaced: it stays, and what was there before is kept
 * among the vault's contents. Large files go through memory in pieces, where the folders can do that.
 *
 * @returns targets that were neither as before nor as planned, and stay as they are
 */
export async function takeBack(
  steps: readonly Step[],
  workshop: Workshop,
  onProgress?: WorkOptions['onProgress'],
): Promise<TargetPath[]> {
  const taking = new TakingBack(workshop);
  const left: TargetPath[] = [];
  let done = 0;
  await inParallel(
    steps,
    WIDTH,
    async (step) => {
      if (!(await taking.one(step))) left.push(step.target);
      done++;
      onProgress?.({ phase: 'Putting back', done, total: steps.length, unit: 'files' });
    },
    ({ before }) => (before.kind === 'absent' ? 0 : before.size),
  );
  for (const above of new Set(steps.map(({ target }) => parentOf(target)))) {
    const { root, path } = splitTarget(above);
    await workshop.folders[root]?.tidy?.(path);
  }
  for (const folder of Object.values(workshop.folders)) await folder.settle?.();
  return left.sort(byPath);
}
type Step = Omit<JournalStep, 'action' | 'layer'>;

/** Brings single files back to what was there before a step. */
class TakingBack {
  private readonly room = new Watch();

  constructor(private readonly workshop: Workshop) {}

  /** @returns false where another program has changed the file */
  async one(step: Step): Promise<boolean> {
    const { folder, path } = placeOf(this.workshop, step.target);
    await folder.endSwap?.(path, (size, pieces) => keepAside(this.workshop.vault, size, pieces));
    for (let tries = 1; ; tries++) {
      try {
        const done = await this.attempt(step, folder, path);
        if (done !== 'again') return done;
        // Its second name stays with the journal: nothing goes before this is done.
        if (tries === TRIES) throw new SatchelError('not-landed', { path: step.target });
      } catch (error) {
        if (!(error instanceof SatchelError && AGAIN.has(error.code)) || tries === TRIES) throw error;
      }
    }
  }

  /** @returns true where the file is as it was before, false where another program has changed it and it stays */
  private async attempt(step: Step, folder: Folder, path: string): Promise<boolean | 'again'> {
    const { target, before, after, name } = step;
    const { vault } = this.workshop;
    const now = await lookAt(folder, path);
    if (now ? await this.isContent(now, before) : before.kind === 'absent') return true;
    if (now && !(await this.isOurs(now, after))) {
      await this.keepTheirs(step, folder, path);
      return false;
    }
    // A program may have opened what the deployment had put there.
    if (now && this.room.takes(now.size)) await folder.link?.(path, vault, latePath(0, now.sha256), true);
    // The very file goes back, so that a program which has it open goes on writing to the game's.
    if (name !== undefined && vault.link && (await vault.stat(name))) return this.byName(target, name, now);
    const put = await putOf(before, this.workshop, folder).catch((error: unknown) => {
      // Another program has taken its own version away, and overwritten the one before through a handle that it held.
      if (now || !(error instanceof SatchelError && error.code === 'bad-memory')) throw error;
      return 'nowhere' as const;
    });
    if (put === 'nowhere') return false;
    const landed = await swapFile(folder, path, put, goneFor(now));
    if (put && !landed) throw new SatchelError('not-landed', { path: target });
    return true;
  }

  /** What another program has put there stays; what was there before is kept. */
  private async keepTheirs({ before, name }: Step, folder: Folder, path: string): Promise<void> {
    const { vault } = this.workshop;
    await keepFile(vault, folder, path);
    // By its second name it may be the only one left, and those go; a program may have it open still.
    if (before.kind === 'kept') await keepNamed(vault, before);
    if (name !== undefined) await watchNamed(vault, name);
  }

  /** The file comes back by the second name that it has in the vault. */
  private async byName(target: TargetPath, name: string, now: Now | undefined): Promise<boolean | 'again'> {
    const { vault } = this.workshop;
    const { folder, path } = placeOf(this.workshop, target);
    if (now) await swapFile(folder, path, undefined, goneFor(now));
    if (await vault.link?.(name, folder, path)) return true;
    if (await folder.stat(path)) return 'again';
    // No second name can be had: then a copy of it, as it is now.
    const copy = await putOf(await keepFile(vault, vault, name), this.workshop, folder);
    if (!(await swapFile(folder, path, copy, undefined))) throw new SatchelError('not-landed', { path: target });
    return true;
  }

  private async isContent(now: Now, content: Content): Promise<boolean> {
    if (content.kind === 'absent' || content.size !== now.size) return false;
    return now.sha256 === (content.kind === 'kept' ? content.sha256 : await hashInPack(content, this.workshop));
  }

  /** Is it what the step was to write, or the beginning of it, as a power cut leaves it? */
  private async isOurs(now: Now, after: Content): Promise<boolean> {
    if (after.kind === 'absent') return false;
    if (now.size === 0 || (await this.isContent(now, after))) return true;
    if (now.size >= after.size || after.size > LARGE) return false;
    // What cannot be read is not known to be ours, so it is left alone.
    const put = await putOf(after, this.workshop, this.workshop.vault).catch(() => undefined);
    return put !== undefined && 'bytes' in put && (await sha256(put.bytes.slice(0, now.size))) === now.sha256;
  }
}

/** The version that may go; undefined where there is none. */
const goneFor = (now: Now | undefined): Gone | undefined => now && goneOf(now.stat, now.sha256, now.readAt);

async function lookAt(folder: Folder, path: string): Promise<Now | undefined> {
  const readAt = Date.now();
  const stat = await folder.stat(path);
  const hash = stat && (await hashOfFile(folder, path));
  return stat && hash !== undefined ? { size: stat.size, sha256: hash, stat, readAt } : undefined;
}
