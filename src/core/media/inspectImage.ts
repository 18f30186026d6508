/** What an image file's header says. */
export interface ImageInfo {
  format: 'png' | 'jpeg' | `dds ${string}`;
  /** Pixels. */
  width: number;
  height: number;
  mipLevels: number;
  /** Bytes the texture takes once loaded, all mip levels included. */
  bytesInMemory: number;
}

/** Bytes of a 4x4 block (Microsoft, "Programming Guide for DDS": BC1 and BC4 take 8, the others 16). */
const BLOCK_BYTES: Record<string, number> = { BC1: 8, BC2: 16, BC3: 16, BC4: 8, BC5: 16, BC6H: 16, BC7: 16 };
const FOURCC: Record<string, string> = { DXT1: 'BC1', DXT2: 'BC2', DXT3: 'BC2', DXT4: 'BC3', DXT5: 'BC3', ATI1: 'BC4', BC4U: 'BC4', ATI2: 'BC5', BC5U: 'BC5' };
/** DXGI_FORMAT ranges of the block formats, from the typeless to the last variant. */
const DXGI: [from: number, to: number, format: string][] = [
  [70, 72, 'BC1'], [73, 75, 'BC2'], [76, 78, 'BC3'], [79, 81, 'BC4'], [82, 84, 'BC5'], [94, 96, 'BC6H'], [97, 99, 'BC7'],
];

/**
 * Reads width, height, format and mip levels from the first bytes of an image file.
 * Sources: W3C PNG (third edition) 11.2.1; ITU-T T.81 B.2.2 (JPEG frame header); Microsoft, DDS_HEADER and DDS_HEADER_DXT10.
 *
 * @param head the first bytes of the file; 64 KiB are enough for nearly every JPEG, 148 for the others
 * @returns undefined where the bytes are none of these formats or end too early
 */
export function inspectImage(head: Uint8Array): ImageInfo | undefined {
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  const ascii = (at: number, length: number) => String.fromCharCode(...head.subarray(at, at + length));
  if (head.length >= 24 && view.getUint32(0) === 0x89504e47 && view.getUint32(4) === 0x0d0a1a0a && ascii(12, 4) === 'IHDR')
    return flat('png', view.getUint32(16), view.getUint32(20));
  if (head.length >= 4 && view.getUint16(0) === 0xffd8) return jpeg(view);
  if (head.length >= 128 && ascii(0, 4) === 'DDS ') return dds(view, ascii);
  return undefined;
}

/** An image without mip levels of its own: games unpack it to 4 bytes a pixel. */
const flat = (format: 'png' | 'jpeg', width: number, height: number): ImageInfo | undefined =>
  width > 0 && height > 0 ? { format, width, height, mipLevels: 1, bytesInMemory: width * height * 4 } : undefined;

function jpeg(view: DataView): ImageInfo | undefined {
  let at = 2;
  while (at + 9 <= view.byteLength) {
    if (view.getUint8(at) !== 0xff) return undefined;
    const marker = view.getUint8(at + 1);
    if (marker === 0xff) {
      at++; // fill byte, T.81 B.1.1.2
      continue;
    }
    // SOF0 to SOF15 hold the size, except DHT (C4), JPG (C8) and DAC (CC).
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)) return flat('jpeg', view.getUint16(at + 7), view.getUint16(at + 5));
    at += marker >= 0xd0 && marker <= 0xd9 ? 2 : 2 + view.getUint16(at + 2);
  }
  return undefined;
}

function dds(view: DataView, ascii: (at: number, length: number) => string): ImageInfo | undefined {
  const u32 = (at: number) => view.getUint32(at, true);
  const [height, width] = [u32(12), u32(16)];
  if (width === 0 || height === 0) return undefined;
  const mipLevels = Math.min(Math.max(1, u32(28)), 32);
  const fourCC = u32(80) & 0x4 ? ascii(84, 4) : '';
  let format = FOURCC[fourCC];
  if (fourCC === 'DX10' && view.byteLength >= 148) format = DXGI.find(([from, to]) => u32(128) >= from && u32(128) <= to)?.[2];
  const bits = u32(88) || 32;
  let bytesInMemory = 0;
  for (let level = 0; level < mipLevels; level++) {
    const [w, h] = [Math.max(1, Math.floor(width / 2 ** level)), Math.max(1, Math.floor(height / 2 ** level))];
    const block = format && BLOCK_BYTES[format];
    bytesInMemory += block ? Math.ceil(w / 4) * Math.ceil(h / 4) * block : Math.ceil((w * bits) / 8) * h;
  }
  return { format: `dds ${format ?? (fourCC || `${bits} bit`)}`, width, height, mipLevels, bytesInMemory };
}
