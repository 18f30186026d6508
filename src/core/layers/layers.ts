import { nameKey, type TargetPath } from '../paths/paths';
import type { Edit } from '../settings/edits';
import type { OwnedTargets, Tally, WinnerChange } from './claim';
import { ClaimIndex } from './claims';
import type { Layer, Provider } from './layer';
import { ORIGINAL, PickBook, type Pick } from './rules';

/** An archive of the game with what layers put into it, by key of the path inside, the topmost layer's last. */
export interface InsideTarget {
  target: TargetPath;
  entries: Map<string, Provider & { inside: string }>;
}

/** Whose wish an edit is: a pack's, or, where the layer is one of edits, the player's own. */
interface WishedBy {
  layer: string;
  kind: 'pack' | 'edits';
}

/** A living file with the edits wanted in it, from the lowest layer to the topmost. */
export interface LivingTarget {
  target: TargetPath;
  edits: (Edit & WishedBy)[];
}

/** What should be in the game's folders, file by file, by key of the target. */
export interface Resolution {
  owned: OwnedTargets;
  living: Map<string, LivingTarget>;
  inside: Map<string, InsideTarget>;
  /**
   * For each layer: how many of its files others hide, how many of others it hides. Identical contents are no overlap.
   */
  overlaps: ReadonlyMap<string, Tally>;
}

export const emptyResolution = (): Resolution => resolveLayers([]);

/**
 * Resolves a stack, lowest layer first: desired(target) is what the topmost layer provides, unless a pick says
 * otherwise. Pure.
 */
export const resolveLayers = (stack: readonly Layer[], picks: readonly Pick[] = []): Resolution =>
  new Resolver().resolve(stack, picks).resolution;

/**
 * Resolves one stack after the other. The result is that of `resolveLayers`, whatever came before; the work is only
 * that of what has changed: layers are known by their id and their lists of files by identity. A resolution holds until
 * the next one is asked for.
 */
export class Resolver {
  private readonly claims = new ClaimIndex();

  /** @returns the resolution, and the targets that another layer wins than before */
  resolve(
    stack: readonly Layer[],
    picks: readonly Pick[] = [],
  ): { resolution: Resolution; changed: Iterable<WinnerChange> } {
    const changed = this.claims.update(
      stack.flatMap((layer) => (layer.kind === 'edits' ? [] : [layer])),
      picks,
    );
    const living = new Map<string, LivingTarget>();
    const inside = new Map<string, InsideTarget>();
    const book = new PickBook(picks);
    for (const layer of stack) {
      if (layer.kind === 'edits') addEdits(living, { layer: layer.id, kind: 'edits' }, layer);
      if (layer.kind !== 'pack') continue;
      for (const wished of layer.edits ?? []) addEdits(living, { layer: layer.id, kind: 'pack' }, wished);
      for (const provider of this.claims.insideOf(layer.id)) addInside(inside, provider);
    }
    // What a pick leaves to the game takes neither edits nor files inside.
    for (const map of [living, inside])
      for (const key of [...map.keys()]) if (book.find(key)[0] === ORIGINAL) map.delete(key);
    this.coverEdits(living, stack);
    return { resolution: { owned: this.claims, living, inside, overlaps: this.claims.tallies() }, changed };
  }

  /** A pack that brings a file whole covers what packs below it want to change in it; the player's own edits stand. */
  private coverEdits(living: Resolution['living'], stack: readonly Layer[]): void {
    const rank = new Map(stack.map(({ id }, i) => [id, i]));
    for (const [key, target] of living) {
      const winner = rank.get(this.claims.claim(key)?.winner?.layer ?? '');
      if (winner === undefined) continue;
      const edits = target.edits.filter(({ kind, layer }) => kind === 'edits' || (rank.get(layer) ?? 0) > winner);
      if (edits.length > 0) living.set(key, { ...target, edits });
      else living.delete(key);
    }
  }
}

function addEdits(
  living: Resolution['living'],
  by: WishedBy,
  { file, edits }: { file: TargetPath; edits: readonly Edit[] },
): void {
  const key = nameKey(file);
  const entry = living.get(key) ?? { target: file, edits: [] };
  for (const edit of edits) entry.edits.push({ ...edit, ...by });
  living.set(key, entry);
}

function addInside(inside: Resolution['inside'], provider: Provider): void {
  const { file } = provider;
  const key = nameKey(file.target);
  const archive = inside.get(key) ?? { target: file.target, entries: new Map<string, Provider & { inside: string }>() };
  archive.entries.set(nameKey(file.inside ?? ''), { ...provider, inside: file.inside ?? '' });
  inside.set(key, archive);
}
