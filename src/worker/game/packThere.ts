import { SatchelError, type PackNote } from '@/core';
import type { BridgeFolder } from '@/folders/bridgeFolder';

/** Then it cannot be said whether the pack is there. */
const CANNOT_SAY = ['server-gone', 'bridge-closed', 'cancelled'];

/**
 * A pack that lies beside the originals, read there. Where it was deleted, its download is looked for by its content,
 * whatever it is called now, and taken again.
 *
 * @returns undefined where it is not to be had any more: without its password, or where the disk is full
 * @throws SatchelError `server-gone`, `bridge-closed`
 */
export async function packThere(
  vault: BridgeFolder,
  { id, file, size, sha256, format, kept }: PackNote,
): Promise<Blob | undefined> {
  const whole = kept?.size ?? size;
  const there = await vault.packBlob(id, whole);
  if (there) return there;
  try {
    const isAsItCame = whole === size && format === 'zip';
    const found = isAsItCame
      ? await vault.takeDownload(id, { size, sha256 })
      : await vault.unpackDownload(id, { size, sha256, name: file });
    return found && (await vault.packBlob(id, whole));
  } catch (error) {
    if (error instanceof SatchelError && !CANNOT_SAY.includes(error.code)) return undefined;
    throw error;
  }
}
