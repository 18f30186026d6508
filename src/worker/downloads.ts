import { PackError, SatchelError, comingName, groupDownloads, isDownload, missingPart, nameKey, openPack, toFailure, type ArchivePart, type WorkOptions } from '@/core';
import type { DownloadList } from '@/bridge/wire';
import { BridgeFolder, fetchDownload, listDownloads } from '@/folders/bridge';
import type { DownloadsView, Intake } from './api';
import { bringIn, keepPack } from './intake';
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

/** A ZIP is read where it lies, by the app's server; undefined where that cannot be: it has to be unpacked with a password, or is none. */
async function takeWhereItLies(session: Session, name: string, copy: boolean, options: Required<WorkOptions>): Promise<Intake | undefined> {
  const { vault } = session.workshop;
  if (!(vault instanceof BridgeFolder) || !/\.zip$/i.test(name)) return undefined;
  const id = crypto.randomUUID();
  options.onProgress({ phase: `Reading “${name}” where it lies`, done: 0, total: 0, unit: 'bytes' });
  const taken = await vault.takeDownload(id, { name, copy }, options.signal);
  if (!taken) return undefined;
  let kept = false;
  try {
    const blob = await vault.packBlob(id, taken.size);
    if (!blob) return undefined;
    const pack = await openPack(blob, name, options);
    if (pack.archive !== blob) return undefined;
    const brought = await keepPack(session, { pack, name, size: taken.size, sha256: taken.sha256, there: { id, crc32: taken.crc32 } }, options);
    kept = session.notes.some((note) => note.id === id);
    return { brought: [brought], refused: [] };
  } catch (error) {
    // What only the page can open goes through it.
    if (error instanceof PackError && ['encrypted', 'not-an-archive'].includes(error.code)) return undefined;
    throw error;
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
      const there = parts.length === 1 && password === undefined ? await takeWhereItLies(session, name, copy, options) : undefined;
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
