declare module 'decode-dxt' {
  /** Unpacks blocks to red, green, blue and alpha; width and height are multiples of 4. */
  export default function decode(data: DataView, width: number, height: number, format: string): Uint8Array;
}
declare module 'tga-js' {
  interface Pixels {
    width: number;
    height: number;
    data: Uint8ClampedArray<ArrayBuffer>;
  }
  export default class Tga {
    header: { width: number; height: number; pixelDepth: number };
    load(file: Uint8Array): void;
    getImageData(into: Pixels): Pixels;
  }
}
declare module 'three/examples/jsm/libs/basis/basis_transcoder.js' {
  import type { BasisTranscoder } from '@/core';
  const start: (options: { wasmBinary: ArrayBuffer }) => Promise<BasisTranscoder>;
  export default start;
}
