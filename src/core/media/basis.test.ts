import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { readTexture, setBasis, type BasisTranscoder } from '@/core';
import { seeded } from '@/demo/random';
import asModule from '../../../scripts/basisAsModule.mjs';
import { BASIS_ETC1S, BASIS_UASTC } from '../../../tests/support/basisFiles';
import { temporaryFolder } from '../../../tests/support/tools';

type Start = (options: { wasmBinary: Uint8Array }) => Promise<BasisTranscoder>;

const require = createRequire(import.meta.url);
const from = path.dirname(require.resolve('three/examples/jsm/libs/basis/basis_transcoder.js'));
const source = () => readFileSync(path.join(from, 'basis_transcoder.js'), 'utf8');

beforeAll(async () => {
  const file = path.join(temporaryFolder(), 'basis.cjs');
  writeFileSync(file, asModule(source()).replace(/^export default .*/m, ''));
  const start = require(file) as Start;
  setBasis(async () => {
    const basis = await start({ wasmBinary: readFileSync(path.join(from, 'basis_transcoder.wasm')) });
    basis.initializeBasis();
    return basis;
  });
});

const corners = async (file: Uint8Array) => {
  const texture = await readTexture(file, 'buoy.ktx2');
  if (texture?.kind !== 'pixels') return undefined;
  const { width, height, pixels } = texture;
  return { width, height, first: [...pixels.slice(0, 4)], last: [...pixels.slice(-4)] };
};

describe('KTX 2 with Basis Universal', () => {
  it('is unpacked to what its own encoder’s `-unpack` makes of it', async () => {
    const size = { width: 32, height: 16 };
    expect(await corners(BASIS_ETC1S)).toEqual({ ...size, first: [200, 59, 18, 255], last: [18, 59, 200, 255] });
    expect(await corners(BASIS_UASTC)).toEqual({ ...size, first: [200, 60, 20, 255], last: [20, 60, 200, 255] });
  });

  it('never throws at damaged files, and unpacks a good one after each', async () => {
    const random = seeded(20261130);
    const pick = (below: number) => Math.floor(random() * below);
    for (const file of [BASIS_ETC1S, BASIS_UASTC])
      for (let round = 0; round < 150; round++) {
        const broken = file.slice(0, round % 3 === 0 ? pick(file.length) : file.length);
        for (let i = 0; i < 1 + (round % 4) && broken.length; i++) broken[pick(broken.length)] = pick(256);
        const texture = await readTexture(broken, 'buoy.ktx2');
        if (texture?.kind === 'pixels') expect(texture.pixels.length).toBe(texture.width * texture.height * 4);
        expect((await corners(file))?.width).toBe(32);
      }
  });

  it('is never made out of text, and another version of the package stops the build', () => {
    expect(asModule(source())).not.toMatch(/newFunc\(Function|\beval\(/);
    expect(() => asModule('var BASIS = 1;')).toThrow('no longer says');
  });

  it('what a file has broken, or what could not be loaded, is not used for the next one', async () => {
    let loads = 0;
    const breaks = {
      initializeBasis: () => undefined,
      KTX2File: class {
        constructor() {
          throw new Error('out of memory');
        }
      } as unknown as BasisTranscoder['KTX2File'],
    };
    for (const load of [() => Promise.resolve(breaks), () => Promise.reject(new Error('not there now'))]) {
      loads = 0;
      setBasis(() => {
        loads++;
        return load();
      });
      for (let i = 0; i < 2; i++) expect(await readTexture(BASIS_ETC1S, 'buoy.ktx2')).toBeUndefined();
      expect(loads).toBe(2);
    }
  });
});
