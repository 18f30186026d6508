import {
  SatchelError,
  groupDownloads,
  isDownload,
  openPack,
  toFailure,
  type ArchivePart,
  type PackNotice,
  type WorkOptions,
} from '@/core';
import { fetchDownload, markOfDownload } from '@/folders/bridge';
import { BridgeFolder } from '@/folders/bridgeFolder';
import type { BringInCommands, Intake, Said } from '../contract';
import { keepPack, type Taken } from '../game/keepPack';
import type { Session } from '../game/session';
import { bringIn } from './intake';
import { writeNotes } from '../game/written';

/** A download, by its own name and those of its parts. */
interface Wanted {
  name: string;
  parts: readonly string[];
  password: string | undefined;
}

/** What the server has of a download, and what it was. */
type There = Omit<Taken, 'pack' | 'there'> & {
  there: NonNullable<Taken['there']>;
  kept: number;
  notices: PackNotice[];
};

/** Takes a download in where it lies, if it can be read so. */
async function takeAsItIs(
  vault: BridgeFolder,
  id: string,
  { name, parts, password, copy }: Wanted & { copy: boolean },
  options: Required<WorkOptions>,
): Promise<There | undefined> {
  if (parts.length > 1 || password !== undefined || !/\.zip$/i.test(name)) return undefined;
  options.onProgress({ phase: `Reading “${name}” where it lies`, done: 0, total: 0, unit: 'bytes' });
  const taken = await vault.takeDownload(id, { name, copy }, options.signal);
  return (
    taken && {
      name,
      size: taken.size,
      sha256: taken.sha256,
      kept: taken.size,
      notices: [],
      there: { id, crc32: taken.crc32 },
    }
  );
}

/** Takes it in unpacked: it is packed in another way, in parts, or with a password. */
async function takeUnpacked(
  vault: BridgeFolder,
  id: string,
  wanted: Wanted,
  options: Required<WorkOptions>,
): Promise<There | undefined> {
  const found = await vault.unpackDownload(id, wanted, options);
  return (
    found && {
      name: wanted.name,
      size: found.size,
      sha256: found.sha256,
      kept: found.kept.size,
      notices: found.notices,
      there: { id, crc32: found.kept.crc32, format: found.format },
    }
  );
}

/**
 * The server reads a download where it lies: nothing of it goes through the page.
 *
 * @returns undefined where it is no pack that can be read so
 */
async function takeWhereItLies(
  session: Session,
  wanted: Wanted,
  copy: boolean,
  options: Required<WorkOptions>,
): Promise<Intake | undefined> {
  const { vault } = session.workshop;
  if (!(vault instanceof BridgeFolder)) return undefined;
  const asItIs = await takeThere(
    session,
    vault,
    (id) => takeAsItIs(vault, id, { ...wanted, copy }, options),
    options,
  ).catch((error: unknown) => {
    // What the page cannot unpack from there the server can, or it says what is wrong.
    if (error instanceof SatchelError && ['damaged', 'unsupported', 'not-an-archive'].includes(error.code))
      return undefined;
    throw error;
  });
  if (asItIs) return asItIs;
  return takeThere(session, vault, (id) => takeUnpacked(vault, id, wanted, options), options).catch(
    (error: unknown) => {
      // It only calls itself an archive: such files go in together with others of their kind.
      if (error instanceof SatchelError && error.code === 'not-an-archive') return undefined;
      throw error;
    },
  );
}

/**
 * @returns undefined where it is not there, or no plain ZIP that can be read piece by piece: then nothing of it is left
 */
async function takeThere(
  session: Session,
  vault: BridgeFolder,
  take: (id: string) => Promise<There | undefined>,
  options: Required<WorkOptions>,
): Promise<Intake | undefined> {
  const id = crypto.randomUUID();
  let kept = false;
  try {
    const there = await take(id);
    const blob = there && (await vault.packBlob(id, there.kept));
    if (!blob) return undefined;
    const pack = await openPack(blob, there.name, options);
    if (pack.archive !== blob) return undefined;
    const brought = await keepPack(
      session,
      { ...there, pack: { ...pack, notices: [...there.notices, ...pack.notices] } },
      options,
    );
    kept = session.notes.some((note) => note.id === id);
    return { brought: [brought], refused: [] };
  } finally {
    // What stays is a file beside the originals that nothing needs: it takes room, and no more.
    if (!kept) await vault.removePack(id).catch(() => undefined);
  }
}

/** Takes downloads in: what can be read where it lies is, all else goes through the page as if it were dropped. */
export async function takeDownloads(
  session: Session,
  { names, password, copy = false }: Said<BringInCommands['take downloads']>,
  options: Required<WorkOptions>,
): Promise<Intake> {
  const all: Intake = { brought: [], refused: [] };
  const groups = groupDownloads(names.filter(isDownload).map((name) => ({ name })));
  const take = async ({ name, parts }: (typeof groups)[number]): Promise<void> => {
    try {
      options.signal.throwIfAborted();
      const there = await takeWhereItLies(
        session,
        { name, parts: parts.map((part) => part.name), password },
        copy,
        options,
      );
      const came = there ?? (await bringIn(session, await fetched(parts, options), password, options));
      all.brought.push(...came.brought);
      await noteOrigins(session, came, parts[0]?.name ?? name);
      all.refused.push(...came.refused);
    } catch (error) {
      if (groups.length === 1) throw error;
      all.refused.push({ name, failure: toFailure(error) });
    }
  };
  await session.writing.whileMany(async () => {
    for (const group of groups) await take(group);
  });
  return all;
}

/** Notes where a download came from, where the system knows and the player has not said. */
async function noteOrigins(session: Session, { brought }: Intake, name: string): Promise<void> {
  const fresh = brought.filter(({ known }) => !known).map(({ layer }) => session.layer(layer).packId);
  // That it cannot be had is no reason to do without the pack.
  const origin = fresh.length === 0 ? undefined : await markOfDownload(name).catch(() => undefined);
  if (origin === undefined) return;
  const unmarked = fresh.filter((id) => session.note(id)?.origin === undefined);
  if (unmarked.length > 0) await writeNotes(session, unmarked, { origin });
}

async function fetched(
  parts: readonly { name: string }[],
  { signal, onProgress }: Required<WorkOptions>,
): Promise<ArchivePart[]> {
  const found: ArchivePart[] = [];
  for (const { name } of parts) {
    onProgress({ phase: `Reading “${name}”`, done: found.length, total: parts.length, unit: 'files' });
    found.push({ name, data: await fetchDownload(name, signal) });
  }
  return found;
}
