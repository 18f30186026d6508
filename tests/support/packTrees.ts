import { expect } from 'vitest';
import { openPack, type OpenPackOptions, type Pack } from '@/core';
import { seeded } from '@/demo/random';
import { blobOf, text } from './bytes';

export const open = (bytes: Uint8Array, name = 'pack.zip', options?: OpenPackOptions): Promise<Pack> =>
  openPack(blobOf(bytes), name, options);

/** Bytes that no packer makes smaller, the same for each seed. */
export const noise = (length: number, seed = 7): Uint8Array => {
  const random = seeded(seed);
  return Uint8Array.from({ length }, () => Math.floor(random() * 256));
};

/** A tree with the odd cases: noise, repetition, nothing at all, names beyond ASCII, deep folders. */
export const TREE: Record<string, Uint8Array> = {
  'Wrapper/assets/noise.bin': noise(120_000),
  'Wrapper/assets/lines.txt': text('the same line again\n'.repeat(9_000)),
  'Wrapper/assets/empty': new Uint8Array(0),
  'Wrapper/größe/日本.txt': text('names beyond ASCII'),
  'Wrapper/one/two/three/four/five/six.ini': text('[a]\r\nb=1\r\n'),
  'zz-last.txt': text('the end'),
};

/** What may come of a damaged archive. */
const DOCUMENTED = [
  'read',
  'damaged',
  'empty',
  'no-files',
  'not-an-archive',
  'unsupported',
  'encrypted',
  'split-volume',
  'unsafe-path',
  'too-large',
];

/** Every outcome is one that the app has words for. @param more those that only this form has */
export const expectDocumented = (outcomes: ReadonlyMap<string, number>, ...more: string[]): void =>
  expect([...outcomes.keys()].filter((code) => ![...DOCUMENTED, ...more].includes(code))).toEqual([]);
