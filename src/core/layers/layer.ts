import type { MadeFile, PlacedFile } from '../placed/placement';
import type { Edit } from '../settings/edits';
import type { PackPath, TargetPath } from '../paths/paths';

/** A merge's own file: computed from what the layers below it hold. */
interface MergedFile {
  target: TargetPath;
  bytes: Uint8Array<ArrayBuffer>;
}

/** A file of the player's own, kept in the vault under its hash. */
export interface OwnFile {
  target: TargetPath;
  sha256: string;
  /** Bytes. */
  size: number;
}

/** One contributor to the game folder, with everything that resolution needs to know of it. */
export type Layer =
  | {
      kind: 'pack';
      id: string;
      name: string;
      packId: string;
      files: readonly PlacedFile[];
      /** Files that the app writes for it. */
      made?: readonly MadeFile[];
      /** Edits that it brings to living files. */
      edits?: readonly { file: TargetPath; edits: readonly Edit[] }[];
    }
  | { kind: 'merge'; id: string; name: string; files: readonly MergedFile[] }
  | { kind: 'own'; id: string; name: string; files: readonly OwnFile[] }
  | { kind: 'edits'; id: string; name: string; file: TargetPath; edits: readonly Edit[] };

/** One layer's claim to a target. */
export interface Provider {
  layer: string;
  packId: string;
  file: PlacedFile;
  /** The content itself, for files that lie in no pack. */
  made?: Uint8Array<ArrayBuffer>;
  /** Set for a file of the player's own, which lies in the vault. */
  kept?: OwnFile;
}

/** What a target should hold: the claims to it from the lowest layer to the topmost; the last one wins. */
export interface OwnedTarget {
  target: TargetPath;
  providers: Provider[];
}

/** What the app writes for a pack, as files of it. */
export const madeProviders = (layer: string, packId: string, made: readonly MadeFile[]): Provider[] =>
  made.map(({ target, inside, text }) => {
    const bytes = new TextEncoder().encode(text);
    return {
      layer,
      packId,
      made: bytes,
      file: {
        path: (inside ?? target) as PackPath,
        size: bytes.length,
        target,
        ...(inside === undefined ? {} : { inside }),
      },
    };
  });

/** Do two entries hold the same bytes, as far as their archives' indexes tell? */
export const sameContent = (a: { size: number; crc32?: number }, b: { size: number; crc32?: number }): boolean =>
  a.size === b.size && a.crc32 !== undefined && a.crc32 === b.crc32;
