import { sameBytes } from '../bytes';
import { SatchelError } from '../errors';
import { readBytes, writeAndReadBack, type Folder } from '../folder';
import { sha256 } from '../hash';
import { byPath, splitTarget, type TargetPath } from '../paths/paths';
import { WIDTH, inParallel, type WorkOptions } from '../progress';
import type { Content, JournalStep, Workshop } from './model';
import { keep, readKept } from './vault';

/** The folder that a target lies in, and its path there. */
export function placeOf(workshop: Workshop, target: TargetPath): { folder: Folder; path: string } {
  const { root, path } = splitTarget(target);
  const folder = workshop.folders[root];
  if (!folder) throw new SatchelError('unknown-thing', { what: `folder “${root}”` });
  return { folder, path };
}

/** A content's bytes, out of its pack or the vault. */
export async function fetchContent(content: Exclude<Content, { kind: 'absent' }>, workshop: Workshop): Promise<Uint8Array<ArrayBuffer>> {
  if (content.kind === 'kept') return readKept(workshop.vault, content);
  return (await workshop.openPack(content.packId)).read(content.path);
}

/**
 * Brings every target back to what the journal says was there before. Works from any half-way state, any number of times.
 *
 * @returns targets that were neither as before nor as planned; their bytes were kept first
 */
export async function takeBack(steps: readonly Omit<JournalStep, 'action' | 'layer'>[], workshop: Workshop, onProgress?: WorkOptions['onProgress']): Promise<TargetPath[]> {
  const setAside: TargetPath[] = [];
  let done = 0;
  await inParallel(steps, WIDTH, async ({ target, before, after }) => {
    const { folder, path } = placeOf(workshop, target);
    const now = (await folder.stat(path)) ? await readBytes(folder, path) : undefined;
    if (before.kind === 'absent') {
      if (now) {
        if (!(await isContent(now, after))) await aside(now, target);
        await folder.remove(path);
      }
    } else {
      const wanted = await fetchContent(before, workshop);
      if (!now || !sameBytes(now, wanted)) {
        if (now && !(await isContent(now, after))) await aside(now, target);
        if (!(await writeAndReadBack(folder, path, wanted))) throw new SatchelError('not-landed', { path: target });
      }
    }
    done++;
    onProgress?.({ phase: 'Putting back', done, total: steps.length, unit: 'files' });
  }, ({ before }) => (before.kind === 'absent' ? 0 : before.size));
  for (const folder of Object.values(workshop.folders)) await folder.settle?.();
  return setAside.sort(byPath);

  async function aside(bytes: Uint8Array<ArrayBuffer>, target: TargetPath): Promise<void> {
    await keep(workshop.vault, bytes);
    setAside.push(target);
  }

  async function isContent(bytes: Uint8Array<ArrayBuffer>, content: Content): Promise<boolean> {
    if (content.kind === 'absent') return false;
    if (bytes.length !== content.size) return false;
    return content.kind === 'kept' ? (await sha256(bytes)) === content.sha256 : sameBytes(bytes, await fetchContent(content, workshop));
  }
}
