import { canBeDrawn, inspectImage, readTexture, setBasis, type Pack } from '@/core';
import { loadBasis } from './loadBasis';
import { drawBlocks } from './drawBlocks';

setBasis(loadBasis);

/** Larger files (bytes) and pictures (pixels a side) are not drawn: a hostile one could take all memory. */
const LARGEST_FILE = 64 * 1024 * 1024;

const LARGEST_SIDE = 8192;

/** Pixels a side of a picture in a list. */
const SMALL = 160;

/** Draws one picture of a pack small. Only formats that cannot hold scripts, and never more pixels than promised. */
export async function drawThumbnail(pack: Pack, path: string): Promise<Blob | undefined> {
  const entry = pack.entries.find((one) => one.path === path);
  if (!entry || entry.size > LARGEST_FILE || !canBeDrawn(path)) return undefined;
  return drawPicture(await pack.read(path), path, SMALL);
}

/** Draws a picture with no side longer than `side` pixels. */
export async function drawPicture(
  data: Uint8Array<ArrayBuffer>,
  path: string,
  side: number,
): Promise<Blob | undefined> {
  if (data.length > LARGEST_FILE || !canBeDrawn(path)) return undefined;
  const info = inspectImage(data, path);
  if (info && (info.width > LARGEST_SIDE || info.height > LARGEST_SIDE)) return undefined;
  try {
    const picture = await pictureOf(data, path, side);
    if (!picture) return undefined;
    const scale = Math.min(1, side / Math.max(picture.width, picture.height));
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(picture.width * scale)),
      Math.max(1, Math.round(picture.height * scale)),
    );
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    if (picture instanceof ImageBitmap) picture.close();
    return await canvas.convertToBlob({ type: 'image/png' });
  } catch {
    // Not a picture after all; the list shows its kind instead.
    return undefined;
  }
}

/** A picture as the browser draws it, or unpacked for it. */
async function pictureOf(
  data: Uint8Array<ArrayBuffer>,
  path: string,
  side: number,
): Promise<ImageBitmap | OffscreenCanvas | undefined> {
  // A little larger than asked for, so that it is made smaller smoothly.
  const texture = await readTexture(data, path, side * 2);
  if (texture?.kind === 'blocks') return drawBlocks(texture);
  return createImageBitmap(texture ? new ImageData(texture.pixels, texture.width, texture.height) : new Blob([data]));
}
