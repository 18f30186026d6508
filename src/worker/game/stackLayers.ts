import {
  WHOLE,
  placeEdits,
  placeFiles,
  planDeployment,
  resolveLayers,
  wholeTarget,
  type ComputedMerge,
  type DeployedState,
  type Layer,
  type Plan,
  type WorkOptions,
  type MergeLayer,
  type PackLayer,
  type Stack,
} from '@/core';
import { mergeNow } from './mergeNow';
import type { Session } from './session';
import { stateNow } from './stateNow';

async function packLayer(session: Session, { id, name, packId, placement }: PackLayer): Promise<Layer> {
  const known = session.seen.placed.get(placement);
  if (known?.id === id) return known;
  const { pack } = await session.openPack(packId);
  const whole = wholeTarget(placement);
  const note = session.note(packId);
  const layer: Layer = {
    kind: 'pack',
    id,
    name,
    packId,
    made: placement.made,
    edits: placeEdits(placement),
    files:
      whole === undefined
        ? placeFiles(pack.entries, placement)
        : [
            {
              path: WHOLE,
              size: note?.kept?.size ?? note?.size ?? 0,
              target: whole,
              ...(note?.kept ? { crc32: note.kept.crc32 } : {}),
            },
          ],
  };
  session.seen.placed.set(placement, layer);
  return layer;
}

async function sourceLayers(session: Session, stack: Stack): Promise<Layer[]> {
  const layers: Layer[] = [];
  for (const layer of stack.layers) {
    if (!layer.on || layer.kind === 'merge') continue;
    if (layer.kind === 'own') layers.push(layer);
    else if (layer.kind === 'edits') {
      const { kind, id, name, file } = layer;
      const edits = layer.edits.map(({ path, value }) => ({ path, ...(value === undefined ? {} : { value }) }));
      layers.push({ kind, id, name, file, edits });
      // What nobody placed stays out until the player has said where it belongs.
    } else if (layer.confidence !== 'ask') layers.push(await packLayer(session, layer));
  }
  return layers;
}

/**
 * A stack's layers as they are resolved: merges lie above all packs, the player's own files above the merges, edits on
 * top.
 */
export async function layersOf(
  session: Session,
  stack: Stack,
  state: DeployedState,
): Promise<{ layers: Layer[]; merges: ComputedMerge<MergeLayer>[] }> {
  const sources = await sourceLayers(session, stack);
  const notes = stack.layers.filter((layer) => layer.kind === 'merge');
  const merges = await Promise.all(notes.map((note) => mergeNow(session, note, sources, state)));
  const of = (wanted: Layer['kind']) => sources.filter(({ kind }) => kind === wanted);
  return {
    layers: [...of('pack'), ...merges.flatMap(({ layer }) => (layer ? [layer] : [])), ...of('own'), ...of('edits')],
    merges,
  };
}

/** The plan that the game's folders would have with another stack. */
export async function planWith(session: Session, change: Partial<Stack>, options: WorkOptions = {}): Promise<Plan> {
  const stack = { ...session.stack, ...change };
  const { workshop, dialectOf, nameOf } = session;
  const state = await stateNow(session);
  const { layers } = await layersOf(session, stack, state);
  const resolution = resolveLayers(layers, stack.picks);
  return planDeployment({
    ...options,
    state,
    workshop,
    index: session.picture.index,
    checksums: session.seen.checksums,
    dialectOf,
    nameOf,
    resolution,
  });
}
