import { z } from 'zod';
import {
  fromChangeLines,
  fromListPiece,
  listEndSchema,
  roomSchema,
  statSchema,
  statsSchema,
  takenSchema,
  takingNewsSchema,
  type BridgePart,
  type Taken,
  type Unpacked,
} from '@/bridge/wire';
import {
  SatchelError,
  type ChangesAsked,
  type Digest,
  type FileStat,
  type Folder,
  type FolderChanges,
  type Room,
  type WorkOptions,
} from '@/core';
import { ask, gone, jsonLines, orFailure, type Ask } from './bridge';
import { FarBlob } from './farBlob';

/** Where a pack lies among what the app keeps of a game. */
const packPath = (id: string): string => `packs/${id}.zip`;

/** Files that are asked about in one request. */
const STATS_AT_ONCE = 5000;

/** Checksums that are asked for in one request. */
const AT_ONCE = 500;

/** A folder on this computer's disk, through the app's own server. */
export class BridgeFolder implements Folder {
  constructor(
    private readonly id: string,
    private readonly part: BridgePart,
    private readonly how: Ask = ask,
  ) {}

  private async send(
    verb: string,
    path: string,
    options: RequestInit = {},
    more: Record<string, string> = {},
  ): Promise<Response> {
    return orFailure(
      await this.how(
        `/bridge/folder/${this.id}/${this.part}/${verb}?${new URLSearchParams({ path, ...more }).toString()}`,
        options,
      ),
    );
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

  async changes(
    since: string | undefined,
    { anew = false, onLooked, signal }: ChangesAsked = {},
  ): Promise<FolderChanges> {
    const asked = { ...(since === undefined ? {} : { since }), ...(anew ? { anew: '1' } : {}) };
    return fromChangeLines(jsonLines(await this.send('changes', '', signal ? { signal } : {}, asked)), onLooked);
  }

  async stats(paths: readonly string[]): Promise<(FileStat | undefined)[]> {
    const found: (FileStat | undefined)[] = [];
    for (let at = 0; at < paths.length; at += STATS_AT_ONCE) {
      const response = await this.send('stats', '', {
        method: 'POST',
        body: JSON.stringify(paths.slice(at, at + STATS_AT_ONCE)),
        headers: { 'Content-Type': 'application/json' },
      });
      for (const stat of statsSchema.parse(await response.json())) found.push(stat ?? undefined);
    }
    return found;
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
  async takeDownload(
    id: string,
    what: { name: string; copy?: boolean } | { size: number; sha256: string },
    signal?: AbortSignal,
  ): Promise<Taken | undefined> {
    const response = await this.send('take', id, {
      method: 'POST',
      body: JSON.stringify(what),
      headers: { 'Content-Type': 'application/json' },
      ...(signal ? { signal } : {}),
    });
    return takenSchema.nullable().parse(await response.json()) ?? undefined;
  }

  /**
   * Has a download unpacked that is no plain ZIP, and kept as one among the packs here; nothing of it comes through the
   * page.
   *
   * @param what its parts, or the content that is looked for whatever it is called now
   * @returns undefined where no download has that content
   * @throws SatchelError as `openPack`, `still-coming`, `folder-missing-file`, `folder-refused`
   */
  async unpackDownload(
    id: string,
    what: { name: string } & (
      { parts: readonly string[]; password?: string | undefined } | { size: number; sha256: string }
    ),
    { signal, onProgress }: WorkOptions = {},
  ): Promise<Unpacked | undefined> {
    const response = await this.send('unpack', id, {
      method: 'POST',
      body: JSON.stringify(what),
      headers: { 'Content-Type': 'application/json' },
      ...(signal ? { signal } : {}),
    });
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
    return new FarBlob(
      size,
      async (start, end) =>
        new Uint8Array(
          await (
            await this.send('file', path, { headers: { Range: `bytes=${start}-${end - 1}` } })
          )
            .arrayBuffer()
            .catch(gone),
        ),
    );
  }

  async removePack(id: string): Promise<void> {
    await this.remove(packPath(id));
  }

  async digests(kind: Digest, paths: readonly string[]): Promise<(string | undefined)[]> {
    const found: (string | undefined)[] = [];
    for (let i = 0; i < paths.length; i += AT_ONCE) {
      const response = await this.send(`digests-${kind}`, '', {
        method: 'POST',
        body: JSON.stringify(paths.slice(i, i + AT_ONCE)),
        headers: { 'Content-Type': 'application/json' },
      });
      found.push(
        ...z
          .array(z.string().nullable())
          .parse(await response.json())
          .map((digest) => digest ?? undefined),
      );
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
