import { canBeDrawn, inspectImage, type Pack } from '@/core';

/** Larger files (bytes) and pictures (pixels a side) are not drawn small: a hostile one could take all memory. */
const LARGEST_FILE = 24 * 1024 * 1024;

const LARGEST_SIDE = 8192;

const SIDE = 160;

/** Draws one picture of a pack small. Only formats that cannot hold scripts, and never more pixels than promised. */
export async function drawThumbnail(pack: Pack, path: string): Promise<Blob | undefined> {
  const entry = pack.entries.find((one) => one.path === path);
  if (!entry || entry.size > LARGEST_FILE || !canBeDrawn(path)) return undefined;
  return drawPicture(await pack.read(path), path, SIDE);
}

/** Draws a picture with no side longer than `side` pixels. */
export async function drawPicture(
  data: Uint8Array<ArrayBuffer>,
  path: string,
  side: number,
): Promise<Blob | undefined> {
  if (data.length > LARGEST_FILE || !canBeDrawn(path)) return undefined;
  const info = inspectImage(data);
  if (info && (info.width > LARGEST_SIDE || info.height > LARGEST_SIDE)) return undefined;
  try {
    const picture = await createImageBitmap(new Blob([data]));
    const scale = Math.min(1, side / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(picture.width * scale)),
      Math.max(1, Math.round(picture.height * scale)),
    );
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    picture.close();
    return await canvas.convertToBlob({ type: 'image/png' });
  } catch {
    // Not a picture after all; the list shows its kind instead.
    return undefined;
  }
}
