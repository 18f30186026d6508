/** What an image file's header says. */
export interface ImageInfo {
  /** `dds BC1` and the like for block formats. */
  format: 'png' | 'jpeg' | 'webp' | 'tga' | 'bmp' | 'gif' | `dds ${string}` | `ktx2 ${string}`;
  /** Pixels. */
  width: number;
  height: number;
  mipLevels: number;
  /** Bytes the texture takes once loaded, all mip levels included. */
  bytesInMemory: number;
}

/** Bytes of a 4x4 block (Microsoft, "Programming Guide for DDS": BC1 and BC4 take 8, the others 16). */
const BLOCK_BYTES: Record<string, number> = {
  BC1: 8,
  BC2: 16,
  BC3: 16,
  BC4: 8,
  BC5: 16,
  BC6H: 16,
  BC7: 16,
  ETC2: 8,
  'ETC2 alpha': 16,
  'ASTC 4x4': 16,
};
/** Bytes of a block of 4x4 pixels; undefined for formats without blocks. */
export const blockBytesOf = (format: string): number | undefined => BLOCK_BYTES[format];
const FOURCC: Record<string, string> = {
  DXT1: 'BC1',
  DXT2: 'BC2',
  DXT3: 'BC2',
  DXT4: 'BC3',
  DXT5: 'BC3',
  ATI1: 'BC4',
  BC4U: 'BC4',
  BC4S: 'BC4',
  ATI2: 'BC5',
  BC5U: 'BC5',
  BC5S: 'BC5',
};
/** DXGI_FORMAT ranges of the block formats, from the typeless to the last variant. */
const DXGI: [from: number, to: number, format: string][] = [
  [70, 72, 'BC1'],
  [73, 75, 'BC2'],
  [76, 78, 'BC3'],
  [79, 81, 'BC4'],
  [82, 84, 'BC5'],
  [94, 96, 'BC6H'],
  [97, 99, 'BC7'],
];
/** Bits a pixel of the other DXGI_FORMATs that textures use (Microsoft, DXGI_FORMAT). */
const DXGI_BITS: [from: number, to: number, bits: number][] = [
  [1, 4, 128],
  [5, 8, 96],
  [9, 22, 64],
  [23, 47, 32],
  [48, 59, 16],
  [60, 65, 8],
  [85, 86, 16],
  [87, 93, 32],
];
/** VkFormat ranges of the block formats (Khronos, Vulkan specification, VkFormat). */
const VK_FORMATS: [from: number, to: number, format: string][] = [
  [131, 134, 'BC1'],
  [135, 136, 'BC2'],
  [137, 138, 'BC3'],
  [139, 140, 'BC4'],
  [141, 142, 'BC5'],
  [143, 144, 'BC6H'],
  [145, 146, 'BC7'],
  [147, 150, 'ETC2'],
  [151, 152, 'ETC2 alpha'],
  [157, 158, 'ASTC 4x4'],
];

/**
 * Reads width, height, format and mip levels from the first bytes of an image file. Sources: W3C PNG (third edition)
 * 11.2.1; ITU-T T.81 B.2.2 (JPEG frame header); Microsoft, DDS_HEADER and DDS_HEADER_DXT10, BITMAPFILEHEADER and
 * BITMAPINFOHEADER; RFC 9649 (WebP); Truevision TGA 2.0; Khronos KTX 2.0; GIF89a.
 *
 * @param head the first bytes of the file; 64 KiB are enough for nearly every JPEG, 148 for the others
 * @param name the file's name, where it is known: TGA has no signature, and other extensions rule it out
 * @returns undefined where the bytes are none of these formats or end too early
 */
export function inspectImage(head: Uint8Array, name = ''): ImageInfo | undefined {
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  const format = FORMATS.find(({ least, is }) => head.length >= least && is(view, name));
  const info = format?.read(view);
  return info && info.width <= MOST_PIXELS && info.height <= MOST_PIXELS ? info : undefined;
}
/** A header that states more, across or down, is damaged or lies: graphics take 16,384 (Direct3D 11). */
const MOST_PIXELS = 65_535;

const ascii = ({ buffer, byteOffset }: DataView, at: number, length: number): string =>
  String.fromCharCode(...new Uint8Array(buffer, byteOffset + at, length));

/** A format: how many bytes show it, what they are, and how its head is read. */
interface Format {
  least: number;
  is(view: DataView, name: string): boolean;
  read(view: DataView): ImageInfo | undefined;
}

const FORMATS: readonly Format[] = [
  {
    least: 24,
    is: (view) => view.getUint32(0) === 0x89504e47 && view.getUint32(4) === 0x0d0a1a0a && ascii(view, 12, 4) === 'IHDR',
    read: (view) => flat('png', view.getUint32(16), view.getUint32(20)),
  },
  { least: 4, is: (view) => view.getUint16(0) === 0xffd8, read: (view) => jpeg(view) },
  // The sizes that DDS_HEADER states of itself are not looked at: not every program writes them.
  { least: 128, is: (view) => ascii(view, 0, 4) === 'DDS ', read: (view) => dds(view) },
  {
    least: 30,
    is: (view) => ascii(view, 0, 4) === 'RIFF' && ascii(view, 8, 4) === 'WEBP',
    read: (view) => webp(view),
  },
  { least: 26, is: (view) => ascii(view, 0, 2) === 'BM', read: (view) => bmp(view) },
  {
    least: 10,
    is: (view) => /^GIF8[79]a$/.test(ascii(view, 0, 6)),
    read: (view) => flat('gif', view.getUint16(6, true), view.getUint16(8, true)),
  },
  {
    least: 48,
    is: (view) =>
      view.getUint32(0) === 0xab4b5458 && view.getUint32(4) === 0x203230bb && view.getUint32(8) === 0x0d0a1a0a,
    read: (view) => ktx2(view),
  },
  { least: 18, is: (_, name) => name === '' || /\.tga$/i.test(name), read: (view) => tga(view) },
];

/** An image without mip levels of its own: games unpack it to 4 bytes a pixel. */
const flat = (format: ImageInfo['format'], width: number, height: number): ImageInfo | undefined =>
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
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return flat('jpeg', view.getUint16(at + 7), view.getUint16(at + 5));
    at += marker >= 0xd0 && marker <= 0xd9 ? 2 : 2 + view.getUint16(at + 2);
  }
  return undefined;
}

/** RFC 9649: simple lossy (2.5, frame header of RFC 6386 9.1), lossless (3.4) and extended (2.7). */
function webp(view: DataView): ImageInfo | undefined {
  const u24 = (at: number) => view.getUint16(at, true) | (view.getUint8(at + 2) << 16);
  switch (ascii(view, 12, 4)) {
    case 'VP8 ':
      return u24(23) === 0x2a019d
        ? flat('webp', view.getUint16(26, true) & 0x3fff, view.getUint16(28, true) & 0x3fff)
        : undefined;
    case 'VP8L': {
      const bits = view.getUint32(21, true);
      return view.getUint8(20) === 0x2f ? flat('webp', (bits & 0x3fff) + 1, ((bits >>> 14) & 0x3fff) + 1) : undefined;
    }
    case 'VP8X':
      return flat('webp', u24(24) + 1, u24(27) + 1);
    default:
      return undefined;
  }
}

/**
 * The core header of OS/2 has 16-bit sizes; all later ones 32-bit, and a height that is negative when rows run down.
 */
function bmp(view: DataView): ImageInfo | undefined {
  if (view.getUint32(14, true) === 12) return flat('bmp', view.getUint16(18, true), view.getUint16(20, true));
  return flat('bmp', view.getInt32(18, true), Math.abs(view.getInt32(22, true)));
}

/** TGA has no signature: every byte of its header must make sense (Truevision TGA 2.0, fields 2 to 5). */
function tga(view: DataView): ImageInfo | undefined {
  const [colourMap, type, bits] = [view.getUint8(1), view.getUint8(2), view.getUint8(16)];
  const mapped = [1, 9].includes(type);
  const plausible =
    colourMap === (mapped ? 1 : 0) &&
    [1, 2, 3, 9, 10, 11].includes(type) &&
    (mapped || [3, 11].includes(type) ? [8, 16] : [15, 16, 24, 32]).includes(bits) &&
    (view.getUint8(17) & 0xc0) === 0;
  const unused = mapped || (view.getUint32(3, true) === 0 && view.getUint8(7) === 0);
  return plausible && unused ? flat('tga', view.getUint16(12, true), view.getUint16(14, true)) : undefined;
}

function dds(view: DataView): ImageInfo | undefined {
  const u32 = (at: number) => view.getUint32(at, true);
  const [height, width] = [u32(12), u32(16)];
  const fourCC = u32(80) & 0x4 ? ascii(view, 84, 4).replace(/[^ -~]/g, '') : '';
  let format = FOURCC[fourCC];
  // Unpacked pixels have up to 128 bits (DXGI_FORMAT).
  let bits = Math.min(u32(88) || 32, 128);
  if (fourCC === 'DX10' && view.byteLength >= 148) {
    const dxgi = u32(128);
    format = DXGI.find(([from, to]) => dxgi >= from && dxgi <= to)?.[2];
    bits = DXGI_BITS.find(([from, to]) => dxgi >= from && dxgi <= to)?.[2] ?? 32;
  }
  return withLevels(`dds ${format ?? (fourCC.trim() || `${bits} bit`)}`, {
    width,
    height,
    stated: u32(28),
    block: format,
    bits,
  });
}

function ktx2(view: DataView): ImageInfo | undefined {
  const u32 = (at: number) => view.getUint32(at, true);
  const vk = u32(12);
  const format = VK_FORMATS.find(([from, to]) => vk >= from && vk <= to)?.[2];
  // Format 0 is a supercompressed texture that is unpacked to a block format when it is loaded; 16 bytes a block is
  // what most take.
  return withLevels(`ktx2 ${format ?? (vk === 0 ? 'supercompressed' : `format ${vk}`)}`, {
    width: u32(20),
    height: Math.max(1, u32(24)),
    stated: u32(40),
    block: format ?? (vk === 0 ? 'BC7' : undefined),
    bits: 32,
  });
}

/** A texture with mip levels, as many as it states, in blocks of a known format or with bits for each pixel. */
interface Levels {
  width: number;
  height: number;
  stated: number;
  block: string | undefined;
  bits: number;
}

function withLevels(
  format: ImageInfo['format'],
  { width, height, stated, block, bits }: Levels,
): ImageInfo | undefined {
  if (width === 0 || height === 0) return undefined;
  const mipLevels = Math.min(Math.max(1, stated), 32);
  let bytesInMemory = 0;
  for (let level = 0; level < mipLevels; level++) {
    const [w, h] = [Math.max(1, Math.floor(width / 2 ** level)), Math.max(1, Math.floor(height / 2 ** level))];
    const blockBytes = block && BLOCK_BYTES[block];
    bytesInMemory += blockBytes ? Math.ceil(w / 4) * Math.ceil(h / 4) * blockBytes : Math.ceil((w * bits) / 8) * h;
  }
  return { format, width, height, mipLevels, bytesInMemory };
}
