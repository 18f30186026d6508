import { nameKey, type TargetPath } from '../paths/paths';
import { figure, oneOr } from '../words';

/** What taking changed files as new originals would break: who lies over them, and what is computed from them. */
export interface Over {
  /** The deployed files that somebody changed, and the layers that had brought them. */
  drifted: readonly { target: TargetPath; layer: string }[];
  merges: readonly { name: string; target: TargetPath }[];
  nameOf(layer: string): string;
}

/** The same in sentences: one for each layer, then one for each merge. */
export function updateEffects({ drifted, merges, nameOf }: Over): string[] {
  const byLayer = new Map<string, number>();
  for (const { layer } of drifted) if (layer !== 'own') byLayer.set(layer, (byLayer.get(layer) ?? 0) + 1);
  const keys = new Set(drifted.map(({ target }) => nameKey(target)));
  const files = (count: number) => oneOr(count, 'one of these files', `${figure(count)} of these files`);
  return [
    ...Array.from(
      byLayer,
      ([layer, count]) =>
        `“${nameOf(layer)}” lies over ${files(count)}: if the game was updated, it may be made for the older version.`,
    ),
    ...merges
      .filter(({ target }) => keys.has(nameKey(target)))
      .map(({ name }) => `“${name}” is computed again on the new original, and decisions in it may no longer fit.`),
  ];
}
