import { figure, sizeOf } from '../words';
import { PackError } from '../errors';
import { checkPath, nameKey, type PackPath } from '../paths/paths';
import { PACK_LIMITS, type PackEntry, type PackNotice } from './pack';

/** A name out of an archive as a safe path inside a pack. @throws PackError `unsafe-path` */
export function safePackPath(raw: string, pack: string): PackPath {
  const checked = checkPath(raw);
  if (!checked.ok) throw new PackError('unsafe-path', { name: pack, path: raw.slice(0, 300), why: checked.problem });
  return checked.path as PackPath;
}

/**
 * An entry that is a link could lead anywhere once it lies in a game's folder: it stays out, and the player is told.
 */
export const linkNotice = (path: PackPath): PackNotice => ({
  kind: 'link',
  path,
  says: `“${path}” is a link to another place, not a file: it is left out.`,
});

export const tooManyFiles = (pack: string): PackError =>
  new PackError('too-large', { name: pack, why: `more than ${figure(PACK_LIMITS.entries)} files` });

/**
 * Bounds everything before anything is unpacked, and finds names that fall together.
 *
 * @param archiveSize bytes of the archive
 * @throws PackError `too-large`, `damaged` where a name is listed twice
 */
export function boundAndCompare(entries: readonly PackEntry[], archiveSize: number, name: string): PackNotice[] {
  let total = 0;
  const seen = new Map<string, PackPath>();
  const notices: PackNotice[] = [];
  if (entries.length > PACK_LIMITS.entries) throw tooManyFiles(name);
  for (const entry of entries) {
    total += entry.size;
    const key = nameKey(entry.path);
    const other = seen.get(key);
    if (other === entry.path) throw new PackError('damaged', { name, why: `it lists “${entry.path}” twice` });
    if (other !== undefined)
      notices.push({
        kind: 'case-collision',
        path: entry.path,
        says: `“${entry.path}” and “${other}” are one file for most games.`,
      });
    seen.set(key, entry.path);
  }
  checkRatio(total, archiveSize, name);
  return notices;
}

/** @throws PackError `too-large-to-hold` where a file is read as a whole that is too large for that */
export function checkWhole({ path, size }: PackEntry, name: string): void {
  if (size > PACK_LIMITS.wholeSize) throw new PackError('too-large-to-hold', { name, path, size: sizeOf(size) });
}

/** @throws PackError `too-large` where so much cannot honestly come out of so little */
function checkRatio(total: number, archiveSize: number, name: string): void {
  if (total > PACK_LIMITS.totalSize) throw new PackError('too-large', { name, why: `${sizeOf(total)} in all` });
  if (total > PACK_LIMITS.ratioFrom && total > archiveSize * PACK_LIMITS.ratio)
    throw new PackError('too-large', {
      name,
      why: `${sizeOf(total)} out of ${sizeOf(archiveSize)}`,
    });
}

/** The most bytes that an archive of this size may unpack to. */
export const mostBytes = (archiveSize: number): number =>
  Math.min(PACK_LIMITS.totalSize, Math.max(PACK_LIMITS.ratioFrom, archiveSize * PACK_LIMITS.ratio));
