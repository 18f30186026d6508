import {
  PackError,
  groupDownloads,
  kindOf,
  openPack,
  packOfFiles,
  sha256,
  throwIfAborted,
  toFailure,
  type ArchivePart,
  type Download,
  type Pack,
  type WorkOptions,
} from '@/core';
import type { Intake } from '../contract';
import { keepPack, type Taken } from '../game/keepPack';
import type { Session } from '../game/session';

/**
 * One download, and how to read it; undefined where it turns out to be a plain file, which goes in with the others of
 * its kind.
 */
interface Coming {
  name: string;
  read(options: Required<WorkOptions>): Promise<Taken | undefined>;
}

/**
 * Reads downloads, keeps them, and puts them on top of the packs in the stack, one after the other. Volumes of one set
 * become one pack, a dropped folder becomes one, and loose files that came together become one. One that cannot be read
 * keeps no other out.
 *
 * @param files names, or paths where a folder was dropped
 * @throws what is wrong with it, where there is one download only
 */
export async function bringIn(
  session: Session,
  files: readonly ArchivePart[],
  password: string | undefined,
  options: Required<WorkOptions>,
): Promise<Intake> {
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
      if (!one.known) void session.carrier.sendAhead(session.layer(one.layer).packId);
    } catch (error) {
      if (coming.length <= 1) throw error;
      intake.refused.push({ name, failure: toFailure(error) });
    }
  };
  await session.writing.whileMany(async () => {
    for (const [i, one] of coming.entries()) {
      const which = coming.length > 1 ? `${i + 1} of ${coming.length}, “${one.name}”: ` : '';
      await take(one, {
        ...options,
        onProgress: (progress) => options.onProgress({ ...progress, phase: which + progress.phase }),
      });
    }
  });
  const [first] = loose;
  if (first)
    await take(
      {
        name: first.name,
        read: (told) =>
          measure(
            packOfFiles(
              loose.map(({ name, data }) => ({ path: name, data })),
              first.name,
              'file',
            ),
            loose,
            told,
          ),
      },
      options,
    );
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
    name,
    read: (options) =>
      measure(
        packOfFiles(
          parts.map(({ name: path, data }) => ({ path: path.slice(name.length + 1), data })),
          name,
        ),
        parts,
        options,
      ),
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
        if (
          !part ||
          kindOf(part.name) === 'archive' ||
          !(error instanceof PackError && error.code === 'not-an-archive')
        )
          throw error;
        loose.push(part);
        return undefined;
      }
    },
  }));
}

function openDownload(
  { name, parts }: Download,
  password: string | undefined,
  options: Required<WorkOptions>,
): Promise<Pack> {
  const [first, ...moreParts] = parts;
  return openPack(first?.data as Blob, name, {
    ...options,
    moreParts,
    ...(password === undefined ? {} : { password }),
  });
}

async function measure(pack: Pack, parts: readonly ArchivePart[], options: Required<WorkOptions>): Promise<Taken> {
  // Of files that were never packed the names are part of what they are.
  const whole =
    parts.length === 1
      ? (parts[0]?.data as Blob)
      : new Blob(
          parts.flatMap(({ name, data }) => [
            pack.format === 'folder' || pack.format === 'file' ? `${name}\n${data.size}\n` : '',
            data,
          ]),
        );
  return {
    pack,
    name: pack.name,
    size: parts.reduce((sum, { data }) => sum + data.size, 0),
    sha256: await sha256(whole, options),
  };
}
