import type { DownloadList } from '@/bridge/wire';
import { SatchelError, comingName, groupDownloads, missingPart, nameKey } from '@/core';
import { listDownloads } from '@/folders/bridge';
import type { DownloadsView } from '../contract';
import type { Session } from '../game/session';

/** What lies in the downloads folder, sets of parts together, the newest first. */
export function downloadsView({ path, files }: DownloadList, session: Session | undefined): DownloadsView {
  const coming = new Map(
    files.flatMap((file) => {
      const name = comingName(file.name);
      return name === undefined ? [] : [[nameKey(name), file] as const];
    }),
  );
  const whole = files.filter(({ name }) => comingName(name) === undefined);
  const groups = groupDownloads(whole).map(({ name, parts }) => {
    const size = parts.reduce((sum, part) => sum + part.size, 0);
    const missing = missingPart(parts);
    const writing = parts.some((part) => !part.settled || part.size === 0 || coming.has(nameKey(part.name)));
    const note = session?.notes.find((one) => one.size === size && nameKey(one.file) === nameKey(name));
    const layer = note && session?.packLayers().find(({ packId }) => packId === note.id);
    return {
      name,
      parts: parts.map((part) => part.name),
      size,
      modified: Math.max(...parts.map((part) => part.modified)),
      waits: writing
        ? { why: 'coming' as const }
        : missing === undefined
          ? undefined
          : { why: 'part' as const, name: missing },
      taken: layer?.name,
    };
  });
  // Of some nothing is there yet but what is half-way.
  const alone = [...coming]
    .filter(([key]) => !whole.some(({ name }) => nameKey(name) === key))
    .map(([, file]) => ({
      name: comingName(file.name) ?? file.name,
      parts: [file.name],
      size: file.size,
      modified: file.modified,
      waits: { why: 'coming' as const },
      taken: undefined,
    }));
  return {
    path,
    downloads: [...groups, ...alone].sort((a, b) => b.modified - a.modified || (a.name < b.name ? -1 : 1)),
  };
}

/** The downloads folder as it is now. */
export async function lookAtDownloads(session: Session | undefined): Promise<DownloadsView | undefined> {
  try {
    const list = await listDownloads();
    return list && downloadsView(list, session);
  } catch (error) {
    if (error instanceof SatchelError && error.code === 'folder-gone')
      return { path: error.failure.details.path ?? '', gone: true, downloads: [] };
    if (error instanceof SatchelError && ['server-gone', 'bridge-closed', 'unknown-thing'].includes(error.code))
      return undefined;
    throw error;
  }
}
