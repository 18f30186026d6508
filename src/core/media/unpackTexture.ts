import decodeDxt from 'decode-dxt';
import { unzlibSync } from 'fflate';
import { decompress as unzstdSync } from 'fzstd';
import { KHR_SUPERCOMPRESSION_ZLIB, KHR_SUPERCOMPRESSION_ZSTD, read as readKtx2 } from 'ktx-parse';
import Tga from 'tga-js';
import { blockBytesOf, type ImageInfo } from './inspectImage';

/** A texture for drawing: pixels as red, green, blue and alpha, or blocks that a graphics chip unpacks. */
export type Texture = { width: number; height: number } & (
  { kind: 'pixels'; pixels: Uint8ClampedArray<ArrayBuffer> } | { kind: 'blocks'; format: string; data: Uint8Array }
);

/** The largest level of a texture, as it lies in its file. */
interface Level {
  format: string;
  width: number;
  height: number;
  data: Uint8Array;
}

/** Where colours lie in a pixel of a DDS without blocks: bits, and one mask each for red, green, blue and alpha. */
interface Masks {
  bits: number;
  masks: [number, number, number, number];
}

/** The most pixels a side that are unpacked. */
const MOST_SIDE = 4096;

/**
 * Which level of a texture is drawn: the largest with no more pixels a side than are wanted, or the smallest there is.
 * Undefined where that is too large to be unpacked.
 */
export function levelFor({ width, height, mipLevels }: ImageInfo, side: number): number | undefined {
  const larger = Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / Math.min(side, MOST_SIDE))));
  const skipped = Math.min(larger, mipLevels - 1);
  return Math.max(width, height) >> skipped > MOST_SIDE ? undefined : skipped;
}

/**
 * Unpacks a texture whose header was read.
 *
 * @param skipped levels that are left out, the largest first
 * @throws whatever the packages throw at damaged files
 */
export function unpackTexture(data: Uint8Array, info: ImageInfo, skipped: number): Texture | undefined {
  const { width, height, format } = info;
  if (format === 'tga') return tga(data);
  if (format.startsWith('dds ')) return dds(data, format.slice(4), { width, height, skipped });
  return format.startsWith('ktx2 ') ? ktx2(data, format.slice(5), { width, height, skipped }) : undefined;
}

function tga(data: Uint8Array): Texture {
  const reader = new Tga();
  reader.load(data);
  const { width, height } = reader.header;
  const { data: pixels } = reader.getImageData({
    width,
    height,
    data: new Uint8ClampedArray(width * height * 4),
  });
  // 24 and 16 bits say nothing of alpha, whatever the file's unused bits are.
  if (reader.header.pixelDepth < 32) for (let at = 3; at < pixels.length; at += 4) pixels[at] = 255;
  return { kind: 'pixels', width, height, pixels };
}

/** A texture's size, and how many of its levels are left out for being too large. */
interface Size {
  width: number;
  height: number;
  skipped: number;
}

const levelSize = ({ width, height }: Size, level: number): { width: number; height: number } => ({
  width: Math.max(1, width >> level),
  height: Math.max(1, height >> level),
});

/** Microsoft, "Programming Guide for DDS": 128 bytes of header, 20 more where FourCC is DX10, then the levels. */
function dds(data: Uint8Array, format: string, of: Size): Texture | undefined {
  const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
  const u32 = (at: number) => view.getUint32(at, true);
  const isDx10 = (u32(80) & 4) !== 0 && u32(84) === 0x30315844;
  const masks = isDx10 ? DXGI_MASKS.get(u32(128)) : ddsMasks(u32);
  const block = blockBytesOf(format);
  let at = isDx10 ? 148 : 128;
  for (let level = 0; level < of.skipped; level++) {
    const { width, height } = levelSize(of, level);
    at += block === undefined ? (width * height * (masks?.bits ?? 32)) / 8 : blocksOf(width, height) * block;
  }
  const level = { format, ...levelSize(of, of.skipped), data: data.subarray(at) };
  return block === undefined ? masks && flat(level, masks) : unpacked(level);
}

const RGBA: Masks = { bits: 32, masks: [0xff, 0xff00, 0xff0000, 0xff000000] };
const BGRA: Masks = { bits: 32, masks: [0xff0000, 0xff00, 0xff, 0xff000000] };
const BGRX: Masks = { bits: 32, masks: [0xff0000, 0xff00, 0xff, 0] };
const RGB: Masks = { bits: 24, masks: [0xff, 0xff00, 0xff0000, 0] };
const BGR: Masks = { bits: 24, masks: [0xff0000, 0xff00, 0xff, 0] };
const GREY: Masks = { bits: 8, masks: [0xff, 0xff, 0xff, 0] };

/** DXGI_FORMATs of 8 bits a colour: R8G8B8A8, B8G8R8A8, B8G8R8X8 with their variants, R8, A8. */
const DXGI_MASKS = new Map<number, Masks>([
  [27, RGBA],
  [28, RGBA],
  [29, RGBA],
  [87, BGRA],
  [90, BGRA],
  [91, BGRA],
  [88, BGRX],
  [92, BGRX],
  [93, BGRX],
  [60, GREY],
  [61, GREY],
  [85, { bits: 16, masks: [0xf800, 0x7e0, 0x1f, 0] }],
  [86, { bits: 16, masks: [0x7c00, 0x3e0, 0x1f, 0x8000] }],
]);

/** DDS_PIXELFORMAT: colours, or one brightness for all three (DDPF_LUMINANCE). */
function ddsMasks(u32: (at: number) => number): Masks | undefined {
  const [flags, bits, red] = [u32(80), u32(88), u32(92)];
  if (![8, 16, 24, 32].includes(bits)) return undefined;
  const alpha = flags & 0x1 ? u32(104) : 0;
  if (flags & 0x20000) return { bits, masks: [red, red, red, alpha] };
  return flags & 0x40 ? { bits, masks: [red, u32(96), u32(100), alpha] } : undefined;
}

function flat({ width, height, data }: Level, { bits, masks }: Masks): Texture | undefined {
  const bytes = bits / 8;
  if (data.length < width * height * bytes) return undefined;
  const channels = masks.map((mask) => {
    const shift = mask === 0 ? 0 : 31 - Math.clz32(mask & -mask);
    return { mask, shift, most: mask >>> shift };
  });
  const pixels = new Uint8ClampedArray(width * height * 4);
  for (let pixel = 0; pixel < width * height; pixel++) {
    let value = 0;
    for (let i = bytes - 1; i >= 0; i--) value = (value << 8) | (data[pixel * bytes + i] ?? 0);
    for (let c = 0; c < 4; c++) {
      const { mask, shift, most } = channels[c] ?? { mask: 0, shift: 0, most: 0 };
      pixels[pixel * 4 + c] = mask === 0 ? 255 : (((value & mask) >>> shift) * 255) / most;
    }
  }
  return { kind: 'pixels', width, height, pixels };
}

/** Khronos, "KTX File Format Specification 2.0": levels from the largest, each packed for itself. */
function ktx2(data: Uint8Array, format: string, of: Size): Texture | undefined {
  const container = readKtx2(data);
  const packed = container.levels[of.skipped];
  if (!packed || container.vkFormat === 0) return undefined;
  const size = packed.uncompressedByteLength;
  if (size > LARGEST_LEVEL) return undefined;
  const bytes =
    container.supercompressionScheme === KHR_SUPERCOMPRESSION_ZSTD
      ? unzstdSync(packed.levelData, new Uint8Array(size))
      : container.supercompressionScheme === KHR_SUPERCOMPRESSION_ZLIB
        ? unzlibSync(packed.levelData, { out: new Uint8Array(size) })
        : packed.levelData;
  const level = { format, ...levelSize(of, of.skipped), data: bytes };
  const masks = VK_MASKS.get(container.vkFormat);
  return blockBytesOf(format) === undefined ? masks && flat(level, masks) : unpacked(level);
}

/** Bytes of the largest level that is unpacked: 4,096 pixels square of 4 bytes. */
const LARGEST_LEVEL = 64 * 1024 ** 2;

/** VkFormats of 8 bits a colour (Khronos, Vulkan specification, VkFormat): R8, R8G8B8, B8G8R8, R8G8B8A8, B8G8R8A8. */
const VK_MASKS = new Map<number, Masks>([
  [9, GREY],
  [15, GREY],
  [23, RGB],
  [29, RGB],
  [30, BGR],
  [36, BGR],
  [37, RGBA],
  [43, RGBA],
  [44, BGRA],
  [50, BGRA],
]);

const blocksOf = (width: number, height: number): number => Math.ceil(width / 4) * Math.ceil(height / 4);

/** Blocks of BC1 to BC5 become pixels; the others are left to the graphics chip. */
function unpacked({ format, width, height, data }: Level): Texture | undefined {
  const size = blocksOf(width, height) * (blockBytesOf(format) ?? 0);
  if (data.length < size) return undefined;
  const blocks = data.subarray(0, size);
  const whole = { width: Math.ceil(width / 4) * 4, height: Math.ceil(height / 4) * 4 };
  switch (format) {
    case 'BC1':
    case 'BC2':
    case 'BC3': {
      const as = { BC1: 'dxt1', BC2: 'dxt3', BC3: 'dxt5' }[format];
      return cut(dxt(blocks, whole, as), whole, { width, height });
    }
    case 'BC4': {
      const pixels = dxt(alphaOnly(blocks, 0, 8), whole, 'dxt5');
      for (let at = 0; at < pixels.length; at += 4) pixels.fill(pixels[at + 3] ?? 0, at, at + 3);
      return cut(opaque(pixels), whole, { width, height });
    }
    case 'BC5': {
      const pixels = dxt(alphaOnly(blocks, 0, 16), whole, 'dxt5');
      const green = dxt(alphaOnly(blocks, 8, 16), whole, 'dxt5');
      for (let at = 0; at < pixels.length; at += 4) {
        pixels[at] = pixels[at + 3] ?? 0;
        pixels[at + 1] = green[at + 3] ?? 0;
        pixels[at + 2] = 0;
      }
      return cut(opaque(pixels), whole, { width, height });
    }
    default:
      return { kind: 'blocks', format, width, height, data: blocks };
  }
}

const dxt = (blocks: Uint8Array, { width, height }: { width: number; height: number }, as: string): Uint8Array =>
  decodeDxt(new DataView(blocks.buffer, blocks.byteOffset, blocks.byteLength), width, height, as);

/** A block of BC4, or half a one of BC5, is the alpha half of a BC3 block: the other half is filled up. */
function alphaOnly(blocks: Uint8Array, from: number, step: number): Uint8Array {
  const whole = new Uint8Array((blocks.length / step) * 16);
  for (let block = 0; block * step < blocks.length; block++)
    whole.set(blocks.subarray(block * step + from, block * step + from + 8), block * 16);
  return whole;
}

function opaque(pixels: Uint8Array): Uint8Array {
  for (let at = 3; at < pixels.length; at += 4) pixels[at] = 255;
  return pixels;
}

/** Blocks are four pixels a side; what stands out over the picture is cut off. */
function cut(
  pixels: Uint8Array,
  from: { width: number; height: number },
  { width, height }: { width: number; height: number },
): Texture {
  const kept = new Uint8ClampedArray(width * height * 4);
  for (let row = 0; row < height; row++)
    kept.set(pixels.subarray(row * from.width * 4, row * from.width * 4 + width * 4), row * width * 4);
  return { kind: 'pixels', width, height, pixels: kept };
}
