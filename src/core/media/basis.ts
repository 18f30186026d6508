/** The part of the transcoder's interface that is used (Basis Universal, `transcoder/basisu_transcoder.h`). */
interface Ktx2File {
  isValid(): boolean | number;
  startTranscoding(): boolean | number;
  getImageLevelInfo(level: number, layer: number, face: number): { origWidth: number; origHeight: number };
  getImageTranscodedSizeInBytes(level: number, layer: number, face: number, format: number): number;
  transcodeImage(
    into: Uint8Array,
    level: number,
    layer: number,
    face: number,
    format: number,
    flags: number,
    channel0: number,
    channel1: number,
  ): boolean | number;
  close(): void;
  delete(): void;
}
export interface BasisTranscoder {
  initializeBasis(): void;
  KTX2File: new (data: Uint8Array) => Ktx2File;
}

/** Red, green, blue and alpha, a byte each. */
const RGBA32 = 13;

let load: (() => Promise<BasisTranscoder>) | undefined;
let loaded: Promise<BasisTranscoder> | undefined;

/** Says where the transcoder comes from. It is loaded with the first texture that needs it. */
export function setBasis(from: () => Promise<BasisTranscoder>): void {
  load = from;
  loaded = undefined;
}

/**
 * Unpacks a KTX 2 with Basis Universal (ETC1S or UASTC).
 *
 * @param skipped levels that are left out, the largest first
 * @returns undefined where it is damaged, or nothing is there that unpacks it
 * @throws whatever the transcoder throws at damaged files
 */
export async function transcodeBasis(
  data: Uint8Array,
  skipped: number,
): Promise<{ width: number; height: number; pixels: Uint8ClampedArray<ArrayBuffer> } | undefined> {
  if (!load) return undefined;
  loaded ??= load();
  try {
    const { KTX2File } = await loaded;
    return transcode(new KTX2File(data), skipped);
  } catch (error) {
    // What a damaged file broke, or what could not be loaded now, is not used for the next one.
    loaded = undefined;
    throw error;
  }
}

function transcode(file: Ktx2File, skipped: number) {
  try {
    if (!file.isValid() || !file.startTranscoding()) return undefined;
    const { origWidth: width, origHeight: height } = file.getImageLevelInfo(skipped, 0, 0);
    const pixels = new Uint8Array(file.getImageTranscodedSizeInBytes(skipped, 0, 0, RGBA32));
    if (pixels.length !== width * height * 4 || !file.transcodeImage(pixels, skipped, 0, 0, RGBA32, 0, -1, -1))
      return undefined;
    return { width, height, pixels: new Uint8ClampedArray(pixels) };
  } finally {
    file.close();
    file.delete();
  }
}
