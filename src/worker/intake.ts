import {
  PackError, SatchelError, carryDecisions, compareVersions, crc32OfBlob, groupDownloads, isSamePack, kindOf, megabytes, monogram, nextColour, openPack, packName, packOfFiles, sha256, statedFacts, throwIfAborted, toFailure, zipPack, inspectPictures,
  type ArchivePart, type Download, type Pack, type PackFormat, type Placement, type WorkOptions,
} from '@/core';
import { memory, type PackLayer, type PackNote } from '@/storage/memory';
import type { Brought, Intake } from './api';
import { sendAhead } from './onBridge';
import { proposeOrder, withoutLayer } from './ordering';
import type { Session } from './session';

/** A pack that was opened, with what is to be kept of it. */
export interface Taken {
  pack: Pack;
  name: string;
  size: number;
  sha256: string;
  /** It lies beside the originals already, under this id; `format`: it was unpacked there, out of something else than a plain ZIP. */
  there?: { id: string; crc32: number; format?: PackFormat };
}

/** One download, and how to read it; undefined where it turns out to be a plain file, which goes in with the others of its kind. */
interface Coming {
  name: string;
  read(options: Required<WorkOptions>): Promise<Taken | undefined>;
}

/**
 * Reads downloads, keeps them, and puts them on top of the packs in the stack, one after the other. Volumes of one set become one
 * pack, a dropped folder becomes one, and loose files that came together become one. One that cannot be read keeps no other out.
 *
 * @param files names, or paths where a folder was dropped
 * @throws what is wrong with it, where there is one download only
 */
export async function bringIn(session: Session, files: readonly ArchivePart[], password: string | undefined, options: Required<WorkOptions>): Promise<Intake> {
  const intake: Intake = { brought: [], refused: [] };
  const loose: ArchivePart[] = [];
  const coming = [...foldersIn(files), ...archivesIn(files, password, loose)];
  const take = async ({ name, read }: Coming, told: Required<WorkOptions>): Promise<void> => {
    try {
      throwIfAborted(options.signal);
      const taken = await read(told);
      if (!taken) return;
      const one = await keepPack(session, taken, told);
      intake.brought.push(one);
      if (!one.known) void sendAhead(session, session.layer(one.layer).packId);
    } catch (error) {
      if (coming.length <= 1) throw error;
      intake.refused.push({ name, failure: toFailure(error) });
    }
  };
  for (const [i, one] of coming.entries()) {
    const which = coming.length > 1 ? `${i + 1} of ${coming.length}, “${one.name}”: ` : '';
    await take(one, { ...options, onProgress: (progress) => options.onProgress({ ...progress, phase: which + progress.phase }) });
  }
  const [first] = loose;
  if (first) await take({ name: first.name, read: (told) => measure(packOfFiles(loose.map(({ name, data }) => ({ path: name, data })), first.name, 'file'), loose, told) }, options);
  return intake;
}

/** Folders that were dropped, each with all that is in it. */
function foldersIn(files: readonly ArchivePart[]): Coming[] {
  const folders = new Map<string, ArchivePart[]>();
  for (const file of files) {
    const cut = file.name.indexOf('/');
    if (cut <= 0) continue;
    const known = folders.get(file.name.slice(0, cut));
    if (known) known.push(file);
    else folders.set(file.name.slice(0, cut), [file]);
  }
  return Array.from(folders, ([name, parts]) => ({
    name, read: (options) => measure(packOfFiles(parts.map(({ name: path, data }) => ({ path: path.slice(name.length + 1), data })), name), parts, options),
  }));
}

/** Archives, split ones put together. @param loose takes the files that do not even call themselves an archive */
function archivesIn(files: readonly ArchivePart[], password: string | undefined, loose: ArchivePart[]): Coming[] {
  return groupDownloads(files.filter(({ name }) => !name.includes('/'))).map((download) => ({
    name: download.name,
    read: async (options) => {
      try {
        return await measure(await openDownload(download, password, options), download.parts, options);
      } catch (error) {
        const [part] = download.parts;
        if (!part || kindOf(part.name) === 'archive' || !(error instanceof PackError && error.code === 'not-an-archive')) throw error;
        loose.push(part);
        return undefined;
      }
    },
  }));
}

function openDownload({ name, parts }: Download, password: string | undefined, options: Required<WorkOptions>): Promise<Pack> {
  const [first, ...moreParts] = parts;
  return openPack(first?.data as Blob, name, { ...options, moreParts, ...(password === undefined ? {} : { password }) });
}

async function measure(pack: Pack, parts: readonly ArchivePart[], options: Required<WorkOptions>): Promise<Taken> {
  // Of files that were never packed the names are part of what they are.
  const whole = parts.length === 1 ? (parts[0]?.data as Blob) : new Blob(parts.flatMap(({ name, data }) => [pack.format === 'folder' || pack.format === 'file' ? `${name}\n${data.size}\n` : '', data]));
  return { pack, name: pack.name, size: parts.reduce((sum, { data }) => sum + data.size, 0), sha256: await sha256(whole, options) };
}

export async function keepPack(session: Session, { pack, name, size, sha256: hash, there }: Taken, options: Required<WorkOptions>): Promise<Brought> {
  const same = session.notes.find((note) => note.sha256 === hash);
  const layerOfSame = same && session.packLayers().find((layer) => layer.packId === same.id);
  if (layerOfSame) return { layer: layerOfSame.id, known: true };
  options.signal.throwIfAborted();
  const id = same?.id ?? there?.id ?? crypto.randomUUID();
  if (!same) {
    // What is read piece by piece is kept as it came, and the archive of a pack that was not is its plain ZIP.
    const archive = pack.archive ?? (await zipPack(pack, options));
    const pictures = await inspectPictures(pack, options);
    const crc32 = there?.crc32 ?? (await crc32OfBlob(archive, options));
    options.onProgress({ phase: 'Keeping the download', done: 0, total: archive.size, unit: 'bytes' });
    if (!there) await keepArchive(id, archive, name);
    await memory.setPictures(id, pictures);
    // A plain ZIP made of it does not show what was left out.
    const isUnpacked = pack.archive === undefined || there?.format !== undefined;
    const notices = isUnpacked && pack.notices.length > 0 ? { notices: pack.notices } : {};
    const note: PackNote = { id, game: session.game.id, file: name, size, sha256: hash, added: Date.now(), format: there?.format ?? pack.format, ...notices, kept: { size: archive.size, crc32 }, ...(there ? { there: true as const } : {}) };
    await memory.setPacks([...(await memory.packs([])), note]);
    session.notes = [...session.notes, note];
  }
  const { placement, confidence, parts } = await session.proposal(id);
  const others = session.packLayers();
  const title = packName(name);
  const layer: PackLayer = {
    kind: 'pack', id: crypto.randomUUID(), packId: id, name: title, on: true, placement, confidence, parts,
    tag: { monogram: monogram(title, new Set(others.map(({ tag }) => tag.monogram))), colour: nextColour(others.map(({ tag }) => tag.colour)) },
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

/** Keeps an archive in the browser; refuses one that would not fit before it is copied. @throws SatchelError `no-room` */
async function keepArchive(id: string, archive: Blob, name: string): Promise<void> {
  const { quota = Number.MAX_SAFE_INTEGER, usage = 0 } = (await navigator.storage?.estimate()) ?? {};
  const noRoom = () => new SatchelError('no-room', { name, needed: megabytes(archive.size), left: megabytes(Math.max(0, quota - usage), 'down') });
  if (archive.size > quota - usage) throw noRoom();
  try {
    await memory.setArchive(id, archive);
  } catch (error) {
    throw error instanceof DOMException && error.name === 'QuotaExceededError' ? noRoom() : error;
  }
}

const versionOf = (session: Session, file: string): string | undefined => statedFacts({ name: file, entries: [], card: session.game.card, texts: new Map() }).find(({ kind }) => kind === 'version')?.value;

/** Another release of the same pack in the stack, by name and shape. */
async function earlierRelease(session: Session, layer: PackLayer): Promise<Brought['earlier']> {
  const fileOf = (packId: string) => session.notes.find((note) => note.id === packId)?.file ?? '';
  const { pack } = await session.openPack(layer.packId);
  const file = fileOf(layer.packId);
  for (const other of session.packLayers()) {
    if (other.id === layer.id) continue;
    const theirs = fileOf(other.packId);
    if (!isSamePack({ file, entries: pack.entries }, { file: theirs, entries: (await session.openPack(other.packId)).pack.entries })) continue;
    const [mine, old] = [versionOf(session, file), versionOf(session, theirs)];
    return { layer: other.id, name: other.name, newer: compareVersions(mine, old) >= 0, versions: mine && old ? `${old} → ${mine}` : '' };
  }
  return undefined;
}

/** Puts one pack in the place of another release of it, with the player's decisions: same place in the stack, same tag. */
export async function replaceRelease(session: Session, id: string, earlierId: string): Promise<void> {
  const [layer, earlier] = [session.layer(id), session.layer(earlierId)];
  const [{ pack }, { pack: before }] = [await session.openPack(layer.packId), await session.openPack(earlier.packId)];
  const decisions = carryDecisions(earlier.placement.decisions, before.entries, pack.entries);
  const proposal = await session.proposal(layer.packId, decisions.answers);
  // A place that the player chose for the old one holds for the new one too.
  const chosen = earlier.confidence === 'chosen' ? earlier.placement.rules[0] : undefined;
  const base: Placement = chosen?.as === 'files' ? await session.placementAt(layer.packId, proposal.placement.rules[0]?.from ?? '', chosen.to) : proposal.placement;
  const next: PackLayer = { ...layer, tag: earlier.tag, on: earlier.on, confidence: chosen ? 'chosen' : proposal.confidence, parts: chosen ? earlier.parts : proposal.parts, placement: { ...base, decisions } };
  const swap = (one: string) => (one === earlierId ? id : one);
  const layers = session.stack.layers.filter((one) => one.id !== id).map((one): typeof one => {
    if (one.id === earlierId) return next;
    return one.kind === 'merge' ? { ...one, sources: one.sources.map(swap) } : one;
  });
  await session.saveStack({ ...withoutLayer(session, earlierId, id), layers });
}
