import { SatchelError } from '../errors';
import { writeAndReadBack, type FileStat, type Folder } from '../folder';
import { sha256, sha256OfChunks } from '../hash';
import { byPath, splitTarget, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import { LARGE, hashOfFile, writePieces } from './large';
import type { Content, JournalStep, Workshop } from './model';
import { keepFile, writeKept } from './vault';

/** The folder that a target lies in, and its path there. */
export function placeOf(workshop: Workshop, target: TargetPath): { folder: Folder; path: string } {
  const { root, path } = splitTarget(target);
  const folder = workshop.folders[root];
  if (!folder) throw new SatchelError('unknown-thing', { what: `folder “${root}”` });
  return { folder, path };
}

type InPack = Pick<Extract<Content, { kind: 'pack' }>, 'packId' | 'path' | 'size'>;

/** SHA-256 of a pack's file, however large. @throws as `Pack.read` */
export async function hashInPack({ packId, path, size }: InPack, { openPack }: Pick<Workshop, 'openPack'>): Promise<string> {
  const pack = await openPack(packId);
  return size > LARGE && pack.chunks ? sha256OfChunks(pack.chunks(path)) : sha256(await pack.read(path));
}

/** Writes a pack's file to a folder, however large, and reads it back. @returns undefined where it does not hold these bytes */
async function writeFromPack(content: InPack, { openPack }: Workshop, folder: Folder, path: string): Promise<FileStat | undefined> {
  const pack = await openPack(content.packId);
  if (content.size > LARGE && pack.chunks && folder.writeChunks) return (await writePieces(folder, path, pack.chunks(content.path)))?.stat;
  return writeAndReadBack(folder, path, await pack.read(content.path));
}

/**
 * Brings every target back to what the journal says was there before. Works from any half-way state, any number of times.
 * Large files go through memory in pieces, where the folders can do that.
 *
 * @returns targets that were neither as before nor as planned; their bytes were kept first
 */
export async function takeBack(steps: readonly Omit<JournalStep, 'action' | 'layer'>[], workshop: Workshop, onProgress?: WorkOptions['onProgress']): Promise<TargetPath[]> {
  const { vault } = workshop;
  const setAside: TargetPath[] = [];
  let done = 0;
  await inParallel(steps, WIDTH, async ({ target, before, after }) => {
    const { folder, path } = placeOf(workshop, target);
    const stat = await folder.stat(path);
    const now = stat && { size: stat.size, sha256: await hashOfFile(folder, path) };
    if (now ? !(await isContent(now, before)) : before.kind !== 'absent') {
      if (now && !(await isContent(now, after))) {
        await keepFile(vault, folder, path);
        setAside.push(target);
      }
      if (before.kind === 'absent') await folder.remove(path);
      else if (!(await (before.kind === 'kept' ? writeKept(vault, before, folder, path) : writeFromPack(before, workshop, folder, path)))) throw new SatchelError('not-landed', { path: target });
    }
    done++;
    onProgress?.({ phase: 'Putting back', done, total: steps.length, unit: 'files' });
  }, ({ before }) => (before.kind === 'absent' ? 0 : before.size));
  for (const folder of Object.values(workshop.folders)) await folder.settle?.();
  return setAside.sort(byPath);

  async function isContent(now: { size: number; sha256: string | undefined }, content: Content): Promise<boolean> {
    if (content.kind === 'absent' || content.size !== now.size) return false;
    return now.sha256 === (content.kind === 'kept' ? content.sha256 : await hashInPack(content, workshop));
  }
}
