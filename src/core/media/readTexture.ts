import { transcodeBasis } from './basis';
import { inspectImage } from './inspectImage';
import type { Texture } from './unpackTexture';

/**
 * Unpacks a texture that browsers do not draw: DDS, KTX 2 and TGA. What unpacks them is loaded when the first comes.
 *
 * @param data the whole file
 * @param name its name: TGA has no signature
 * @param side pixels a side that are wanted: of a larger texture the next smaller level is taken where it has one
 * @returns undefined where it is none of them, has more than 4,096 pixels a side, is of a kind that is not unpacked
 *   here (numbers of more than 8 bits), is damaged, or ends too early
 */
export async function readTexture(data: Uint8Array, name: string, side = 4096): Promise<Texture | undefined> {
  const info = inspectImage(data, name);
  if (!info || !/^(?:tga|dds |ktx2 )/.test(info.format)) return undefined;
  const { levelFor, unpackTexture } = await import('./unpackTexture');
  const level = levelFor(info, side);
  if (level === undefined) return undefined;
  try {
    if (info.format !== 'ktx2 supercompressed') return unpackTexture(data, info, level);
    const found = await transcodeBasis(data, level);
    return found && { kind: 'pixels', ...found };
  } catch {
    // Damaged files break the packages that read them in many ways; nothing but a picture is missing then.
    return undefined;
  }
}
