import {
  ORIGINAL,
  SatchelError,
  baseName,
  decide,
  filledText,
  joinPath,
  keepBytes,
  moveTo,
  nameKey,
  openPack,
  splitTarget,
  target,
  type Fix,
  type OwnFile,
  type Pack,
  type Placement,
  type TargetPath,
} from '@/core';
import { contentAt } from '../game/content';
import { dialectOf } from '../game/originals';
import type { Session } from '../game/session';
import { changeList, noteEdits } from '../game/playerEdits';

/** Who brings a file now or after the next deployment, and as what. */
function providerOf(session: Session, of: string): { layer: string; path: string; packId: string } | undefined {
  const winner = session.picture.resolution.owned.claim(nameKey(of))?.winner;
  return winner && winner.packId !== '' && !winner.kept
    ? { layer: winner.layer, path: winner.file.path, packId: winner.packId }
    : undefined;
}

/** @throws SatchelError `unknown-thing` where no pack brings a file to this target */
function providedAt(session: Session, of: TargetPath): { layer: string; path: string } {
  const provider = providerOf(session, of);
  if (!provider) throw new SatchelError('unknown-thing', { what: `file of a pack at ${of}` });
  return provider;
}

/** Changes the placements of packs, all in one write. */
const changePlacements = (
  session: Session,
  changes: ReadonlyMap<string, (placement: Placement) => Placement>,
): Promise<void> =>
  session.saveStack({
    layers: session.stack.layers.map((layer) => {
      const change = layer.kind === 'pack' ? changes.get(layer.id) : undefined;
      return layer.kind === 'pack' && change ? { ...layer, placement: change(layer.placement) } : layer;
    }),
  });

const byLayer = <File extends { layer: string }>(files: readonly File[]): Map<string, File[]> => {
  const groups = new Map<string, File[]>();
  for (const file of files) groups.set(file.layer, [...(groups.get(file.layer) ?? []), file]);
  return groups;
};

function moveFiles(session: Session, moves: readonly { from: TargetPath; to: TargetPath }[]): Promise<void> {
  const files = moves.map(({ from, to }) => ({ ...providedAt(session, from), to }));
  return changePlacements(
    session,
    new Map(
      [...byLayer(files)].map(([id, of]) => [
        id,
        (before) => of.reduce((placement, { path, to }) => moveTo(placement, path, to, 'exact'), before),
      ]),
    ),
  );
}

type Cures = { [Kind in Fix['kind']]: (session: Session, fix: Extract<Fix, { kind: Kind }>) => Promise<void> | void };

/**
 * What each cure changes. Nothing is written: the plan shows it first. A kind of cure without an entry does not
 * compile.
 */
const CURES: Cures = {
  edit: (session, { file, edit }) => noteEdits(session, file, [edit]),
  list: (session, { file, path, item }) => changeList(session, { file, path, item, on: true }),
  move: (session, { moves }) => moveFiles(session, moves),
  'leave out': (session, { targets }) =>
    takeFiles(
      session,
      targets.map((of) => providedAt(session, of)),
      false,
    ),
  'take in': (session, { files }) => takeFiles(session, files, true),
  'stand-in': (session, { copies }) => putOwn(session, copiesOf(session, copies)),
  unpack: async (session, { archive, to }) => {
    const bytes = await contentAt(session, archive, 'now');
    if (!bytes) throw new SatchelError('folder-missing-file', { path: archive });
    // A game's own archive is no more to be trusted than a download, and its ending may be the game's own.
    await putOwn(session, inside(await openPack(new Blob([bytes]), `${baseName(archive)}.zip`), to));
  },
  fill: async (session, { target: of }) => putOwn(session, [{ to: of, bytes: await filled(session, of) }]),
  'add file': (session, { to, text }) => putOwn(session, [{ to, bytes: new TextEncoder().encode(text) }]),
  'take out': (session, { layer: id }) =>
    session.saveStack({
      layers: session.stack.layers.map((layer) => (layer.id === id ? { ...layer, on: false } : layer)),
    }),
  // These only lead elsewhere.
  deploy: () => undefined,
  go: () => undefined,
};

/** Changes the layers as a finding proposes. */
export async function applyFix<Kind extends Fix['kind']>(
  session: Session,
  fix: Extract<Fix, { kind: Kind }> & { kind: Kind },
): Promise<void> {
  await CURES[fix.kind](session, fix);
}

/** Takes files of packs in, or leaves them out. */
async function takeFiles(
  session: Session,
  files: readonly { layer: string; path: string }[],
  takeIn: boolean,
): Promise<void> {
  const changes = new Map<string, (placement: Placement) => Placement>();
  for (const [id, of] of byLayer(files)) {
    const { pack } = await session.openPack(session.layer(id).packId);
    changes.set(id, (before) =>
      of.reduce((placement, { path }) => decide(placement, pack.entries, path, takeIn), before),
    );
  }
  await changePlacements(session, changes);
}

/** Copies of files of the game for other places in it. */
async function* copiesOf(
  session: Session,
  copies: readonly { copy: TargetPath; to: TargetPath }[],
): AsyncGenerator<Placed> {
  for (const { copy, to } of copies) {
    const bytes = await contentAt(session, copy, 'now');
    if (!bytes) throw new SatchelError('folder-missing-file', { path: copy });
    yield { to, bytes };
  }
}

/** A pack's text file with every key that the game's own has and it has not. */
async function filled(session: Session, of: TargetPath): Promise<Uint8Array<ArrayBuffer>> {
  const provider = providerOf(session, of);
  const [bytes, original] = [
    provider && (await contentAt(session, of, provider.layer)),
    await contentAt(session, of, ORIGINAL),
  ];
  const dialect = dialectOf(session, of);
  if (!bytes || !original || dialect === undefined)
    throw new SatchelError('cannot-merge', { path: of, why: 'only one of the two is there' });
  const whole = filledText(bytes, original, dialect);
  if (!whole)
    throw new SatchelError('cannot-merge', { path: of, why: 'the pack’s file cannot hold all of the game’s letters' });
  return whole;
}

interface Placed {
  to: TargetPath;
  bytes: Uint8Array<ArrayBuffer>;
}

/** What lies in an archive, one file after the other, so that a large one is never held as a whole. */
async function* inside(pack: Pack, to: TargetPath): AsyncGenerator<Placed> {
  for await (const { path, data } of pack.readMany(pack.entries.map((entry) => entry.path)))
    yield { to: joinPath(to, path), bytes: data };
}

/** Puts files into the game as the player's own. */
async function putOwn(session: Session, files: Iterable<Placed> | AsyncIterable<Placed>): Promise<void> {
  const kept: OwnFile[] = [];
  for await (const { to, bytes } of files) {
    const { root, path } = splitTarget(to);
    if (!(root in session.workshop.folders)) throw new SatchelError('unknown-thing', { what: `folder “${root}”` });
    const { sha256, size } = await keepBytes(session.workshop.vault, bytes);
    kept.push({ target: target(root, path), sha256, size });
  }
  const replaced = new Set(kept.map((one) => nameKey(one.target)));
  await session.saveStack({
    layers: session.withOwn([
      ...session.ownLayer().files.filter((file) => !replaced.has(nameKey(file.target))),
      ...kept,
    ]),
  });
}
