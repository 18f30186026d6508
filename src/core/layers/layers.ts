import type { MadeFile, PlacedFile } from '../placement/placement';
import type { Edit } from '../settings/edits';
import { nameKey, type PackPath, type TargetPath } from '../paths/paths';

/** One contributor to the game folder, with everything that resolution needs to know of it. */
export type Layer =
  | {
      kind: 'pack'; id: string; name: string; packId: string;
      files: readonly PlacedFile[];
      /** Files that the app writes for it. */
      made?: readonly MadeFile[];
      /** Edits that it brings to living files. */
      edits?: readonly { file: TargetPath; edits: readonly Edit[] }[];
    }
  | { kind: 'edits'; id: string; name: string; file: TargetPath; edits: readonly Edit[] };

/** One layer's claim to a target. */
export interface Provider {
  layer: string;
  packId: string;
  file: PlacedFile;
  /** The content itself, for files that lie in no pack. */
  text?: string;
}

/** What a target should hold: the claims to it from the lowest layer to the topmost; the last one wins. */
export interface OwnedTarget {
  target: TargetPath;
  providers: Provider[];
}

/** An archive of the game with what layers put into it, by key of the path inside, the topmost layer's last. */
export interface InsideTarget {
  target: TargetPath;
  entries: Map<string, Provider & { inside: string }>;
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
  inside: Map<string, InsideTarget>;
}

export const emptyResolution = (): Resolution => ({ owned: new Map(), living: new Map(), inside: new Map() });

/** Resolves a stack, lowest layer first: desired(target) is what the topmost layer provides. Pure. */
export function resolveLayers(stack: readonly Layer[]): Resolution {
  const resolution = emptyResolution();
  for (const layer of stack) {
    if (layer.kind === 'edits') {
      addEdits(resolution, layer.id, layer.file, layer.edits);
      continue;
    }
    for (const { file, edits } of layer.edits ?? []) addEdits(resolution, layer.id, file, edits);
    for (const file of layer.files) add(resolution, { layer: layer.id, packId: layer.packId, file });
    for (const { target, inside, text } of layer.made ?? [])
      add(resolution, { layer: layer.id, packId: layer.packId, text, file: { path: (inside ?? target) as PackPath, size: new TextEncoder().encode(text).length, target, ...(inside === undefined ? {} : { inside }) } });
  }
  return resolution;
}

function addEdits({ living }: Resolution, layer: string, file: TargetPath, edits: readonly Edit[]): void {
  const key = nameKey(file);
  const entry = living.get(key) ?? { target: file, edits: [] };
  for (const edit of edits) entry.edits.push({ ...edit, layer });
  living.set(key, entry);
}

function add({ owned, inside }: Resolution, provider: Provider): void {
  const { file, layer } = provider;
  const key = nameKey(file.target);
  if (file.inside !== undefined) {
    const archive = inside.get(key) ?? { target: file.target, entries: new Map<string, Provider & { inside: string }>() };
    archive.entries.set(nameKey(file.inside), { ...provider, inside: file.inside });
    inside.set(key, archive);
    return;
  }
  const entry = owned.get(key);
  if (!entry) owned.set(key, { target: file.target, providers: [provider] });
  else if (entry.providers.at(-1)?.layer === layer) entry.providers[entry.providers.length - 1] = provider;
  else entry.providers.push(provider);
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
