import { imageSize } from 'image-size';
import { PNG } from 'pngjs';
import { describe, expect, it } from 'vitest';
import { countKinds, inspectImage, kindOf, type ImageInfo } from '@/core';
import { drawDds, drawPng } from '@/demo/draw';
import { seeded } from '@/demo/random';

/** The frame of a JPEG up to its size (ITU-T T.81 B.2.2), with an APP0 and a quantisation table in front. */
function jpegHead(width: number, height: number, sof: number): Uint8Array {
  const word = (value: number) => [value >> 8, value & 255];
  const app0 = [0xff, 0xe0, ...word(16), 0x4a, 0x46, 0x49, 0x46, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0];
  const table = [0xff, 0xdb, ...word(67), 0, ...Array.from({ length: 64 }, () => 1)];
  return Uint8Array.from([
    0xff,
    0xd8,
    ...app0,
    ...table,
    0xff,
    sof,
    ...word(17),
    8,
    ...word(height),
    ...word(width),
    3,
    1,
    0x22,
    0,
    2,
    0x11,
    1,
    3,
    0x11,
    1,
    0xff,
    0xda,
    0,
    2,
    0,
    0,
  ]);
}

describe('image headers', () => {
  it('reads PNGs as pngjs and image-size do', () => {
    for (const [width, height] of [
      [1, 1],
      [33, 7],
      [640, 480],
    ] as const) {
      const file = PNG.sync.write(new PNG({ width, height }));
      expect(inspectImage(file)).toEqual({
        format: 'png',
        width,
        height,
        mipLevels: 1,
        bytesInMemory: width * height * 4,
      });
      expect(imageSize(file)).toMatchObject({ width, height });
    }
  });

  it('reads baseline and progressive JPEGs as image-size does', () => {
    for (const sof of [0xc0, 0xc2]) {
      const head = jpegHead(1920, 1080, sof);
      expect(inspectImage(head)).toMatchObject({ format: 'jpeg', width: 1920, height: 1080 });
      expect(imageSize(head)).toMatchObject({ width: 1920, height: 1080 });
    }
  });

  it('reads DDS headers as image-size does, and counts blocks as published', () => {
    const bc1 = drawDds(
      'x',
      'sky',
      [
        [1, 2, 3],
        [4, 5, 6],
        [7, 8, 9],
      ],
      { size: 256, form: 'BC1' },
    );
    expect(imageSize(bc1)).toMatchObject({ width: 256, height: 256 });
    // Microsoft's DDS programming guide: BC1 takes 8 bytes a 4x4 block. All that follows the 128-byte header is
    // texture.
    expect(inspectImage(bc1)).toEqual({
      format: 'dds BC1',
      width: 256,
      height: 256,
      mipLevels: 9,
      bytesInMemory: bc1.length - 128,
    });
    const bc3 = drawDds(
      'x',
      'sky',
      [
        [1, 2, 3],
        [4, 5, 6],
        [7, 8, 9],
      ],
      { size: 128, form: 'BC3' },
    );
    expect(inspectImage(bc3)?.bytesInMemory).toBe(bc3.length - 128);
    // Geometric series: a full mip chain takes 4/3 of its largest level.
    expect((bc1.length - 128) / (256 * 256 * 0.5)).toBeCloseTo(4 / 3, 3);
  });

  it('says nothing of a header that cannot be true: more pixels than any graphics take', () => {
    const dds = (change: (view: DataView) => void): ImageInfo | undefined => {
      const bytes = new Uint8Array(128);
      const view = new DataView(bytes.buffer);
      // DDS_HEADER: magic, its size, height, width, pixel format with its size, a FourCC (Microsoft, DDS_HEADER).
      for (const [at, value] of [
        [0, 0x20534444],
        [4, 124],
        [12, 64],
        [16, 32],
        [76, 32],
        [80, 4],
        [84, 0x31545844],
      ] as const)
        view.setUint32(at, value, true);
      change(view);
      return inspectImage(bytes, 'x.dds');
    };
    expect(dds(() => undefined)).toMatchObject({ format: 'dds BC1', width: 32, height: 64 });
    expect(dds((view) => view.setUint32(76, 0, true))?.format).toBe('dds BC1');
    expect(dds((view) => view.setUint32(16, 65_536, true))).toBeUndefined();
    expect(dds((view) => view.setUint32(12, 0x07070707, true))).toBeUndefined();
    expect(dds((view) => view.setUint32(16, 65_535, true))?.width).toBe(65_535);
    // What is shown of an unknown format are signs that can be read.
    expect(dds((view) => view.setUint32(84, 0x07070707, true))?.format).toBe('dds 32 bit');
    const bits = dds((view) => {
      view.setUint32(80, 0x40, true);
      view.setUint32(88, 0xffffffff, true);
    });
    expect(bits).toMatchObject({ format: 'dds 128 bit', bytesInMemory: 32 * 64 * 16 });
    const png = new Uint8Array(24);
    png.set([
      0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52, 0x7f, 0xff, 0xff, 0xff,
    ]);
    png.set([0, 0, 0, 1], 20);
    expect(inspectImage(png, 'x.png')).toBeUndefined();
  });

  it('says nothing of other bytes, and survives every cut and 2,000 damages', () => {
    expect(inspectImage(new Uint8Array(0))).toBeUndefined();
    expect(inspectImage(new TextEncoder().encode('no picture at all, just a text'))).toBeUndefined();
    const random = seeded(5);
    const samples = [
      drawPng(
        'a',
        'sky',
        [
          [1, 2, 3],
          [4, 5, 6],
          [7, 8, 9],
        ],
        8,
      ),
      jpegHead(10, 20, 0xc0),
      drawDds(
        'x',
        'sky',
        [
          [1, 2, 3],
          [4, 5, 6],
          [7, 8, 9],
        ],
        { size: 8, form: 'BC1' },
      ),
    ];
    for (let i = 0; i < 2000; i++) {
      const sample = (samples[i % 3] as Uint8Array).slice(0, Math.floor(random() * 200));
      if (sample.length > 0) sample[Math.floor(random() * sample.length)] = Math.floor(random() * 256);
      const info = inspectImage(sample);
      if (info) expect(info.bytesInMemory).toBeGreaterThanOrEqual(0);
    }
  });
});

/** Little-endian bytes of a layout: `[value, bytes]` pairs. */
const bytesOf = (...fields: [value: number | string, bytes: number][]): Uint8Array =>
  Uint8Array.from(
    fields.flatMap(([value, bytes]) =>
      typeof value === 'string'
        ? [...value].map((char) => char.charCodeAt(0)).concat(Array<number>(bytes - value.length).fill(0))
        : Array.from({ length: bytes }, (_, i) => Math.floor(value / 256 ** i) % 256),
    ),
  );

describe('the other image formats, against image-size', () => {
  const cases: [name: string, file: Uint8Array, format: string, width: number, height: number][] = [
    // BITMAPFILEHEADER and BITMAPINFOHEADER (Microsoft); a negative height means rows from the top.
    [
      'BMP',
      bytesOf(['BM', 2], [200, 4], [0, 4], [54, 4], [40, 4], [320, 4], [200, 4], [1, 2], [24, 2], [0, 24]),
      'bmp',
      320,
      200,
    ],
    [
      'BMP from the top',
      bytesOf(['BM', 2], [200, 4], [0, 4], [54, 4], [40, 4], [320, 4], [2 ** 32 - 200, 4], [1, 2], [24, 2], [0, 24]),
      'bmp',
      320,
      200,
    ],
    // RFC 9649 2.5 with the frame header of RFC 6386 9.1; 3.4; 2.7.
    [
      'WebP, lossy',
      bytesOf(['RIFF', 4], [100, 4], ['WEBPVP8 ', 8], [80, 4], [0, 3], [0x2a019d, 3], [640, 2], [480, 2], [0, 40]),
      'webp',
      640,
      480,
    ],
    [
      'WebP, lossless',
      bytesOf(['RIFF', 4], [100, 4], ['WEBPVP8L', 8], [80, 4], [0x2f, 1], [(511 + 255 * 2 ** 14) >>> 0, 4], [0, 40]),
      'webp',
      512,
      256,
    ],
    [
      'WebP, extended',
      bytesOf(['RIFF', 4], [100, 4], ['WEBPVP8X', 8], [10, 4], [0, 4], [1023, 3], [767, 3], [0, 40]),
      'webp',
      1024,
      768,
    ],
    // GIF89a, logical screen descriptor.
    ['GIF', bytesOf(['GIF89a', 6], [33, 2], [44, 2], [0, 20]), 'gif', 33, 44],
    // Truevision TGA 2.0, fields 1 to 5.
    [
      'TGA',
      bytesOf([0, 1], [0, 1], [2, 1], [0, 5], [0, 4], [256, 2], [128, 2], [32, 1], [8, 1], [0, 20]),
      'tga',
      256,
      128,
    ],
    [
      'TGA, packed',
      bytesOf([0, 1], [0, 1], [10, 1], [0, 5], [0, 4], [64, 2], [32, 2], [24, 1], [0, 1], [0, 20]),
      'tga',
      64,
      32,
    ],
  ];
  it.each(cases)('%s', (name, file, format, width, height) => {
    expect(inspectImage(file, name.startsWith('TGA') ? 'a.tga' : '')).toEqual({
      format,
      width,
      height,
      mipLevels: 1,
      bytesInMemory: width * height * 4,
    });
    if (name !== 'BMP from the top') expect(imageSize(file)).toMatchObject({ width, height });
  });

  it('KTX 2 (Khronos, KTX 2.0 section 3): block formats with all their levels', () => {
    const ktx = (vk: number, width: number, height: number, levels: number) =>
      bytesOf(
        ['\u00abKTX 20\u00bb\r\n\u001a\n', 12],
        [vk, 4],
        [1, 4],
        [width, 4],
        [height, 4],
        [0, 4],
        [0, 4],
        [1, 4],
        [levels, 4],
        [0, 40],
      );
    expect(inspectImage(ktx(133, 256, 256, 9))).toMatchObject({
      format: 'ktx2 BC1',
      width: 256,
      height: 256,
      mipLevels: 9,
    });
    // A full chain takes about 4/3 of its largest level (geometric series); 8 bytes a 4x4 block for BC1, 16 for BC7.
    expect((inspectImage(ktx(145, 256, 256, 9))?.bytesInMemory ?? 0) / (256 * 256)).toBeCloseTo(4 / 3, 2);
    expect((inspectImage(ktx(133, 256, 256, 9))?.bytesInMemory ?? 0) / (256 * 128)).toBeCloseTo(4 / 3, 2);
    expect(inspectImage(ktx(37, 64, 64, 1))).toMatchObject({ format: 'ktx2 format 37', bytesInMemory: 64 * 64 * 4 });
  });

  it('a TGA without its name is taken only where every field makes sense, and never under another extension', () => {
    const file = cases.find(([name]) => name === 'TGA')?.[1] as Uint8Array;
    expect(inspectImage(file)).toMatchObject({ format: 'tga' });
    expect(inspectImage(file, 'a.bin')).toBeUndefined();
    const odd = file.slice();
    odd[1] = 7;
    expect(inspectImage(odd, 'a.tga')).toBeUndefined();
  });
});

describe('kinds of files', () => {
  it('goes by the extension, in any case', () => {
    expect(['a.PNG', 'b.dds', 'c.wav', 'd.ini', 'e.exe', 'f', '.hidden', 'g.tar.gz'].map(kindOf)).toEqual([
      'picture',
      'texture',
      'sound',
      'settings',
      'program',
      'other',
      'other',
      'archive',
    ]);
  });
  it('counts, most files first', () => {
    expect(
      countKinds([
        { path: 'a.png', size: 1 },
        { path: 'b.wav', size: 5 },
        { path: 'c.png', size: 2 },
      ]),
    ).toEqual([
      { kind: 'picture', files: 2, bytes: 3 },
      { kind: 'sound', files: 1, bytes: 5 },
    ]);
  });
});
