import { imageSize } from 'image-size';
import { PNG } from 'pngjs';
import { describe, expect, it } from 'vitest';
import { countKinds, inspectImage, kindOf } from '@/core';
import { drawDds, drawPng } from '@/demo/draw';
import { seeded } from '@/demo/random';

/** The frame of a JPEG up to its size (ITU-T T.81 B.2.2), with an APP0 and a quantisation table in front. */
function jpegHead(width: number, height: number, sof: number): Uint8Array {
  const word = (value: number) => [value >> 8, value & 255];
  const app0 = [0xff, 0xe0, ...word(16), 0x4a, 0x46, 0x49, 0x46, 0, 1, 1, 0, 0, 1, 0, 1, 0, 0];
  const table = [0xff, 0xdb, ...word(67), 0, ...Array.from({ length: 64 }, () => 1)];
  return Uint8Array.from([0xff, 0xd8, ...app0, ...table, 0xff, sof, ...word(17), 8, ...word(height), ...word(width), 3, 1, 0x22, 0, 2, 0x11, 1, 3, 0x11, 1, 0xff, 0xda, 0, 2, 0, 0]);
}

describe('image headers', () => {
  it('reads PNGs as pngjs and image-size do', () => {
    for (const [width, height] of [[1, 1], [33, 7], [640, 480]] as const) {
      const file = PNG.sync.write(new PNG({ width, height }));
      expect(inspectImage(file)).toEqual({ format: 'png', width, height, mipLevels: 1, bytesInMemory: width * height * 4 });
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
    const bc1 = drawDds('x', 'sky', [[1, 2, 3], [4, 5, 6], [7, 8, 9]], 256, 'BC1');
    expect(imageSize(bc1)).toMatchObject({ width: 256, height: 256 });
    // Microsoft's DDS programming guide: BC1 takes 8 bytes a 4x4 block. All that follows the 128-byte header is texture.
    expect(inspectImage(bc1)).toEqual({ format: 'dds BC1', width: 256, height: 256, mipLevels: 9, bytesInMemory: bc1.length - 128 });
    const bc3 = drawDds('x', 'sky', [[1, 2, 3], [4, 5, 6], [7, 8, 9]], 128, 'BC3');
    expect(inspectImage(bc3)?.bytesInMemory).toBe(bc3.length - 128);
    // Geometric series: a full mip chain takes 4/3 of its largest level.
    expect((bc1.length - 128) / (256 * 256 * 0.5)).toBeCloseTo(4 / 3, 3);
  });

  it('says nothing of other bytes, and survives every cut and 2,000 damages', () => {
    expect(inspectImage(new Uint8Array(0))).toBeUndefined();
    expect(inspectImage(new TextEncoder().encode('no picture at all, just a text'))).toBeUndefined();
    const random = seeded(5);
    const samples = [drawPng('a', 'sky', [[1, 2, 3], [4, 5, 6], [7, 8, 9]], 8), jpegHead(10, 20, 0xc0), drawDds('x', 'sky', [[1, 2, 3], [4, 5, 6], [7, 8, 9]], 8, 'BC1')];
    for (let i = 0; i < 2000; i++) {
      const sample = (samples[i % 3] as Uint8Array).slice(0, Math.floor(random() * 200));
      if (sample.length > 0) sample[Math.floor(random() * sample.length)] = Math.floor(random() * 256);
      const info = inspectImage(sample);
      if (info) expect(info.bytesInMemory).toBeGreaterThanOrEqual(0);
    }
  });
});

describe('kinds of files', () => {
  it('goes by the extension, in any case', () => {
    expect(['a.PNG', 'b.dds', 'c.wav', 'd.ini', 'e.exe', 'f', '.hidden', 'g.tar.gz'].map(kindOf)).toEqual(['picture', 'texture', 'sound', 'settings', 'program', 'other', 'other', 'archive']);
  });
  it('counts, most files first', () => {
    expect(countKinds([{ path: 'a.png', size: 1 }, { path: 'b.wav', size: 5 }, { path: 'c.png', size: 2 }])).toEqual([{ kind: 'picture', files: 2, bytes: 3 }, { kind: 'sound', files: 1, bytes: 5 }]);
  });
});
