import { SatchelError, comingName, groupDownloads, isDownload, missingPart, nameKey, openPack, toFailure, type ArchivePart, type PackNotice, type WorkOptions } from '@/core';
import type { DownloadList } from '@/bridge/wire';
import { BridgeFolder, fetchDownload, listDownloads } from '@/folders/bridge';
import type { DownloadsView, Intake } from './api';
import { bringIn, keepPack, type Taken } from './intake';
import type { Session } from './session';

/** What lies in the downloads folder, sets of parts together, the newest first. */
export function downloadsView({ path, files }: DownloadList, session: Session | undefined): DownloadsView {
  const coming = new Map(files.flatMap((file) => {
    const name = comingName(file.name);
    return name === undefined ? [] : [[nameKey(name), file] as const];
  }));
  const whole = files.filter(({ name }) => comingName(name) === undefined);
  const groups = groupDownloads(whole).map(({ name, parts }) => {
    const size = parts.reduce((sum, part) => sum + part.size, 0);
    const missing = missingPart(parts);
    const writing = parts.some((part) => !part.settled || part.size === 0 || coming.has(nameKey(part.name)));
    const note = session?.notes.find((one) => one.size === size && nameKey(one.file) === nameKey(name));
    const layer = note && session?.packLayers().find(({ packId }) => packId === note.id);
    return { name, parts: parts.map((part) => part.name), size, modified: Math.max(...parts.map((part) => part.modified)), waits: writing ? { why: 'coming' as const } : missing === undefined ? undefined : { why: 'part' as const, name: missing }, taken: layer?.name };
  });
  // Of some nothing is there yet but what is half-way.
  const alone = [...coming].filter(([key]) => !whole.some(({ name }) => nameKey(name) === key)).map(([, file]) => ({ name: comingName(file.name) ?? file.name, parts: [file.name], size: file.size, modified: file.modified, waits: { why: 'coming' as const }, taken: undefined }));
  return { path, downloads: [...groups, ...alone].sort((a, b) => b.modified - a.modified || (a.name < b.name ? -1 : 1)) };
}

/** The downloads folder as it is now. */
export async function lookAtDownloads(session: Session | undefined): Promise<DownloadsView | undefined> {
  try {
    const list = await listDownloads();
    return list && downloadsView(list, session);
  } catch (error) {
    if (error instanceof SatchelError && error.code === 'folder-gone') return { path: error.failure.details.path ?? '', gone: true, downloads: [] };
    if (error instanceof SatchelError && ['server-gone', 'bridge-closed', 'unknown-thing'].includes(error.code)) return undefined;
    throw error;
  }
}

/** A download, by its own name and those of its parts. */
interface Wanted {
  name: string;
  parts: readonly string[];
  password: string | undefined;
}

/** What the server has of a download, and what it was. */
type There = Omit<Taken, 'pack' | 'there'> & { there: NonNullable<Taken['there']>; kept: number; notices: PackNotice[] };

/** Takes a download in where it lies, if it can be read so. */
async function takeAsItIs(vault: BridgeFolder, id: string, { name, parts, password }: Wanted, copy: boolean, options: Required<WorkOptions>): Promise<There | undefined> {
  if (parts.length > 1 || password !== undefined || !/\.zip$/i.test(name)) return undefined;
  options.onProgress({ phase: `Reading “${name}” where it lies`, done: 0, total: 0, unit: 'bytes' });
  const taken = await vault.takeDownload(id, { name, copy }, options.signal);
  return taken && { name, size: taken.size, sha256: taken.sha256, kept: taken.size, notices: [], there: { id, crc32: taken.crc32 } };
}

/** Takes it in unpacked: it is packed in another way, in parts, or with a password. */
async function takeUnpacked(vault: BridgeFolder, id: string, wanted: Wanted, options: Required<WorkOptions>): Promise<There | undefined> {
  const found = await vault.unpackDownload(id, wanted, options);
  return found && { name: wanted.name, size: found.size, sha256: found.sha256, kept: found.kept.size, notices: found.notices, there: { id, crc32: found.kept.crc32, format: found.format } };
}

/** The server reads a download where it lies: nothing of it goes through the page. @returns undefined where it is no pack that can be read so */
async function takeWhereItLies(session: Session, wanted: Wanted, copy: boolean, options: Required<WorkOptions>): Promise<Intake | undefined> {
  const { vault } = session.workshop;
  if (!(vault instanceof BridgeFolder)) return undefined;
  const asItIs = await takeThere(session, vault, (id) => takeAsItIs(vault, id, wanted, copy, options), options).catch((error: unknown) => {
    // What the page cannot unpack from there the server can, or it says what is wrong.
    if (error instanceof SatchelError && ['damaged', 'unsupported', 'not-an-archive'].includes(error.code)) return undefined;
    throw error;
  });
  if (asItIs) return asItIs;
  return takeThere(session, vault, (id) => takeUnpacked(vault, id, wanted, options), options).catch((error: unknown) => {
    // It only calls itself an archive: such files go in together with others of their kind.
    if (error instanceof SatchelError && error.code === 'not-an-archive') return undefined;
    throw error;
  });
}

/** @returns undefined where it is not there, or no plain ZIP that can be read piece by piece: then nothing of it is left */
async function takeThere(session: Session, vault: BridgeFolder, take: (id: string) => Promise<There | undefined>, options: Required<WorkOptions>): Promise<Intake | undefined> {
  const id = crypto.randomUUID();
  let kept = false;
  try {
    const there = await take(id);
    const blob = there && (await vault.packBlob(id, there.kept));
    if (!blob) return undefined;
    const pack = await openPack(blob, there.name, options);
    if (pack.archive !== blob) return undefined;
    const brought = await keepPack(session, { ...there, pack: { ...pack, notices: [...there.notices, ...pack.notices] } }, options);
    kept = session.notes.some((note) => note.id === id);
    return { brought: [brought], refused: [] };
  } finally {
    if (!kept) await vault.removePack(id).catch(() => undefined);
  }
}

/** Takes downloads in: what can be read where it lies is, all else goes through the page as if it were dropped. */
export async function takeDownloads(session: Session, names: readonly string[], password: string | undefined, copy: boolean, options: Required<WorkOptions>): Promise<Intake> {
  const all: Intake = { brought: [], refused: [] };
  const groups = groupDownloads(names.filter(isDownload).map((name) => ({ name })));
  for (const { name, parts } of groups) {
    try {
      options.signal.throwIfAborted();
      const there = await takeWhereItLies(session, { name, parts: parts.map((part) => part.name), password }, copy, options);
      const came = there ?? (await bringIn(session, await fetched(parts, options), password, options));
      all.brought.push(...came.brought);
      all.refused.push(...came.refused);
    } catch (error) {
      if (groups.length === 1) throw error;
      all.refused.push({ name, failure: toFailure(error) });
    }
  }
  return all;
}

async function fetched(parts: readonly { name: string }[], { signal, onProgress }: Required<WorkOptions>): Promise<ArchivePart[]> {
  const found: ArchivePart[] = [];
  for (const { name } of parts) {
    onProgress({ phase: `Reading “${name}”`, done: found.length, total: parts.length, unit: 'files' });
    found.push({ name, data: await fetchDownload(name, signal) });
  }
  return found;
}
