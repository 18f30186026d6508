import type { PackLayer, PackNote, Stack } from './stack';

/** What is known of a download by its note. */
type Known = Pick<PackNote, 'id' | 'file' | 'size' | 'sha256'>;

/**
 * A stack without packs whose files are not at hand; what was decided about them waits for the files. Picks and rules
 * that name them stay: they hold again when the packs are back.
 */
export function withoutFiles(stack: Stack, lost: ReadonlySet<string>, notes: readonly Known[]): Stack {
  const waiting = stack.layers.flatMap((layer, i): Stack['waiting'] => {
    const note = layer.kind === 'pack' && lost.has(layer.id) && notes.find(({ id }) => id === layer.packId);
    if (layer.kind !== 'pack' || !note) return [];
    const below = stack.layers[i - 1]?.id;
    const { file, size, sha256 } = note;
    return [{ layer, ...(below === undefined ? {} : { below }), file, size, sha256 }];
  });
  const ids = new Set(waiting.map(({ layer }) => layer.id));
  return {
    ...stack,
    layers: stack.layers.filter(({ id }) => !lost.has(id)),
    waiting: [...stack.waiting.filter(({ layer }) => !ids.has(layer.id)), ...waiting],
  };
}

/**
 * A stack with a pack again whose files came: as it was placed, right above what it lay on, or on top of the packs
 * where that is gone.
 *
 * @param packId under which its files are kept now
 * @returns undefined where no pack waits for these files
 */
export function withFiles(
  stack: Stack,
  sha256: string,
  packId: string,
): { stack: Stack; layer: PackLayer } | undefined {
  const found = stack.waiting.find((one) => one.sha256 === sha256);
  if (!found) return undefined;
  const layer: PackLayer = { ...found.layer, packId };
  const layers = [...stack.layers];
  const below = layers.findIndex(({ id }) => id === found.below);
  const firstAbove = layers.findIndex(({ kind }) => kind !== 'pack');
  const top = firstAbove < 0 ? layers.length : firstAbove;
  layers.splice(found.below === undefined ? 0 : below < 0 ? top : Math.min(below + 1, top), 0, layer);
  return { stack: { ...stack, layers, waiting: stack.waiting.filter((one) => one !== found) }, layer };
}
