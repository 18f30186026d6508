import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { deflateSync } from 'node:zlib';
import { KHR_SUPERCOMPRESSION_ZLIB, createDefaultContainer, read, write, type KTX2Container } from 'ktx-parse';
import { PNG } from 'pngjs';
import { describe, expect, it } from 'vitest';
import { readTexture } from '@/core';
import { seeded } from '@/demo/random';
import { runTool, temporaryFolder } from '../../../tests/support/tools';
import type { Texture } from './unpackTexture';

const random = seeded(20261129);
const bytes = (count: number): Uint8Array => Uint8Array.from({ length: count }, () => Math.floor(random() * 256));

/** DDS_HEADER as Microsoft publishes it; `format` is a FourCC, a DXGI_FORMAT, or bits with masks. */
function ddsFile(
  { width, height, levels = 1 }: { width: number; height: number; levels?: number },
  format: string | number | { bits: number; masks: number[]; flags: number },
  body: Uint8Array,
): Uint8Array {
  const head = new Uint8Array(typeof format === 'number' ? 148 : 128);
  const view = new DataView(head.buffer);
  const put = (at: number, value: number) => view.setUint32(at, value, true);
  head.set([0x44, 0x44, 0x53, 0x20]);
  [124, 0x1007, height, width, 0, 0, levels].forEach((value, i) => put(4 + i * 4, value));
  put(76, 32);
  if (typeof format === 'object') {
    put(80, format.flags);
    put(88, format.bits);
    format.masks.forEach((mask, i) => put(92 + i * 4, mask));
  } else {
    put(80, 4);
    head.set(new TextEncoder().encode(typeof format === 'string' ? format : 'DX10'), 84);
    if (typeof format === 'number') [format, 3, 0, 1, 0].forEach((value, i) => put(128 + i * 4, value));
  }
  const file = new Uint8Array(head.length + body.length);
  file.set(head);
  file.set(body, head.length);
  return file;
}

const expand = (colour: number): number[] => [
  ((colour >> 11) * 255) / 31,
  (((colour >> 5) & 63) * 255) / 63,
  ((colour & 31) * 255) / 31,
];

/** One colour of a BC1 block (Microsoft, "Block Compression"): two colours, and two between them. */
function colourOf(block: Uint8Array, texel: number, always4: boolean): number[] {
  const view = new DataView(block.buffer, block.byteOffset, 8);
  const [first, second] = [view.getUint16(0, true), view.getUint16(2, true)];
  const [a, b] = [expand(first), expand(second)];
  const mixed = (part: number) => a.map((value, i) => value * (1 - part) + (b[i] ?? 0) * part);
  const index = (view.getUint32(4, true) >>> (texel * 2)) & 3;
  if (first > second || always4) return [...mixed([0, 1, 1 / 3, 2 / 3][index] ?? 0), 255];
  return index === 3 ? [0, 0, 0, 0] : [...mixed([0, 1, 1 / 2][index] ?? 0), 255];
}

/** One value of a BC4 block (same source): two values and six between them, or four between them, 0 and 255. */
function valueOf(block: Uint8Array, texel: number): number {
  const [a = 0, b = 0] = block;
  let bits = 0n;
  for (let i = 7; i >= 2; i--) bits = (bits << 8n) | BigInt(block[i] ?? 0);
  const index = Number((bits >> BigInt(texel * 3)) & 7n);
  if (index < 2) return index === 0 ? a : b;
  if (a > b) return (a * (8 - index) + b * (index - 1)) / 7;
  return index > 5 ? (index === 6 ? 0 : 255) : (a * (6 - index) + b * (index - 1)) / 5;
}

/** Every pixel is what `of` says of its block and its place in it, but for rounding. */
function expectBlocks(
  texture: Texture | undefined,
  { width, height }: { width: number; height: number },
  body: Uint8Array,
  of: (block: Uint8Array, texel: number) => number[],
): void {
  if (texture?.kind !== 'pixels') throw new Error('no pixels');
  expect([texture.width, texture.height, texture.pixels.length]).toEqual([width, height, width * height * 4]);
  const size = body.length / (Math.ceil(width / 4) * Math.ceil(height / 4));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const number = (y >> 2) * Math.ceil(width / 4) + (x >> 2);
      const wanted = of(body.subarray(number * size, (number + 1) * size), (y & 3) * 4 + (x & 3));
      const found = [...texture.pixels.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)];
      found.forEach((value, i) => expect(Math.abs(value - (wanted[i] ?? -9)), `${x}, ${y}`).toBeLessThanOrEqual(1));
    }
}

const SIZES = [
  { width: 16, height: 12 },
  { width: 5, height: 7 },
  { width: 1, height: 1 },
];

describe('textures of blocks are unpacked as published', () => {
  const cases: [name: string, format: string | number, size: number, of: (b: Uint8Array, t: number) => number[]][] = [
    ['BC1', 'DXT1', 8, (block, texel) => colourOf(block, texel, false)],
    ['BC1 by number', 71, 8, (block, texel) => colourOf(block, texel, false)],
    [
      'BC2',
      'DXT3',
      16,
      (block, texel) => [
        ...colourOf(block.subarray(8), texel, true).slice(0, 3),
        (((block[texel >> 1] ?? 0) >> ((texel & 1) * 4)) & 15) * 17,
      ],
    ],
    [
      'BC3',
      'DXT5',
      16,
      (block, texel) => [...colourOf(block.subarray(8), texel, true).slice(0, 3), valueOf(block, texel)],
    ],
    ['BC4', 'ATI1', 8, (block, texel) => [...Array<number>(3).fill(valueOf(block, texel)), 255]],
    ['BC5', 83, 16, (block, texel) => [valueOf(block, texel), valueOf(block.subarray(8), texel), 0, 255]],
  ];
  for (const [name, format, size, of] of cases)
    it(name, async () => {
      for (const side of SIZES) {
        const body = bytes(Math.ceil(side.width / 4) * Math.ceil(side.height / 4) * size);
        expectBlocks(await readTexture(ddsFile(side, format, body), 'a.dds'), side, body, of);
      }
    });

  it('those that no package unpacks are handed on as they are', async () => {
    const body = bytes(4 * 16);
    expect(await readTexture(ddsFile({ width: 8, height: 8 }, 98, body), 'a.dds')).toEqual({
      kind: 'blocks',
      format: 'BC7',
      width: 8,
      height: 8,
      data: body,
    });
  });

  it('of a large one the level that is wanted', async () => {
    const side = { width: 64, height: 32, levels: 7 };
    const levels = [128, 32, 8, 2, 1, 1, 1].map((blocks) => bytes(blocks * 8));
    const file = ddsFile(side, 'DXT1', Uint8Array.from(levels.flatMap((level) => [...level])));
    const small = await readTexture(file, 'a.dds', 16);
    expectBlocks(small, { width: 16, height: 8 }, levels[2] as Uint8Array, (block, texel) =>
      colourOf(block, texel, false),
    );
  });
});

describe('textures without blocks', () => {
  const pixelsOf = (texture: Texture | undefined): number[] => (texture?.kind === 'pixels' ? [...texture.pixels] : []);
  const one = { width: 2, height: 1 };
  it('by the masks of their colours', async () => {
    const masks = (bits: number, all: number[], flags = 0x41) => ({ bits, masks: all, flags });
    const bgra = masks(32, [0xff0000, 0xff00, 0xff, 0xff000000]);
    const file = (format: Parameters<typeof ddsFile>[1], body: number[]) =>
      readTexture(ddsFile(one, format, Uint8Array.from(body)), 'a.dds').then(pixelsOf);
    expect(await file(bgra, [3, 2, 1, 4, 30, 20, 10, 40])).toEqual([1, 2, 3, 4, 10, 20, 30, 40]);
    expect(await file(28, [1, 2, 3, 4, 10, 20, 30, 40])).toEqual([1, 2, 3, 4, 10, 20, 30, 40]);
    expect(await file(masks(24, [0xff0000, 0xff00, 0xff, 0], 0x40), [3, 2, 1, 30, 20, 10])).toEqual([
      1, 2, 3, 255, 10, 20, 30, 255,
    ]);
    // 5, 6 and 5 bits: all red; all green.
    expect(await file(masks(16, [0xf800, 0x7e0, 0x1f, 0], 0x40), [0x00, 0xf8, 0xe0, 0x07])).toEqual([
      255, 0, 0, 255, 0, 255, 0, 255,
    ]);
    expect(await file(masks(8, [0xff, 0, 0, 0], 0x20000), [7, 200])).toEqual([7, 7, 7, 255, 200, 200, 200, 255]);
  });

  it('KTX 2 as its own writer writes it, packed too', async () => {
    const body = Uint8Array.from([1, 2, 3, 4, 10, 20, 30, 40]);
    const container: KTX2Container = {
      ...createDefaultContainer(),
      vkFormat: 37,
      typeSize: 1,
      pixelWidth: 2,
      pixelHeight: 1,
      levels: [{ levelData: body, uncompressedByteLength: body.length }],
    };
    expect(pixelsOf(await readTexture(write(container), 'a.ktx2'))).toEqual([...body]);
    const packed = deflateSync(body);
    const zlib: KTX2Container = {
      ...container,
      supercompressionScheme: KHR_SUPERCOMPRESSION_ZLIB,
      levels: [{ levelData: packed, uncompressedByteLength: body.length }],
    };
    expect(read(write(zlib)).supercompressionScheme).toBe(KHR_SUPERCOMPRESSION_ZLIB);
    expect(pixelsOf(await readTexture(write(zlib), 'a.ktx2'))).toEqual([...body]);
    const zstd: KTX2Container = {
      ...container,
      supercompressionScheme: 2,
      levels: [{ levelData: new Uint8Array(runZstd(body)), uncompressedByteLength: body.length }],
    };
    expect(pixelsOf(await readTexture(write(zstd), 'a.ktx2'))).toEqual([...body]);
  });

  it('TGA: from the bottom or the top, plain or in runs, of colours, greys or a palette', async () => {
    // Truevision TGA 2.0: no id, palette or not, kind, palette's length and bits, size, bits, descriptor (0x20: from
    // the top).
    const file = (kind: number, bits: number, descriptor: number, body: number[], palette: number[] = []) =>
      readTexture(
        Uint8Array.from([
          ...[0, palette.length > 0 ? 1 : 0, kind, 0, 0, palette.length / 3, 0, palette.length > 0 ? 24 : 0],
          ...[0, 0, 0, 0, 2, 0, 2, 0, bits, descriptor],
          ...palette,
          ...body,
        ]),
        'a.tga',
      ).then(pixelsOf);
    const blue = [255, 0, 0];
    const red = [0, 0, 255];
    const [r, b] = [
      [255, 0, 0, 255],
      [0, 0, 255, 255],
    ];
    const redOverBlue = [...r, ...r, ...b, ...b];
    expect(await file(2, 24, 0x20, [...red, ...red, ...blue, ...blue])).toEqual(redOverBlue);
    expect(await file(2, 24, 0, [...blue, ...blue, ...red, ...red])).toEqual(redOverBlue);
    expect(await file(10, 24, 0x20, [0x81, ...red, 0x01, ...blue, ...blue])).toEqual(redOverBlue);
    expect(await file(1, 8, 0x20, [1, 1, 0, 0], [...blue, ...red])).toEqual(redOverBlue);
    expect(await file(3, 8, 0x20, [9, 9, 9, 9])).toEqual([9, 9, 9, 255, 9, 9, 9, 255, 9, 9, 9, 255, 9, 9, 9, 255]);
    expect(await file(2, 32, 0x28, [3, 2, 1, 77, 3, 2, 1, 77, 3, 2, 1, 77, 3, 2, 1, 77])).toEqual([
      1, 2, 3, 77, 1, 2, 3, 77, 1, 2, 3, 77, 1, 2, 3, 77,
    ]);
  });

  it('no picture where there is none, after every cut, and after 2,000 damages', async () => {
    const side = { width: 8, height: 8 };
    const files: [Uint8Array, string][] = [
      [ddsFile(side, 'DXT5', bytes(64)), 'a.dds'],
      [ddsFile(side, { bits: 32, masks: [0xff, 0xff00, 0xff0000, 0], flags: 0x40 }, bytes(256)), 'a.dds'],
      [Uint8Array.from([0, 0, 10, 0, 0, 0, 0, 0, 0, 0, 0, 0, 8, 0, 8, 0, 24, 0, ...bytes(200)]), 'a.tga'],
    ];
    for (const [file, name] of files) {
      expect(await readTexture(file.subarray(0, file.length - 60), name)).toSatisfy(
        (found: Texture | undefined) => found === undefined || name === 'a.tga',
      );
      for (let i = 0; i < 700; i++) {
        const damaged = file.slice(0, Math.floor(random() * file.length) + 1);
        for (let hit = 0; hit < 3; hit++) damaged[Math.floor(random() * damaged.length)] = Math.floor(random() * 256);
        const found = await readTexture(damaged, name);
        if (found?.kind === 'pixels') expect(found.pixels.length).toBe(found.width * found.height * 4);
        if (found) expect(Math.max(found.width, found.height)).toBeLessThanOrEqual(4096);
      }
    }
  });
});

function runZstd(data: Uint8Array): Buffer {
  const folder = temporaryZstd;
  writeFileSync(path.join(folder, 'a'), data);
  runTool('bsdtar', ['--format=raw', '--zstd', '-cf', path.join(folder, 'a.zst'), '-C', folder, 'a']);
  return readFileSync(path.join(folder, 'a.zst'));
}
const temporaryZstd = temporaryFolder();

const isThere = spawnSync('convert', ['-version']).stdout?.toString().includes('ImageMagick') ?? false;

describe.skipIf(!isThere)('textures that ImageMagick wrote are drawn as ImageMagick reads them', () => {
  const folder = temporaryFolder();
  for (const [name, how] of [
    ['a.dds', ['-define', 'dds:compression=dxt1']],
    ['b.dds', ['-define', 'dds:compression=dxt5']],
    ['c.dds', ['-define', 'dds:compression=none']],
    ['a.tga', ['-compress', 'rle']],
    ['b.tga', ['-compress', 'none']],
  ] as const)
    it(`${name} ${how.join(' ')}`, async () => {
      const file = path.join(folder, name);
      runTool('convert', ['-size', '36x20', 'gradient:red-blue', '-swirl', '90', ...how, file]);
      runTool('convert', [file, '-auto-orient', `PNG32:${file}.png`]);
      const wanted = PNG.sync.read(readFileSync(`${file}.png`)).data;
      const found = await readTexture(readFileSync(file), name);
      const pixels = found?.kind === 'pixels' ? found.pixels : [];
      expect(pixels.length).toBe(wanted.length);
      // A third and two thirds of a colour are rounded in different ways.
      expect(Math.max(...[...wanted].map((value, i) => Math.abs(value - (pixels[i] ?? -9))))).toBeLessThanOrEqual(6);
    });
});
