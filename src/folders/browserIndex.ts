import { z } from 'zod';

/**
 * One line of the index: where a file's bytes lie now (a bundle and the place in it, or as many items as it has
 * pieces), or that it is gone.
 */
export const lineSchema = z.object({
  path: z.string(),
  bundle: z.string().nullable(),
  pieces: z.number().int().positive().optional(),
  from: z.number(),
  size: z.number(),
  modified: z.number(),
});

export type Line = z.infer<typeof lineSchema>;

export type LiveLine = Line & { bundle: string };

/** Where the bytes of a large file lie. */
export type InPieces = Required<Pick<LiveLine, 'bundle' | 'pieces' | 'size'>>;

/** A write or a removal that waits for its turn. */
export interface Waiting {
  path: string;
  content: Uint8Array<ArrayBuffer> | InPieces | undefined;
  done: () => void;
  failed: (error: unknown) => void;
}

/** Index items above this number are written anew as one when the folder is opened. */
export const MANY = 64;

/** A bundle is closed at this many bytes; larger files have no part in any. */
export const BUNDLE = 2 * 1024 * 1024;

/** Bytes of a large file in one item. */
export const PIECE = 4 * 1024 * 1024;

export const pieceKey = (bundle: string, n: number): string => `${bundle}.${n}`;

export const keysOf = ({ bundle, pieces }: Pick<LiveLine, 'bundle' | 'pieces'>): string[] =>
  pieces === undefined ? [bundle] : Array.from({ length: pieces }, (_, n) => pieceKey(bundle, n));

/** Bundles that were read last and are kept at hand, since neighbours are often read together. */
export const AT_HAND = 6;

/** Bytes that go to a bundle. */
export const lengthOf = (content: Waiting['content']): number => (content instanceof Uint8Array ? content.length : 0);

export async function* once(data: Uint8Array): AsyncGenerator<Uint8Array> {
  yield data;
}
