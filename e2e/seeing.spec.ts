import type { Page } from '@playwright/test';
import { zipSync } from 'fflate';
import { drawDds, playTone } from '@/demo/draw';
import { deploy, drop, expect, openDemo, openFile, step, takeFromShelf, test, text } from './support';
import { BASIS_ETC1S, BASIS_UASTC } from '../tests/support/basisFiles';

const main = (page: Page) => page.getByRole('main');
const zipped = (files: Record<string, Uint8Array>): Buffer => Buffer.from(zipSync(files));

/** DDS with the header that has a DXGI_FORMAT (Microsoft, DDS_HEADER_DXT10). */
function bc7(width: number, height: number, blockAt: (row: number) => Uint8Array): Uint8Array {
  const across = Math.ceil(width / 4);
  const blocks = across * Math.ceil(height / 4);
  const file = new Uint8Array(148 + blocks * 16);
  const view = new DataView(file.buffer);
  file.set(text('DDS '));
  [124, 0x1007, height, width, 0, 0, 1].forEach((value, i) => view.setUint32(4 + i * 4, value, true));
  view.setUint32(80, 4, true);
  file.set(text('DX10'), 84);
  [98, 3, 0, 1, 0].forEach((value, i) => view.setUint32(128 + i * 4, value, true));
  for (let i = 0; i < blocks; i++) file.set(blockAt(Math.floor(i / across)), 148 + i * 16);
  return file;
}

/**
 * A BC7 block of one colour (Microsoft, "BC7 Format Mode Reference", mode 6): seven bits of mode, two ends of seven
 * bits for red, green, blue and alpha, a lowest bit for each end, and indices that are all the first end.
 */
function mode6([red, green, blue]: [number, number, number]): Uint8Array {
  let bits = 1n << 6n;
  let at = 7n;
  for (const value of [red, green, blue, 255])
    for (let end = 0; end < 2; end++) {
      bits |= BigInt(value >> 1) << at;
      at += 7n;
    }
  bits |= 3n << at;
  return Uint8Array.from({ length: 16 }, (_, i) => Number((bits >> BigInt(i * 8)) & 255n));
}

/** An uncompressed TGA of one colour, rows from the top (Truevision TGA 2.0). */
const tga = (width: number, height: number, [red, green, blue]: [number, number, number]): Uint8Array =>
  Uint8Array.from([
    ...[0, 0, 2, 0, 0, 0, 0, 0, 0, 0, 0, 0, width, 0, height, 0, 24, 0x20],
    ...Array.from({ length: width * height }, () => [blue, green, red]).flat(),
  ]);

/** A picture on the page as it is drawn: red, green, blue and alpha, rows from the top. */
const drawnAs = (page: Page, name: string) =>
  page.getByRole('img', { name, exact: true }).evaluate(async (element) => {
    const image = element as HTMLImageElement;
    await image.decode();
    const { naturalWidth: width, naturalHeight: height } = image;
    const context = new OffscreenCanvas(width, height).getContext('2d') as OffscreenCanvasRenderingContext2D;
    context.drawImage(image, 0, 0);
    return { width, height, pixels: [...context.getImageData(0, 0, width, height).data] };
  });

/** The size of a picture, and the colours of its first and its last pixel. */
async function cornersOf(page: Page, name: string) {
  const { width, height, pixels } = await drawnAs(page, name);
  return { width, height, first: pixels.slice(0, 4), last: pixels.slice(-4) };
}

/** What this browser's graphics unpack a BC1 file to: rows from the top. */
const unpackedByGraphics = (page: Page, file: Uint8Array, side: number) =>
  page.evaluate(
    ([bytes, size]) => {
      const gl = new OffscreenCanvas(size, size).getContext('webgl2') as WebGL2RenderingContext;
      gl.getExtension('WEBGL_compressed_texture_s3tc');
      const texture = gl.createTexture();
      gl.bindTexture(gl.TEXTURE_2D, texture);
      gl.compressedTexImage2D(gl.TEXTURE_2D, 0, 0x83f1, size, size, 0, Uint8Array.from(bytes));
      const source = (kind: number, words: string) => {
        const shader = gl.createShader(kind) as WebGLShader;
        gl.shaderSource(shader, `#version 300 es\n${words}`);
        gl.compileShader(shader);
        return shader;
      };
      const program = gl.createProgram();
      const corners = 'void main() { gl_Position = vec4(vec2(gl_VertexID & 1, gl_VertexID >> 1) * 4.0 - 1.0, 0, 1); }';
      const colour =
        'precision highp float; uniform sampler2D t; out vec4 c; void main() { c = texelFetch(t, ivec2(gl_FragCoord), 0); }';
      gl.attachShader(program, source(gl.VERTEX_SHADER, corners));
      gl.attachShader(program, source(gl.FRAGMENT_SHADER, colour));
      gl.linkProgram(program);
      gl.useProgram(program);
      gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
      gl.drawArrays(gl.TRIANGLES, 0, 3);
      const pixels = new Uint8Array(size * size * 4);
      gl.readPixels(0, 0, size, size, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
      return [...pixels];
    },
    [[...file.subarray(128, 128 + (side * side) / 2)], side] as const,
  );

test('textures that browsers do not draw are drawn: by packages, and by the graphics where none does', async ({
  page,
}) => {
  await openDemo(page);
  const at = (name: string) => `assets/textures/quay/${name}`;
  const palette = [
    [200, 40, 30],
    [20, 180, 60],
    [30, 60, 220],
  ] as const;
  const drawn = drawDds('quay glow', 'lamp', palette, { size: 64, form: 'BC1' });
  await drop(
    page,
    'Lower Glow.zip',
    zipped({
      [at('glow.dds')]: bc7(20, 12, (row) => mode6(row === 0 ? [255, 65, 1] : [1, 129, 255])),
      [at('mark.tga')]: tga(6, 4, [10, 200, 30]),
    }),
  );
  await expect(page.getByRole('heading', { name: 'Lower Glow', level: 1 })).toBeVisible();
  await drop(page, 'Upper Glow.zip', zipped({ [at('glow.dds')]: drawn, [at('mark.tga')]: tga(6, 4, [200, 10, 30]) }));
  await expect(page.getByRole('heading', { name: 'Upper Glow', level: 1 })).toBeVisible();
  await openFile(page, 'glow.dds');
  await expect
    .poll(() => cornersOf(page, 'Lower Glow'))
    .toEqual({ width: 20, height: 12, first: [255, 65, 1, 255], last: [1, 129, 255, 255] });
  // The package against this browser's own graphics, which nobody of us wrote.
  const [ours, theirs] = [(await drawnAs(page, 'Upper Glow')).pixels, await unpackedByGraphics(page, drawn, 64)];
  expect(ours.length).toBe(theirs.length);
  expect(Math.max(...ours.map((value, i) => Math.abs(value - (theirs[i] ?? -99))))).toBeLessThanOrEqual(6);
  await openFile(page, 'mark.tga');
  await expect
    .poll(() => cornersOf(page, 'Lower Glow'))
    .toEqual({ width: 6, height: 4, first: [10, 200, 30, 255], last: [10, 200, 30, 255] });
  await expect
    .poll(() => cornersOf(page, 'Upper Glow'))
    .toEqual({ width: 6, height: 4, first: [200, 10, 30, 255], last: [200, 10, 30, 255] });
  await page.reload();
  await expect
    .poll(() => cornersOf(page, 'Upper Glow'))
    .toEqual({ width: 6, height: 4, first: [200, 10, 30, 255], last: [200, 10, 30, 255] });
});

test('KTX 2 with Basis Universal is drawn, in both of its forms; a damaged one is not, and nothing else suffers', async ({
  page,
}) => {
  await openDemo(page);
  const at = 'assets/textures/quay/buoy.ktx2';
  const files = {
    'Low Buoy': BASIS_ETC1S,
    'High Buoy': BASIS_UASTC,
    'Torn Buoy': BASIS_ETC1S.slice(0, 250),
  };
  for (const [name, file] of Object.entries(files)) {
    await drop(page, `${name}.zip`, zipped({ [at]: file }));
    await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
  }
  await openFile(page, 'buoy.ktx2');
  await expect(main(page)).toContainText('One of the two cannot be drawn here');
  await page.getByRole('combobox', { name: 'the one side' }).selectOption({ label: 'Low Buoy' });
  await page.getByRole('combobox', { name: 'the other side' }).selectOption({ label: 'High Buoy' });
  const size = { width: 32, height: 16 };
  await expect
    .poll(() => cornersOf(page, 'Low Buoy'))
    .toEqual({ ...size, first: [200, 59, 18, 255], last: [18, 59, 200, 255] });
  await expect
    .poll(() => cornersOf(page, 'High Buoy'))
    .toEqual({ ...size, first: [200, 60, 20, 255], last: [20, 60, 200, 255] });
});

test('two sounds are heard one after the other, and models say what they are', async ({ page }) => {
  await openDemo(page);
  const scene = (materials: number) =>
    text(
      JSON.stringify({
        asset: { version: '2.0' },
        meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
        accessors: [{ count: 36, componentType: 5126, type: 'VEC3' }],
        materials: Array.from({ length: materials }, () => ({})),
      }),
    );
  for (const [name, hertz, materials] of [
    ['Low Horn', 220, 1],
    ['High Horn', 880, 2],
  ] as const) {
    await drop(
      page,
      `${name}.zip`,
      zipped({ 'assets/sounds/horn.wav': playTone(hertz, 1), 'assets/models/buoy.gltf': scene(materials) }),
    );
    await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
  }
  await openFile(page, 'horn.wav');
  const [low, high] = [page.getByLabel('Low Horn', { exact: true }), page.getByLabel('High Horn', { exact: true })];
  for (const one of [low, high])
    await expect.poll(() => one.evaluate((sound) => (sound as HTMLAudioElement).duration)).toBeCloseTo(1, 1);
  const isPaused = (sound: typeof low) => sound.evaluate((element) => (element as HTMLAudioElement).paused);
  await low.evaluate((sound) => {
    (sound as HTMLAudioElement).loop = true;
    return (sound as HTMLAudioElement).play();
  });
  await high.evaluate((sound) => (sound as HTMLAudioElement).play());
  await expect.poll(() => isPaused(low)).toBe(true);
  await openFile(page, 'buoy.gltf');
  await expect(main(page)).toContainText('glTF, 1 mesh, 36 vertices, 12 faces, 1 material');
  await expect(main(page)).toContainText('glTF, 1 mesh, 36 vertices, 12 faces, 2 materials');
});

test('a merged file as a whole: each line with the packs that it comes from, conflicts or not', async ({ page }) => {
  await openDemo(page);
  await takeFromShelf(page, 'Warm Words');
  await takeFromShelf(page, 'Skippers Slang');
  await openFile(page, 'harbour.lang');
  await main(page).getByRole('button', { name: 'Merge what they change' }).click();
  await page.getByText('The whole file, each line with where it comes from').click();
  const whole = page.getByRole('region', { name: 'The whole file' });
  await expect(whole.getByTitle('Warm Words').first()).toBeVisible();
  await expect(whole.getByTitle('Skippers Slang').first()).toBeVisible();
  await page.reload();
  await expect(page.getByText('The whole file, each line with where it comes from')).toBeVisible();
});

async function trial(page: Page): Promise<void> {
  await step(page, 'Check').click();
  const button = main(page).getByRole('button', { name: 'Trial run', exact: true });
  await button.click();
  await expect(page.getByText(/What the game wrote into its log/)).toBeVisible();
  await expect(button).toBeEnabled();
}

test('many lines of one cause are one finding with one cure; each is set aside for itself', async ({ page }) => {
  await openDemo(page);
  const parts = ['porthole', 'cleat', 'anchor', 'lantern', 'compass', 'barrel'];
  await drop(
    page,
    'Copper Fittings.zip',
    zipped({
      'copper-fittings/addon.txt': text('name = Copper Fittings\r\nversion = 1.0\r\n'),
      'copper-fittings/scripts/fit.txt': text(parts.map((part) => `fit copper-${part} hull\r\n`).join('')),
      ...Object.fromEntries(
        parts.map((part) => [`copper-fittings/textures/old/copper-${part}.png`, text(`no picture ${part}`)]),
      ),
    }),
  );
  await expect(page.getByRole('heading', { name: 'Copper Fittings', level: 1 })).toBeVisible();
  await deploy(page);
  await trial(page);
  await page.getByRole('button', { name: 'Add it to the list' }).click();
  await page.waitForURL('**/deploy');
  await deploy(page);
  await trial(page);
  const finding = page.getByRole('alert').filter({ hasText: 'files of “Copper Fittings” in another folder' });
  await expect(finding).toContainText('looks for 6 files');
  await expect(finding).toContainText('copper-fittings/textures/old');
  await expect(finding.getByText(/^Line \d+ of the log: .*copper-porthole\.png/)).toBeVisible();
  // One of them is set aside for itself; the others stay one finding.
  await finding.getByRole('button', { name: /^It is harmless… \(The game misses .*copper-porthole/ }).click();
  await page.getByLabel('Why it is harmless').fill('painted over');
  await page.getByRole('button', { name: 'Set it aside' }).click();
  await expect(finding).toContainText('looks for 5 files');
  await expect(page.getByText('One finding is set aside as harmless')).toBeVisible();
  await page.reload();
  await finding.getByRole('button', { name: 'Put all 5 there' }).click();
  await page.waitForURL('**/deploy');
  await deploy(page);
  await trial(page);
  await expect(finding).toHaveCount(0);
});

test('a long list is gone through with the arrow keys, and the row in focus is read whole', async ({ page }) => {
  await openDemo(page);
  const long = `${'a very long name of a folder/'.repeat(3)}and a name of a file that is long as well, number`;
  await drop(
    page,
    'Long Names.zip',
    zipped(Object.fromEntries(Array.from({ length: 60 }, (_, i) => [`${long} ${i + 100}.txt`, text('x')]))),
  );
  await expect(page.getByRole('heading', { name: 'Long Names', level: 1 })).toBeVisible();
  const list = page.getByRole('table', { name: 'Files in the pack' });
  const row = (number: number) => list.locator(`[aria-rowindex="${number}"]`);
  await list.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowDown');
  await expect(row(5)).toBeFocused();
  await page.keyboard.press('End');
  await expect(list.getByText(/159\.txt$/)).toBeVisible();
  await expect.poll(() => page.evaluate(() => document.activeElement?.textContent)).toContain('159.txt');
  await page.keyboard.press('Home');
  await expect(row(1)).toBeFocused();
});
