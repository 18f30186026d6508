import type { BasisTranscoder } from '@/core';

/** Loads the transcoder of Basis Universal: the package brings it, compiled to WebAssembly. */
export async function loadBasis(): Promise<BasisTranscoder> {
  const { default: start } = await import('three/examples/jsm/libs/basis/basis_transcoder.js');
  const file = await fetch(new URL('three/examples/jsm/libs/basis/basis_transcoder.wasm', import.meta.url));
  const basis = await start({ wasmBinary: await file.arrayBuffer() });
  basis.initializeBasis();
  return basis;
}
