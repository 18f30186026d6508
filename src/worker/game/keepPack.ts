import {
  SatchelError,
  withFiles,
  compareVersions,
  crc32OfBlob,
  inspectPictures,
  isSamePack,
  megabytes,
  monogram,
  nextColour,
  onceFor,
  packName,
  releaseFamily,
  statedFacts,
  zipPack,
  type Pack,
  type PackFormat,
  type WorkOptions,
  type PackLayer,
  type PackNote,
} from '@/core';
import { memory } from '@/storage/memory';
import type { Brought } from '../contract';
import { proposeOrder } from './stackOrder';
import type { Session } from './session';
import { proposalFor } from './packProposal';

/** A pack that was opened, with what is to be kept of it. */
export interface Taken {
  pack: Pack;
  name: string;
  size: number;
  sha256: string;
  /**
   * It lies beside the originals already, under this id; `format`: it was unpacked there, out of something else than a
   * plain ZIP.
   */
  there?: { id: string; crc32: number; format?: PackFormat };
}

export async function keepPack(session: Session, taken: Taken, options: Required<WorkOptions>): Promise<Brought> {
  const { name, sha256: hash } = taken;
  const same = session.notes.find((note) => note.sha256 === hash);
  const layerOfSame = same && session.packLayers().find((layer) => layer.packId === same.id);
  if (layerOfSame) return { layer: layerOfSame.id, known: true };
  options.signal.throwIfAborted();
  const id = await keepFiles(session, taken, options);
  const back = withFiles(session.stack, hash, id);
  if (back) {
    await session.replaceStack(back.stack);
    return { layer: back.layer.id, known: false };
  }
  const { placement, confidence, parts } = await proposalFor(session, id);
  const others = session.packLayers();
  const title = packName(name);
  const layer: PackLayer = {
    kind: 'pack',
    id: crypto.randomUUID(),
    packId: id,
    name: title,
    on: true,
    placement,
    confidence,
    parts,
    tag: {
      monogram: monogram(title, new Set(others.map(({ tag }) => tag.monogram))),
      colour: nextColour(others.map(({ tag }) => tag.colour)),
    },
  };
  // On top of the packs: merges and edits lie above them all.
  const firstAbove = session.stack.layers.findIndex(({ kind }) => kind !== 'pack');
  const layers = [...session.stack.layers];
  layers.splice(firstAbove < 0 ? layers.length : firstAbove, 0, layer);
  await session.saveStack({ layers });
  await proposeOrder(session, layer.id);
  const earlier = await earlierRelease(session, layer);
  return { layer: layer.id, known: false, ...(earlier ? { earlier } : {}) };
}

/** Keeps a download's files and what is known of it, unless they are at hand. @returns under which id */
async function keepFiles(session: Session, taken: Taken, options: Required<WorkOptions>): Promise<string> {
  const { pack, name, size, sha256: hash, there } = taken;
  const same = session.notes.find((note) => note.sha256 === hash);
  const id = same?.id ?? there?.id ?? crypto.randomUUID();
  if (same && (await session.archive(id))) return id;
  // What is read piece by piece is kept as it came, and the archive of a pack that was not is its plain ZIP.
  const archive = pack.archive ?? (await zipPack(pack, options));
  const pictures = await inspectPictures(pack, options);
  const crc32 = there?.crc32 ?? (await crc32OfBlob(archive, options));
  options.onProgress({ phase: 'Keeping the download', done: 0, total: archive.size, unit: 'bytes' });
  if (!there) await keepArchive(id, archive, name);
  await memory.setPictures(id, pictures);
  const note: PackNote = {
    ...same,
    id,
    game: session.game.id,
    file: name,
    size,
    sha256: hash,
    added: Date.now(),
    format: there?.format ?? pack.format,
    ...noticesOf(taken),
    kept: { size: archive.size, crc32 },
    ...(there ? { there: true as const } : {}),
  };
  await session.saveNotes([...session.notes.filter((one) => one.id !== id), note]);
  return id;
}

/** What was left out of a pack, where the plain ZIP that is made of it does not show it. */
function noticesOf({ pack, there }: Taken): Pick<PackNote, 'notices'> {
  const isUnpacked = pack.archive === undefined || there?.format !== undefined;
  return isUnpacked && pack.notices.length > 0 ? { notices: pack.notices } : {};
}

/**
 * Keeps an archive in the browser; refuses one that would not fit before it is copied.
 *
 * @throws SatchelError `no-room`
 */
export async function keepArchive(id: string, archive: Blob, name: string): Promise<void> {
  const { quota = Number.MAX_SAFE_INTEGER, usage = 0 } = (await navigator.storage?.estimate()) ?? {};
  const noRoom = () =>
    new SatchelError('no-room', {
      name,
      needed: megabytes(archive.size),
      left: megabytes(Math.max(0, quota - usage), 'down'),
    });
  if (archive.size > quota - usage) throw noRoom();
  try {
    await memory.setArchive(id, archive);
  } catch (error) {
    throw error instanceof DOMException && error.name === 'QuotaExceededError' ? noRoom() : error;
  }
}

const versionOf = (session: Session, file: string): string | undefined =>
  statedFacts({ name: file, entries: [], card: session.game.card, texts: new Map() }).find(
    ({ kind }) => kind === 'version',
  )?.value;

/** What releases of it would be called: each download is looked at once. */
const familyOf = onceFor(({ file }: PackNote) => releaseFamily(file));

/** Another release of the same pack in the stack, by name and shape. */
async function earlierRelease(session: Session, layer: PackLayer): Promise<Brought['earlier']> {
  const notes = new Map(session.notes.map((note) => [note.id, note]));
  const mine = notes.get(layer.packId);
  if (!mine) return undefined;
  const entriesOf = async (packId: string) => (await session.openPack(packId)).pack.entries;
  for (const other of session.packLayers()) {
    const theirs = notes.get(other.packId);
    if (other.id === layer.id || !theirs || familyOf(theirs) !== familyOf(mine)) continue;
    const [entries, before] = [await entriesOf(layer.packId), await entriesOf(other.packId)];
    if (!isSamePack({ file: mine.file, entries }, { file: theirs.file, entries: before })) continue;
    const [now, old] = [versionOf(session, mine.file), versionOf(session, theirs.file)];
    return {
      layer: other.id,
      name: other.name,
      newer: compareVersions(now, old) >= 0,
      versions: now && old ? `${old} → ${now}` : '',
    };
  }
  return undefined;
}
