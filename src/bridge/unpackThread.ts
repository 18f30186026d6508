import { createHash } from 'node:crypto';
import { parentPort } from 'node:worker_threads';
import { toFailure, type Failure, type PackFile } from '@/core';
import { openArchive } from './packs';

/** A thread that unpacks and hashes files of one archive ahead of the one that writes them. */

/** What the thread is told: which files of what archive to unpack, once, and then how many bytes of them were taken. */
export type ToUnpacking = { archive: string; name: string; read: readonly string[] } | { taken: number };
export type FromUnpacking = { files: PackFile[] } | { end: true } | { failure: Failure };

/** Bytes that may wait to be taken. */
const AHEAD = 48 * 1024 * 1024;
/** Files and bytes that go over together. */
const [FILES, BYTES] = [32, 1024 * 1024];

let waiting = 0;
let wake: (() => void) | undefined;

const say = (words: FromUnpacking, transfer: ArrayBuffer[] = []): void => parentPort?.postMessage(words, transfer);

parentPort?.on('message', (words: ToUnpacking) => {
  if ('read' in words) return void unpack(words).then(() => say({ end: true }), (error: unknown) => say({ failure: toFailure(error) }));
  waiting -= words.taken;
  wake?.();
});

async function unpack({ archive, name, read }: { archive: string; name: string; read: readonly string[] }): Promise<void> {
  const pack = await openArchive(archive, name);
  let files: PackFile[] = [];
  let bytes = 0;
  const send = async () => {
    waiting += bytes;
    say({ files }, files.map(({ data }) => data.buffer));
    [files, bytes] = [[], 0];
    // Nothing more is unpacked meanwhile: what is waiting may be one large file.
    while (waiting > AHEAD) await new Promise<void>((go) => (wake = go));
  };
  for await (const { path, data } of pack.readMany(read)) {
    files.push({ path, data, sha256: createHash('sha256').update(data).digest('hex') });
    bytes += data.length;
    if (files.length >= FILES || bytes >= BYTES) await send();
  }
  if (files.length > 0) say({ files }, files.map(({ data }) => data.buffer));
}
