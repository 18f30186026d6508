import {
  canBeDrawn,
  countKinds,
  leftOutOf,
  nameKey,
  placeEdits,
  placeFiles,
  wholeTarget,
  type ImageInfo,
  type PlacedFile,
  type PackLayer,
} from '@/core';
import type { PackView } from '../contract';
import { askedBy } from '../game/asked';
import { PAGE } from '../game/openPacks';
import type { Session } from '../game/session';
import { proposalFor, warningsOf } from '../game/proposals';

/** Pictures of a pack that are shown small. */
const PICTURES = 12;

/** A few pictures from all over a pack, rather than the first ones, which are often alike. */
function sample(paths: string[]): string[] {
  if (paths.length <= PICTURES) return paths;
  // Steps of the golden ratio fall in no pattern with names that repeat.
  const picked = Array.from({ length: PICTURES }, (_, i) => Math.floor(((i * 0.618034) % 1) * paths.length));
  return [...new Set(picked)].sort((a, b) => a - b).map((i) => paths[i] as string);
}

/** What the pictures of a pack are, taken together. */
function textureSummary(images: ReadonlyMap<string, ImageInfo>): PackView['textures'] {
  const formats = new Map<string, number>();
  let bytesInMemory = 0;
  let largest = 0;
  for (const { format, bytesInMemory: bytes, width, height } of images.values()) {
    formats.set(format, (formats.get(format) ?? 0) + 1);
    bytesInMemory += bytes;
    largest = Math.max(largest, width, height);
  }
  return {
    files: images.size,
    bytesInMemory,
    largest,
    formats: [...formats].map(([format, files]) => ({ format, files })).sort((a, b) => b.files - a.files),
  };
}

/**
 * How many of the files that stand in for the game's own have the very same bytes, as far as the plan has found out.
 */
function identicalFiles(session: Session, layer: PackLayer, replacing: readonly PlacedFile[]): number {
  const planned = new Set(session.picture.plan.steps.map(({ target }) => nameKey(target)));
  const deployed = new Set(session.picture.state.files.map(({ target }) => nameKey(target)));
  if (!layer.on || layer.confidence === 'ask') return 0;
  return replacing.filter(({ target }) => {
    const key = nameKey(target);
    return (
      !planned.has(key) &&
      !deployed.has(key) &&
      session.picture.resolution.owned.get(key)?.providers.at(-1)?.layer === layer.id
    );
  }).length;
}

async function packView(session: Session, layer: PackLayer, deployed: number): Promise<PackView> {
  const { picture } = session;
  const { pack, tree, readMe, images, facts } = await session.openPack(layer.packId);
  const note = session.notes.find((one) => one.id === layer.packId);
  const { placement, confidence, parts } = layer;
  const { choices, questions } = await proposalFor(session, layer.packId, placement.decisions.answers);
  const whole = wholeTarget(placement);
  const placed = placeFiles(pack.entries, placement);
  const outside = placed.filter(({ inside }) => inside === undefined);
  const replacing = outside.filter((file) => picture.ownKeys.has(nameKey(file.target)));
  const count = whole === undefined ? placed.length : 1;
  const replaced = whole === undefined ? replacing.length : Number(picture.ownKeys.has(nameKey(whole)));
  return {
    layer: layer.id,
    packId: layer.packId,
    name: layer.name,
    file: note?.file ?? '',
    archiveSize: note?.size ?? 0,
    tag: layer.tag,
    on: layer.on,
    files: pack.entries.length,
    bytes: pack.entries.reduce((sum, { size }) => sum + size, 0),
    kinds: countKinds(pack.entries),
    notices: [
      ...(note?.notices ?? []).filter(
        ({ kind, path }) => !pack.notices.some((one) => one.kind === kind && one.path === path),
      ),
      ...pack.notices,
    ],
    readMe: readMe?.path === PAGE ? undefined : readMe?.path,
    page: note?.page,
    notes: { origin: note?.origin, version: note?.version, remember: note?.remember, heading: note?.heading },
    format: note?.format ?? 'zip',
    facts,
    steps: [...(await askedBy(session, layer)).steps],
    textures: textureSummary(images),
    pictures: sample(pack.entries.map(({ path }) => path).filter(canBeDrawn)),
    firstFolders: tree.firstFolders(),
    placement: {
      confidence,
      parts,
      questions,
      choices,
      made: placement.made,
      moves: placement.decisions.moves,
      warnings: await warningsOf(session, layer),
      placed: count,
      leftOut: whole === undefined ? leftOutOf(placement, pack.entries).size : 0,
      replacing: replaced,
      fresh: count - replaced,
      identical: identicalFiles(session, layer, replacing),
      edits: placeEdits(placement).reduce((sum, { edits }) => sum + edits.length, 0),
      ownFolder: parts.find(({ mode }) => mode === 'own-folder')?.to,
    },
    overlaps: picture.overlaps.get(layer.id) ?? { wins: 0, loses: 0 },
    deployed,
    mergedFrom: (layer.mergedFrom ?? []).map(session.nameOf),
  };
}

export async function packViews(session: Session): Promise<PackView[]> {
  const deployed = new Map<string, number>();
  for (const { layer, living } of session.picture.state.files)
    if (!living) deployed.set(layer, (deployed.get(layer) ?? 0) + 1);
  return Promise.all(session.packLayers().map((layer) => packView(session, layer, deployed.get(layer.id) ?? 0)));
}
