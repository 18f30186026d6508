import type { FileHandle } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { SatchelError, crc32OfFile, hashOfFile, inParallel, type Digest, type FileStat } from '@/core';
import type { DiskFolder } from './disk';
import { FILES_A_LINE, toChangeLines, toListPiece, type LookedSoFar } from './wire';

async function* piecesOfList(folder: DiskFolder, under: string): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  const line = (value: unknown) => encoder.encode(`${JSON.stringify(value)}\n`);
  let waiting: FileStat[] = [];
  const links: string[] = [];
  for await (const stat of folder.list(under, (path) => links.push(path))) {
    waiting.push(stat);
    if (waiting.length < FILES_A_LINE) continue;
    yield line(toListPiece(waiting));
    waiting = [];
  }
  yield line(toListPiece(waiting));
  // The last line says that nothing is missing.
  yield line({ end: true, links });
}

const asLines = (lines: AsyncIterable<Uint8Array> | Iterable<Uint8Array>): Response =>
  new Response(Readable.toWeb(Readable.from(lines, { objectMode: false })) as ReadableStream, {
    headers: { 'Content-Type': 'application/x-ndjson', 'Cache-Control': 'no-store' },
  });

/** What has come, gone or been written in a folder since an earlier look, a line for some hundreds of files. */
export async function listChanges(
  folder: DiskFolder,
  since: string | null,
  anew: boolean,
  signal: AbortSignal,
): Promise<Response> {
  const told: LookedSoFar[] = [];
  let wake: (() => void) | undefined;
  const onLooked = (looked: number) => {
    told.push({ looked });
    wake?.();
  };
  const changes = folder.changes(since ?? undefined, { anew, onLooked, signal });
  const news = () => Promise.race([changes, new Promise<void>((done) => (wake = done))]);
  // What is wrong from the beginning can still be said in words; later on the answer is cut off.
  let found = await news();
  const encoder = new TextEncoder();
  const encoded = (line: unknown) => encoder.encode(`${JSON.stringify(line)}\n`);
  const all = async function* () {
    for (; !found; found = await news()) for (const one of told.splice(0)) yield encoded(one);
    for (const line of toChangeLines(found)) yield encoded(line);
  };
  return asLines(all());
}

/** Every file of a folder, a line for some hundreds of them. */
export async function listFiles(folder: DiskFolder, under: string): Promise<Response> {
  const pieces = piecesOfList(folder, under);
  // What is wrong from the beginning can still be said in words; later on the list is cut off.
  const first = await pieces.next();
  const all = async function* () {
    if (!first.done) yield first.value;
    yield* pieces;
  };
  return asLines(all());
}

/**
 * A file's bytes, streamed from the disk: all, or those that a `Range` asks for (RFC 9110, 14.2, one range with both
 * ends).
 */
export async function sendFile(folder: DiskFolder, path: string, range: string | null = null): Promise<Response> {
  const { handle, size } = await folder.openFile(path);
  return sendBytes(handle, size, range);
}

export async function sendBytes(handle: FileHandle, size: number, range: string | null): Promise<Response> {
  const asked = /^bytes=(\d{1,15})-(\d{1,15})$/.exec(range ?? '');
  const start = asked ? Number(asked[1]) : 0;
  // The size that was told is kept, even if the file grows meanwhile.
  const end = Math.min(asked ? Number(asked[2]) : size - 1, size - 1);
  const length = Math.max(0, end - start + 1);
  const stream = length === 0 ? undefined : handle.createReadStream({ start, end, highWaterMark: 1024 * 1024 });
  if (!stream) await handle.close();
  return new Response(stream ? (Readable.toWeb(stream) as ReadableStream) : null, {
    status: asked ? 206 : 200,
    headers: {
      'Content-Type': 'application/octet-stream',
      'Content-Length': String(length),
      ...(asked ? { 'Content-Range': `bytes ${start}-${end}/${size}` } : {}),
      'Content-Disposition': 'attachment',
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': "default-src 'none'; sandbox",
      'Cache-Control': 'no-store',
    },
  });
}

/**
 * Takes a file's bytes as they come. The size must be said first, must fit on the disk, and is kept to: a body without
 * an end fills nothing.
 */
export async function takeFile(folder: DiskFolder, path: string, request: Request): Promise<void> {
  const said = request.headers.get('content-length');
  const size = Number(said);
  if (said === null || !Number.isSafeInteger(size) || size < 0)
    throw new SatchelError('folder-refused', { path, why: 'its size was not said' });
  const { left } = await folder.room();
  if (size > left) throw new SatchelError('folder-refused', { path, why: 'the disk is full' });
  await folder.writeFrom(path, async (handle) => {
    let got = 0;
    for await (const piece of (request.body ?? []) as AsyncIterable<Uint8Array>) {
      got += piece.length;
      if (got > size) throw new SatchelError('folder-refused', { path, why: 'more came than was said' });
      await handle.writeFile(piece);
    }
    if (got !== size) throw new SatchelError('folder-refused', { path, why: 'not all of it came' });
  });
}

/** Checksums of files, in the order asked for; null where one is missing. Large ones go through memory in pieces. */
export async function digestsOf(
  folder: DiskFolder,
  kind: Digest,
  paths: readonly string[],
): Promise<(string | null)[]> {
  const found: (string | null)[] = new Array<string | null>(paths.length).fill(null);
  await inParallel(paths.entries(), 4, async ([i, path]) => {
    try {
      found[i] =
        (kind === 'sha256' ? await hashOfFile(folder, path) : (await crc32OfFile(folder, path))?.toString(16)) ?? null;
    } catch (error) {
      // One that may not be read keeps no other from being told; who needs it asks for it by itself, and hears why.
      if (!(error instanceof SatchelError && error.code === 'folder-refused')) throw error;
    }
  });
  return found;
}
