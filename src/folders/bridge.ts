import { z } from 'zod';
import {
  KEY_HEADER,
  downloadListSchema,
  failureSchema,
  givenFolderSchema,
  type DownloadList,
  type GivenFolder,
} from '@/bridge/wire';
import { SatchelError } from '@/core';

/** How requests are made; a test brings its own. */
export type Ask = (address: string, options?: RequestInit) => Promise<Response>;

let key = '';

/** The key to the app's own server, as the address held it that the start printed. */
export const setBridgeKey = (value: string): void => void (key = value);

/** Asks the app's own server. @throws SatchelError `server-gone` where it does not answer, `cancelled` */
export const ask: Ask = async (address, options = {}) => {
  try {
    return await fetch(address, { ...options, headers: { ...options.headers, [KEY_HEADER]: key } });
  } catch (error) {
    if (options.signal?.aborted) throw new SatchelError('cancelled');
    throw new SatchelError('server-gone', {}, { cause: error });
  }
};

/** Makes a failure out of an answer that is none. */
export async function orFailure(response: Response): Promise<Response> {
  if (response.ok) return response;
  // An answer that is no JSON is no failure of ours: it is told by its number below.
  const read = z.object({ failure: failureSchema }).safeParse(await response.json().catch(() => undefined));
  if (read.success) throw new SatchelError(read.data.failure.code, read.data.failure.details);
  throw new SatchelError('unexpected', { why: `the app’s own server answered ${response.status}` });
}

/**
 * The folders that the app may use; none where the page does not know the key. `asks`: this computer can be asked for
 * more.
 *
 * @throws SatchelError `server-gone`
 */
export async function givenFolders(
  how: Ask = ask,
): Promise<{ folders: GivenFolder[]; closed: boolean; asks: boolean }> {
  const response = await how('/bridge/folders');
  if (!response.ok) {
    // An answer that nobody reads would stay open.
    await response.body?.cancel();
    return { folders: [], closed: response.status === 401, asks: false };
  }
  return { folders: z.array(givenFolderSchema).parse(await response.json()), closed: false, asks: true };
}

/**
 * Lets this computer ask its user for a folder, in its own dialog.
 *
 * @param near the name of a folder that one of the usual places may have
 * @returns undefined where the player changed their mind
 * @throws SatchelError `no-dialog`, `dialog-open`, `folder-twice`, `backup-in-game`, `whole-disk`, `server-gone`
 */
export async function chooseFolder(near?: string, how: Ask = ask): Promise<GivenFolder | undefined> {
  const response = await orFailure(
    await how('/bridge/choose', {
      method: 'POST',
      body: JSON.stringify(near === undefined ? {} : { near }),
      headers: { 'Content-Type': 'application/json' },
    }),
  );
  return givenFolderSchema.nullable().parse(await response.json()) ?? undefined;
}

/**
 * The downloads folder, as it is now; undefined where none was given.
 *
 * @throws SatchelError `folder-gone`, `server-gone`
 */
export async function listDownloads(how: Ask = ask): Promise<DownloadList | undefined> {
  return (
    downloadListSchema.nullable().parse(await (await orFailure(await how('/bridge/downloads'))).json()) ?? undefined
  );
}

/**
 * Lets this computer ask its user for the downloads folder.
 *
 * @returns as it is then; undefined where none is given
 * @throws SatchelError `no-dialog`, `dialog-open`, `whole-disk`, `downloads-in-game`, `server-gone`
 */
export async function chooseDownloads(how: Ask = ask): Promise<DownloadList | undefined> {
  const response = await orFailure(
    await how('/bridge/choose', {
      method: 'POST',
      body: JSON.stringify({ what: 'downloads' }),
      headers: { 'Content-Type': 'application/json' },
    }),
  );
  return downloadListSchema.nullable().parse(await response.json()) ?? undefined;
}

/** The app looks into the downloads folder no more; nothing in it changes. */
export async function forgetDownloads(how: Ask = ask): Promise<void> {
  await orFailure(await how('/bridge/downloads', { method: 'DELETE' }));
}

/**
 * A download's bytes, for what has to go through the page.
 *
 * @throws SatchelError `folder-missing-file`, `server-gone`
 */
export async function fetchDownload(name: string, signal?: AbortSignal, how: Ask = ask): Promise<Blob> {
  const response = await orFailure(
    await how(`/bridge/downloads/file?${new URLSearchParams({ path: name }).toString()}`, signal ? { signal } : {}),
  );
  return response.blob().catch(gone);
}

/** Where a download came from, as the system noted it. @throws SatchelError `folder-missing-file`, `server-gone` */
export async function markOfDownload(name: string, how: Ask = ask): Promise<string | undefined> {
  const response = await orFailure(
    await how(`/bridge/downloads/mark?${new URLSearchParams({ path: name }).toString()}`),
  );
  return (
    z
      .string()
      .max(2000)
      .nullable()
      .parse(await response.json()) ?? undefined
  );
}

/** Takes a chosen folder away again. @throws SatchelError `journal-open`, `server-gone` */
export async function forgetFolder(id: string, how: Ask = ask): Promise<void> {
  await orFailure(await how(`/bridge/folders/${id}`, { method: 'DELETE' }));
}

/** An answer's bytes break off where the server is ended. */
export const gone = (cause: unknown): never => {
  throw new SatchelError('server-gone', {}, { cause });
};

/** Lines of JSON, as they come. @throws SatchelError `server-gone` where they break off */
export async function* jsonLines(response: Response): AsyncGenerator<unknown> {
  const decoder = new TextDecoder();
  const reader = response.body?.getReader();
  let rest = '';
  try {
    for (;;) {
      const { done, value } = (await reader?.read().catch(gone)) ?? { done: true, value: undefined };
      if (done) return;
      rest += decoder.decode(value, { stream: true });
      const lines = rest.split('\n');
      rest = lines.pop() ?? '';
      for (const line of lines) if (line !== '') yield JSON.parse(line);
    }
  } finally {
    // Where nobody wants to hear more, the server need not say it.
    await reader?.cancel().catch(() => undefined);
  }
}
