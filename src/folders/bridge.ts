import { z } from 'zod';
import { SatchelError, type Digest, type FileStat, type Folder, type Room, type WorkOptions } from '@/core';
import { KEY_HEADER, downloadListSchema, failureSchema, fromListPiece, givenFolderSchema, listEndSchema, roomSchema, statSchema, takenSchema, takingNewsSchema, type BridgePart, type DownloadList, type GivenFolder, type Taken, type Unpacked } from '@/bridge/wire';
import { FarBlob } from './farBlob';

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
  const read = z.object({ failure: failureSchema }).safeParse(await response.json().catch(() => undefined));
  if (read.success) throw new SatchelError(read.data.failure.code, read.data.failure.details);
  throw new SatchelError('unexpected', { why: `the app’s own server answered ${response.status}` });
}

/**
 * The folders that the app may use; none where the page does not know the key. `asks`: this computer can be asked for more.
 *
 * @throws SatchelError `server-gone`
 */
export async function givenFolders(how: Ask = ask): Promise<{ folders: GivenFolder[]; closed: boolean; asks: boolean }> {
  const response = await how('/bridge/folders');
  if (!response.ok) return { folders: [], closed: response.status === 401, asks: false };
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
  const response = await orFailure(await how('/bridge/choose', { method: 'POST', body: JSON.stringify(near === undefined ? {} : { near }), headers: { 'Content-Type': 'application/json' } }));
  return givenFolderSchema.nullable().parse(await response.json()) ?? undefined;
}

/** The downloads folder, as it is now; undefined where none was given. @throws SatchelError `folder-gone`, `server-gone` */
export async function listDownloads(how: Ask = ask): Promise<DownloadList | undefined> {
  return downloadListSchema.nullable().parse(await (await orFailure(await how('/bridge/downloads'))).json()) ?? undefined;
}

/** Lets this computer ask its user for the downloads folder. @returns as it is then; undefined where none is given @throws SatchelError `no-dialog`, `dialog-open`, `whole-disk`, `downloads-in-game`, `server-gone` */
export async function chooseDownloads(how: Ask = ask): Promise<DownloadList | undefined> {
  const response = await orFailure(await how('/bridge/choose', { method: 'POST', body: JSON.stringify({ what: 'downloads' }), headers: { 'Content-Type': 'application/json' } }));
  return downloadListSchema.nullable().parse(await response.json()) ?? undefined;
}

/** The app looks into the downloads folder no more; nothing in it changes. */
export async function forgetDownloads(how: Ask = ask): Promise<void> {
  await orFailure(await how('/bridge/downloads', { method: 'DELETE' }));
}

/** A download's bytes, for what has to go through the page. @throws SatchelError `folder-missing-file`, `server-gone` */
export async function fetchDownload(name: string, signal?: AbortSignal, how: Ask = ask): Promise<Blob> {
  const response = await orFailure(await how(`/bridge/downloads/file?${new URLSearchParams({ path: name }).toString()}`, signal ? { signal } : {}));
  return response.blob().catch(gone);
}

/** Takes a chosen folder away again. @throws SatchelError `journal-open`, `server-gone` */
export async function forgetFolder(id: string, how: Ask = ask): Promise<void> {
  await orFailure(await how(`/bridge/folders/${id}`, { method: 'DELETE' }));
}

/** An answer's bytes break off where the server is ended. */
const gone = (cause: unknown): never => {
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

/** Where a pack lies among what the app keeps of a game. */
const packPath = (id: string): string => `packs/${id}.zip`;

/** Checksums that are asked for in one request. */
const AT_ONCE = 500;

/** A folder on this computer's disk, through the app's own server. */
export class BridgeFolder implements Folder {
  constructor(
    private readonly id: string,
    private readonly part: BridgePart,
    private readonly how: Ask = ask,
  ) {}

  private async send(verb: string, path: string, options: RequestInit = {}, more: Record<string, string> = {}): Promise<Response> {
    return orFailure(await this.how(`/bridge/folder/${this.id}/${this.part}/${verb}?${new URLSearchParams({ path, ...more }).toString()}`, options));
  }

  async *list(under = '', onLink?: (path: string) => void): AsyncGenerator<FileStat> {
    let whole = false;
    for await (const line of jsonLines(await this.send('list', under))) {
      if (typeof line === 'object' && line !== null && 'end' in line) {
        const { links } = listEndSchema.parse(line);
        if (onLink) links.forEach(onLink);
        whole = true;
      } else yield* fromListPiece(line);
    }
    if (!whole) throw new SatchelError('folder-refused', { path: under, why: 'the list of its files was cut off' });
  }

  async stat(path: string): Promise<FileStat | undefined> {
    return statSchema.nullable().parse(await (await this.send('stat', path)).json()) ?? undefined;
  }

  async read(path: string): Promise<Blob> {
    return (await this.send('file', path)).blob().catch(gone);
  }

  async readBytes(path: string): Promise<Uint8Array<ArrayBuffer>> {
    return new Uint8Array(await (await this.send('file', path)).arrayBuffer().catch(gone));
  }

  async write(path: string, data: Blob | Uint8Array): Promise<void> {
    await this.send('file', path, { method: 'PUT', body: data as BodyInit });
  }

  /** Is a pack there? The server gets ready to unpack it. @param name what the player calls it */
  async hasPack(id: string, { size }: Blob, name: string): Promise<boolean> {
    return statSchema.nullable().parse(await (await this.send('pack', id, {}, { name })).json())?.size === size;
  }

  async sendPack(id: string, archive: Blob, signal: AbortSignal): Promise<void> {
    await this.send('pack', id, { method: 'PUT', body: archive, signal });
  }

  /**
   * Gives a download a second name among the packs here; nothing of it comes through the page.
   *
   * @param what its name, or the content that is looked for whatever it is called now
   * @returns undefined where no download has that content
   * @throws SatchelError `needs-copy`, `still-coming`, `folder-missing-file`, `folder-refused`
   */
  async takeDownload(id: string, what: { name: string; copy?: boolean } | { size: number; sha256: string }, signal?: AbortSignal): Promise<Taken | undefined> {
    const response = await this.send('take', id, { method: 'POST', body: JSON.stringify(what), headers: { 'Content-Type': 'application/json' }, ...(signal ? { signal } : {}) });
    return takenSchema.nullable().parse(await response.json()) ?? undefined;
  }

  /**
   * Has a download unpacked that is no plain ZIP, and kept as one among the packs here; nothing of it comes through the page.
   *
   * @param what its parts, or the content that is looked for whatever it is called now
   * @returns undefined where no download has that content
   * @throws SatchelError as `openPack`, `still-coming`, `folder-missing-file`, `folder-refused`
   */
  async unpackDownload(id: string, what: { name: string } & ({ parts: readonly string[]; password?: string | undefined } | { size: number; sha256: string }), { signal, onProgress }: WorkOptions = {}): Promise<Unpacked | undefined> {
    const response = await this.send('unpack', id, { method: 'POST', body: JSON.stringify(what), headers: { 'Content-Type': 'application/json' }, ...(signal ? { signal } : {}) });
    for await (const line of jsonLines(response)) {
      const news = takingNewsSchema.parse(line);
      if ('progress' in news) onProgress?.(news.progress);
      else if ('failure' in news) throw new SatchelError(news.failure.code, news.failure.details);
      else return news.unpacked ?? undefined;
    }
    throw new SatchelError('server-gone');
  }

  /** A pack that lies here, read as far as it is looked into; undefined where it is not there, or not of that size. */
  async packBlob(id: string, size: number): Promise<FarBlob | undefined> {
    const path = packPath(id);
    if ((await this.stat(path))?.size !== size) return undefined;
    return new FarBlob(size, async (start, end) => new Uint8Array(await (await this.send('file', path, { headers: { Range: `bytes=${start}-${end - 1}` } })).arrayBuffer().catch(gone)));
  }

  async removePack(id: string): Promise<void> {
    await this.remove(packPath(id));
  }

  async digests(kind: Digest, paths: readonly string[]): Promise<(string | undefined)[]> {
    const found: (string | undefined)[] = [];
    for (let i = 0; i < paths.length; i += AT_ONCE) {
      const response = await this.send(`digests-${kind}`, '', { method: 'POST', body: JSON.stringify(paths.slice(i, i + AT_ONCE)), headers: { 'Content-Type': 'application/json' } });
      found.push(...z.array(z.string().nullable()).parse(await response.json()).map((digest) => digest ?? undefined));
    }
    return found;
  }

  async remove(path: string): Promise<void> {
    await this.send('file', path, { method: 'DELETE' });
  }

  async hasFolder(path: string): Promise<boolean> {
    return z.boolean().parse(await (await this.send('folder', path)).json());
  }

  async removeFolder(path: string): Promise<boolean> {
    return z.boolean().parse(await (await this.send('folder', path, { method: 'DELETE' })).json());
  }

  async room(): Promise<Room> {
    return roomSchema.parse(await (await this.send('room', '')).json());
  }
}
