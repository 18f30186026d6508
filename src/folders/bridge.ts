import { z } from 'zod';
import { SatchelError, reasonOf, type Digest, type FileStat, type Folder, type Room } from '@/core';
import { failureSchema, fromListPiece, givenFolderSchema, roomSchema, statSchema, type BridgePart, type GivenFolder } from '@/bridge/wire';

/** How requests are made; a test brings its own. */
export type Ask = (address: string, options?: RequestInit) => Promise<Response>;

const ask: Ask = (address, options) => fetch(address, options);

/** Makes a failure out of an answer that is none. */
export async function orFailure(response: Response): Promise<Response> {
  if (response.ok) return response;
  if (response.status === 401) throw new SatchelError('bridge-closed');
  const read = z.object({ failure: failureSchema }).safeParse(await response.json().catch(() => undefined));
  if (read.success) throw new SatchelError(read.data.failure.code, read.data.failure.details);
  throw new SatchelError('unexpected', { why: `the app’s own server answered ${response.status}` });
}

/** The folders that the app was started with; none where it was started without, or the browser does not know the secret. */
export async function givenFolders(how: Ask = ask): Promise<{ folders: GivenFolder[]; closed: boolean }> {
  const response = await how('/bridge/folders').catch(() => undefined);
  if (!response?.ok) return { folders: [], closed: response?.status === 401 };
  return { folders: z.array(givenFolderSchema).parse(await response.json()), closed: false };
}

/** Lines of JSON, as they come. */
export async function* jsonLines(response: Response): AsyncGenerator<unknown> {
  let rest = '';
  for await (const piece of (response.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    rest += DECODER.decode(piece, { stream: true });
    const lines = rest.split('\n');
    rest = lines.pop() ?? '';
    for (const line of lines) if (line !== '') yield JSON.parse(line);
  }
}
const DECODER = new TextDecoder();

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
    try {
      return await orFailure(await this.how(`/bridge/folder/${this.id}/${this.part}/${verb}?${new URLSearchParams({ path, ...more }).toString()}`, options));
    } catch (error) {
      if (error instanceof SatchelError) throw error;
      throw new SatchelError('folder-refused', { path, why: `the app’s own server does not answer: ${reasonOf(error)}` }, { cause: error });
    }
  }

  async *list(under = ''): AsyncGenerator<FileStat> {
    let whole = false;
    for await (const line of jsonLines(await this.send('list', under))) {
      if (typeof line === 'object' && line !== null && 'end' in line) whole = true;
      else yield* fromListPiece(line);
    }
    if (!whole) throw new SatchelError('folder-refused', { path: under, why: 'the list of its files was cut off' });
  }

  async stat(path: string): Promise<FileStat | undefined> {
    return statSchema.nullable().parse(await (await this.send('stat', path)).json()) ?? undefined;
  }

  async read(path: string): Promise<Blob> {
    return (await this.send('file', path)).blob();
  }

  async readBytes(path: string): Promise<Uint8Array<ArrayBuffer>> {
    return new Uint8Array(await (await this.send('file', path)).arrayBuffer());
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
