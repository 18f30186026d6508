import { PNG } from 'pngjs';
import { seeded, seedOf } from './random';

type Rgb = readonly [number, number, number];
export type Motif = 'planks' | 'water' | 'sky' | 'boat' | 'lamp' | 'rope' | 'stone' | 'sail';

/** Colours of a picture: the ground, the thing, and the accent. */
export type Palette = readonly [Rgb, Rgb, Rgb];

const mix = (a: Rgb, b: Rgb, t: number): Rgb => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];
const shade = (colour: Rgb, by: number): Rgb => [colour[0] * by, colour[1] * by, colour[2] * by];

/** The colour of one point; `u` and `v` run from 0 to 1. */
type Painter = (u: number, v: number, palette: Palette, wobble: number) => Rgb;

const waveAt = (u: number, wobble: number): number => Math.sin((u * 9 + wobble) * 2) * 0.03;

const boat: Painter = (u, v, [ground, thing, accent], wobble) => {
  const hull = v > 0.62 && v < 0.8 && Math.abs(u - 0.5) < 0.4 - (v - 0.62) * 0.7;
  const cabin = v > 0.45 && v <= 0.62 && Math.abs(u - 0.45) < 0.16;
  const funnel = v > 0.28 && v <= 0.45 && Math.abs(u - 0.47) < 0.05;
  if (hull) return v < 0.66 ? accent : thing;
  if (cabin) return [245, 240, 226];
  if (funnel) return accent;
  return v > 0.74 + waveAt(u, wobble) ? mix(ground, [20, 60, 80], 0.6) : ground;
};

const PAINTERS: Record<Motif, Painter> = {
  planks(u, v, [, thing, accent]) {
    const row = Math.floor(v * 6);
    const seam = (v * 6) % 1 < 0.08 || (u * 2 + (row % 2) * 0.5) % 1 < 0.015;
    const grain = Math.sin(u * 40 + row * 17 + Math.sin(u * 9 + row) * 2) * 0.08;
    return seam ? shade(thing, 0.45) : shade(mix(thing, accent, row % 3 === 0 ? 0.18 : 0), 0.95 + grain);
  },
  water: (u, v, [ground, , accent], wobble) =>
    mix(ground, accent, Math.max(0, Math.sin((v * 14 + Math.sin(u * 7 + wobble) * 1.4) * 2)) ** 4 * 0.8),
  sky(u, v, [ground, thing, accent], wobble) {
    const sun = Math.hypot(u - 0.68, v - 0.62) < 0.11;
    return sun ? accent : mix(ground, thing, Math.min(1, v * 1.1 + waveAt(u, wobble)));
  },
  boat,
  lamp(u, v, [ground, thing, accent]) {
    const post = Math.abs(u - 0.5) < 0.035 && v > 0.34;
    const glow = Math.hypot(u - 0.5, v - 0.26);
    return post ? thing : glow < 0.11 ? accent : mix(accent, ground, Math.min(1, glow * 2.2));
  },
  rope(u, v, [ground, thing], wobble) {
    const strand = ((u + v) * 9 + wobble) % 1;
    const isRope = Math.abs(v - 0.5 - waveAt(u, wobble)) < 0.22;
    return isRope ? shade(thing, 0.65 + 0.45 * Math.sin(strand * Math.PI)) : ground;
  },
  stone(u, v, [ground, thing], wobble) {
    const row = Math.floor(v * 5);
    const x = u * 4 + (row % 2) * 0.5;
    const joint = (v * 5) % 1 < 0.09 || x % 1 < 0.07;
    return joint
      ? shade(ground, 0.6)
      : shade(thing, 0.85 + 0.2 * Math.abs(Math.sin(Math.floor(x) * 12.9 + row * 78.2 + wobble)));
  },
  sail(u, v, [ground, thing, accent]) {
    const inside = u > 0.2 + v * 0.1 && u < 0.2 + v * 0.65 && v > 0.1 && v < 0.85;
    return inside ? mix(thing, accent, Math.floor(v * 8) % 2 === 0 ? 0 : 0.8) : ground;
  },
};

/** Draws a picture and packs it as PNG. The same name, motif and colours give the same bytes. */
export function drawPng(name: string, motif: Motif, palette: Palette, size = 64): Uint8Array {
  const png = new PNG({ width: size, height: size });
  const random = seeded(seedOf(name));
  const wobble = random() * 6;
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const colour = PAINTERS[motif]((x + 0.5) / size, (y + 0.5) / size, palette, wobble);
      const noise = 0.96 + random() * 0.08;
      const at = (y * size + x) * 4;
      for (let c = 0; c < 3; c++)
        png.data[at + c] = Math.max(0, Math.min(255, Math.round((colour[c] as number) * noise)));
      png.data[at + 3] = 255;
    }
  return new Uint8Array(PNG.sync.write(png, { deflateLevel: 9 }));
}

/**
 * A block-compressed texture with all its mip levels: `BC1` for 8 bytes a 4x4 block, `BC3` for 16.
 * Layout: Microsoft, DDS_HEADER. The blocks carry a coarse picture in their two colours and grain in their indices.
 */
export function drawDds(
  name: string,
  motif: Motif,
  palette: Palette,
  { size, form }: { size: number; form: 'BC1' | 'BC3' },
): Uint8Array {
  const levels = Math.log2(size) + 1;
  const blockBytes = form === 'BC1' ? 8 : 16;
  const blocksOf = (level: number) => Math.max(1, Math.ceil(size / 2 ** level / 4));
  const bodies = Array.from({ length: levels }, (_, level) => blocksOf(level) ** 2 * blockBytes);
  const file = new Uint8Array(128 + bodies.reduce((sum, body) => sum + body, 0));
  const view = new DataView(file.buffer);
  const u32 = (at: number, value: number) => view.setUint32(at, value, true);
  file.set([0x44, 0x44, 0x53, 0x20]);
  u32(4, 124);
  u32(8, 0x000a1007);
  u32(12, size);
  u32(16, size);
  u32(20, bodies[0] as number);
  u32(28, levels);
  u32(76, 32);
  u32(80, 4);
  file.set(new TextEncoder().encode(form === 'BC1' ? 'DXT1' : 'DXT5'), 84);
  u32(108, 0x00401008);
  const random = seeded(seedOf(name));
  const wobble = random() * 6;
  const to565 = ([r, g, b]: Rgb) =>
    ((Math.min(255, r) >> 3) << 11) | ((Math.min(255, g) >> 2) << 5) | (Math.min(255, b) >> 3);
  let at = 128;
  for (let level = 0; level < levels; level++) {
    const blocks = blocksOf(level);
    for (let y = 0; y < blocks; y++)
      for (let x = 0; x < blocks; x++) {
        const colour = PAINTERS[motif]((x + 0.5) / blocks, (y + 0.5) / blocks, palette, wobble);
        if (form === 'BC3') {
          u32(at, 0xffff);
          u32(at + 4, (random() * 2 ** 32) >>> 0);
          at += 8;
        }
        view.setUint16(at, to565(shade(colour, 0.95 + random() * 0.05)), true);
        view.setUint16(at + 2, to565(shade(colour, 0.7 + random() * 0.1)), true);
        u32(at + 4, (random() * 2 ** 32) >>> 0);
        at += 8;
      }
  }
  return file;
}

/** A short tone as WAV (RIFF, PCM 16 bit, one channel, 11,025 Hz). */
export function playTone(hertz: number, seconds: number): Uint8Array {
  const rate = 11_025;
  const count = Math.round(rate * seconds);
  const file = new Uint8Array(44 + count * 2);
  const view = new DataView(file.buffer);
  const text = (at: number, value: string) => file.set(new TextEncoder().encode(value), at);
  text(0, 'RIFF');
  view.setUint32(4, 36 + count * 2, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * 2, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, 'data');
  view.setUint32(40, count * 2, true);
  for (let i = 0; i < count; i++)
    view.setInt16(
      44 + i * 2,
      Math.sin((i / rate) * hertz * 2 * Math.PI) * 12_000 * Math.sin((i / count) * Math.PI),
      true,
    );
  return file;
}
