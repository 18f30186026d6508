import {
  canBeDrawn,
  countKinds,
  leftOutOf,
  nameKey,
  onceFor,
  placeEdits,
  placeFiles,
  wholeTarget,
  type ImageInfo,
  type PackEntry,
  type PackNote,
  type PackNotice,
  type PlacedFile,
  type Placement,
  type PackLayer,
  type TargetPath,
} from '@/core';
import type { PackView } from '../contract';
import { askedBy } from '../game/asked';
import { PAGE, type Opened } from '../game/openPacks';
import type { Picture } from '../game/picture';
import type { Session } from '../game/session';
import { proposalFor, warningsOf } from '../game/packProposal';

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

/** What a pack holds, wherever it goes. */
const contentsOf = onceFor(({ pack, tree, images }: Opened) => ({
  files: pack.entries.length,
  bytes: pack.entries.reduce((sum, { size }) => sum + size, 0),
  kinds: countKinds(pack.entries),
  textures: textureSummary(images),
  pictures: sample(pack.entries.map(({ path }) => path).filter(canBeDrawn)),
  firstFolders: tree.firstFolders(),
}));

interface OverGame {
  ownFiles: readonly TargetPath[];
  /** Keys of files that stand in for the game's own. */
  replacing: readonly string[];
}

const leftOut = new WeakMap<readonly PlacedFile[], number>();

/** How many files of a pack do not get into the game; found once for what is placed of it. */
function leftOutCount(placed: readonly PlacedFile[], placement: Placement, entries: readonly PackEntry[]): number {
  const known = leftOut.get(placed) ?? leftOutOf(placement, entries).size;
  leftOut.set(placed, known);
  return known;
}

const overGame = new WeakMap<readonly PlacedFile[], OverGame>();

/** The files of a pack that stand in for the game's own; found once for as long as both are the same. */
function replacedBy({ picture }: Session, placed: readonly PlacedFile[]): readonly string[] {
  const known = overGame.get(placed);
  if (known?.ownFiles === picture.ownFiles) return known.replacing;
  const replacing = placed.flatMap(({ target, inside }) => {
    const key = nameKey(target);
    return inside === undefined && picture.ownKeys.has(key) ? [key] : [];
  });
  overGame.set(placed, { ownFiles: picture.ownFiles, replacing });
  return replacing;
}

/** Keys of all that is planned or deployed. */
const changingIn = onceFor(
  ({ plan, state }: Picture): ReadonlySet<string> =>
    new Set([...plan.steps, ...state.files].map(({ target }) => nameKey(target))),
);

/**
 * How many of the files that stand in for the game's own have the very same bytes, as far as the plan has found out.
 */
function identicalFiles({ picture }: Session, layer: PackLayer, replacing: readonly string[]): number {
  if (!layer.on || layer.confidence === 'ask' || replacing.length === 0) return 0;
  const others = changingIn(picture);
  return replacing.filter(
    (key) => !others.has(key) && picture.resolution.owned.get(key)?.providers.at(-1)?.layer === layer.id,
  ).length;
}

async function packView(session: Session, layer: PackLayer, deployed: number): Promise<PackView> {
  const { picture } = session;
  const opened = await session.openPack(layer.packId);
  const { readMe, facts } = opened;
  const note = session.note(layer.packId);
  return {
    layer: layer.id,
    packId: layer.packId,
    name: layer.name,
    tag: layer.tag,
    on: layer.on,
    ...ofNote(note, opened),
    ...contentsOf(opened),
    readMe: readMe?.path === PAGE ? undefined : readMe?.path,
    facts,
    steps: [...(await askedBy(session, layer)).steps],
    placement: await placementView(session, layer, opened),
    overlaps: picture.overlaps.get(layer.id) ?? { wins: 0, loses: 0 },
    deployed,
    mergedFrom: (layer.mergedFrom ?? []).map(session.nameOf),
  };
}

/** What the app has noted of a download, and what the player has. */
function ofNote(note: PackNote | undefined, { pack }: Opened) {
  const isNew = ({ kind, path }: PackNotice) => !pack.notices.some((one) => one.kind === kind && one.path === path);
  return {
    file: note?.file ?? '',
    archiveSize: note?.size ?? 0,
    format: note?.format ?? ('zip' as const),
    page: note?.page,
    notes: { origin: note?.origin, version: note?.version, remember: note?.remember, heading: note?.heading },
    notices: [...(note?.notices ?? []).filter(isNew), ...pack.notices],
  };
}

/** Where its files go, and how many of them. */
async function placementView(session: Session, layer: PackLayer, { pack }: Opened): Promise<PackView['placement']> {
  const { placement, confidence, parts } = layer;
  const { choices, questions } = await proposalFor(session, layer.packId, placement.decisions.answers);
  const whole = wholeTarget(placement);
  const placed = placeFiles(pack.entries, placement);
  const replacing = replacedBy(session, placed);
  const count = whole === undefined ? placed.length : 1;
  const replaced = whole === undefined ? replacing.length : Number(session.picture.ownKeys.has(nameKey(whole)));
  return {
    confidence,
    parts,
    questions,
    choices,
    made: placement.made,
    moves: placement.decisions.moves,
    warnings: await warningsOf(session, layer),
    placed: count,
    leftOut: whole === undefined ? leftOutCount(placed, placement, pack.entries) : 0,
    replacing: replaced,
    fresh: count - replaced,
    identical: identicalFiles(session, layer, replacing),
    edits: placeEdits(placement).reduce((sum, { edits }) => sum + edits.length, 0),
    ownFolder: parts.find(({ mode }) => mode === 'own-folder')?.to,
  };
}

export async function packViews(session: Session): Promise<PackView[]> {
  const deployed = new Map<string, number>();
  for (const { layer, living } of session.picture.state.files)
    if (!living) deployed.set(layer, (deployed.get(layer) ?? 0) + 1);
  return Promise.all(session.packLayers().map((layer) => packView(session, layer, deployed.get(layer.id) ?? 0)));
}
