import { createHash } from 'node:crypto';
import { parentPort, workerData } from 'node:worker_threads';
import { toFailure, type Failure, type PackFile } from '@/core';
import { openArchive } from './packs';

/** A thread that unpacks and hashes files of one archive ahead of the one that writes them. */

export interface UnpackWork {
  archive: string;
  name: string;
}
/** What the thread is told: which files to unpack, and how many bytes of them were taken. */
export type ToUnpacking = { read: string[] } | { taken: number };
export type FromUnpacking = { files: PackFile[] } | { end: true } | { failure: Failure };

/** Bytes that may wait to be taken. */
const AHEAD = 24 * 1024 * 1024;
/** Files and bytes that go over together. */
const [FILES, BYTES] = [32, 1024 * 1024];

const { archive, name } = workerData as UnpackWork;
const pack = openArchive(archive, name);
pack.catch(() => undefined);
let waiting = 0;
let wake: (() => void) | undefined;

const say = (words: FromUnpacking, transfer: ArrayBuffer[] = []): void => parentPort?.postMessage(words, transfer);

parentPort?.on('message', (words: ToUnpacking) => {
  if ('read' in words) return void unpack(words.read).then(() => say({ end: true }), (error: unknown) => say({ failure: toFailure(error) }));
  waiting -= words.taken;
  wake?.();
});

async function unpack(paths: string[]): Promise<void> {
  let files: PackFile[] = [];
  let bytes = 0;
  const send = async () => {
    waiting += bytes;
    say({ files }, files.map(({ data }) => data.buffer));
    [files, bytes] = [[], 0];
    // Nothing more is unpacked meanwhile: what is waiting may be one large file.
    while (waiting > AHEAD) await new Promise<void>((go) => (wake = go));
  };
  for await (const { path, data } of (await pack).readMany(paths)) {
    files.push({ path, data, sha256: createHash('sha256').update(data).digest('hex') });
    bytes += data.length;
    if (files.length >= FILES || bytes >= BYTES) await send();
  }
  if (files.length > 0) say({ files }, files.map(({ data }) => data.buffer));
}
