import type { PlacedFile } from '../placement/placement';
import type { Edit } from '../settings/edits';
import { nameKey, type TargetPath } from '../paths/paths';

/** One contributor to the game folder, with everything that resolution needs to know of it. */
export type Layer =
  | { kind: 'pack'; id: string; name: string; packId: string; files: readonly PlacedFile[] }
  | { kind: 'edits'; id: string; name: string; file: TargetPath; edits: readonly Edit[] };

/** One layer's claim to a target. */
export interface Provider {
  layer: string;
  packId: string;
  file: PlacedFile;
}

/** What a target should hold: the claims to it from the lowest layer to the topmost; the last one wins. */
export interface OwnedTarget {
  target: TargetPath;
  providers: Provider[];
}

/** A living file with the edits wanted in it, from the lowest layer to the topmost. */
export interface LivingTarget {
  target: TargetPath;
  edits: (Edit & { layer: string })[];
}

/** What should be in the game's folders, file by file, by key of the target. */
export interface Resolution {
  owned: Map<string, OwnedTarget>;
  living: Map<string, LivingTarget>;
}

/** Resolves a stack, lowest layer first: desired(target) is what the topmost layer provides. Pure. */
export function resolveLayers(stack: readonly Layer[]): Resolution {
  const owned = new Map<string, OwnedTarget>();
  const living = new Map<string, LivingTarget>();
  for (const layer of stack) {
    if (layer.kind === 'edits') {
      const key = nameKey(layer.file);
      const entry = living.get(key) ?? { target: layer.file, edits: [] };
      entry.edits.push(...layer.edits.map((edit) => ({ ...edit, layer: layer.id })));
      living.set(key, entry);
      continue;
    }
    for (const file of layer.files) {
      const key = nameKey(file.target);
      const provider: Provider = { layer: layer.id, packId: layer.packId, file };
      const entry = owned.get(key);
      if (!entry) owned.set(key, { target: file.target, providers: [provider] });
      else if (entry.providers.at(-1)?.layer === layer.id) entry.providers[entry.providers.length - 1] = provider;
      else entry.providers.push(provider);
    }
  }
  return { owned, living };
}

/** Do two entries hold the same bytes, as far as their archives' indexes tell? */
export const sameContent = (a: { size: number; crc32?: number }, b: { size: number; crc32?: number }): boolean =>
  a.size === b.size && a.crc32 !== undefined && a.crc32 === b.crc32;

/** For each layer: how many of its files others hide, how many of others it hides. Identical contents are no overlap. */
export function countOverlaps({ owned }: Resolution): Map<string, { wins: number; loses: number }> {
  const counts = new Map<string, { wins: number; loses: number }>();
  const of = (layer: string) => {
    const known = counts.get(layer) ?? { wins: 0, loses: 0 };
    counts.set(layer, known);
    return known;
  };
  for (const { providers } of owned.values()) {
    const winner = providers.at(-1);
    if (!winner || providers.length === 1) continue;
    const hidden = providers.slice(0, -1).filter((other) => !sameContent(other.file, winner.file));
    for (const other of hidden) of(other.layer).loses++;
    if (hidden.length > 0) of(winner.layer).wins++;
  }
  return counts;
}
