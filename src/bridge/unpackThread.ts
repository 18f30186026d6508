import { hash } from 'node:crypto';
import { statSync } from 'node:fs';
import { parentPort } from 'node:worker_threads';
import { toFailure, type Failure, type Hashed, type Pack, type PackFile } from '@/core';
import { DiskFolder } from './disk';
import { openArchive } from './packs';

/**
 * The second thread of a run: it hashes half of the originals, and then unpacks files ahead of the one that writes
 * them. It hashes them, too, while that one has enough to write.
 */

export interface Archive {
  /** Its path on this computer. */
  archive: string;
  /** What the player calls it. */
  name: string;
}
/**
 * What the thread is told: what archive it is going to be, files to be hashed, which files of the archive to unpack,
 * and then how many bytes of them were taken.
 */
export type ToUnpacking =
  | { expect: Archive }
  | { hash: number; root: string; of: string }
  | { from: Archive; read: readonly string[] }
  | { taken: number };
export type FromUnpacking = { hashed: number; found?: Hashed | undefined; failure?: Failure } | FromReading;
export type FromReading = { files: PackFile[] } | { end: true } | { failure: Failure };

/** Bytes that may wait to be taken. */
const AHEAD = 8 * 1024 * 1024;
/** Bytes that are enough to write for a while. */
const ENOUGH = 4 * 1024 * 1024;
/** Files and bytes that go over together. */
const [FILES, BYTES] = [32, 1024 * 1024];

let waiting = 0;
let wake: (() => void) | undefined;

const say = (words: FromUnpacking, transfer: ArrayBuffer[] = []): void => parentPort?.postMessage(words, transfer);

parentPort?.on('message', (words: ToUnpacking) => {
  // It only opens ahead: the one who needs it opens it again, and is told.
  if ('expect' in words) return void open(words.expect).catch(() => undefined);
  if ('hash' in words) return void look(words);
  if ('read' in words)
    return void unpack(words.from, words.read).then(
      () => say({ end: true }),
      (error: unknown) => say({ failure: toFailure(error) }),
    );
  waiting -= words.taken;
  wake?.();
});

const folders = new Map<string, DiskFolder>();

async function look({ hash, root, of }: { hash: number; root: string; of: string }): Promise<void> {
  try {
    const folder = folders.get(root) ?? DiskFolder.open(root);
    folders.set(root, folder);
    say({ hashed: hash, found: await folder.statAndHash(of) });
  } catch (error) {
    say({ hashed: hash, failure: toFailure(error) });
  }
}

let opened: { as: string; pack: Promise<Pack> } | undefined;

/** Opens an archive, unless it is the one that was opened before and has not changed since. */
async function open({ archive, name }: Archive): Promise<Pack> {
  const { ino, mtimeMs, size } = statSync(archive);
  const as = [archive, name, ino, mtimeMs, size].join('\n');
  if (opened?.as !== as) opened = { as, pack: openArchive(archive, name) };
  return opened.pack;
}

async function unpack(from: Archive, read: readonly string[]): Promise<void> {
  const pack = await open(from);
  let files: PackFile[] = [];
  let bytes = 0;
  const send = async () => {
    waiting += bytes;
    say(
      { files },
      files.map(({ data }) => data.buffer),
    );
    [files, bytes] = [[], 0];
    // What was taken meanwhile is heard now.
    await new Promise((done) => setImmediate(done));
    // Nothing more is unpacked meanwhile: what is waiting may be one large file.
    while (waiting > AHEAD) await new Promise<void>((go) => (wake = go));
  };
  for await (const { path, data } of pack.readMany(read)) {
    files.push(waiting < ENOUGH ? { path, data } : { path, data, sha256: hash('sha256', data) });
    bytes += data.length;
    if (files.length >= FILES || bytes >= BYTES) await send();
  }
  if (files.length > 0)
    say(
      { files },
      files.map(({ data }) => data.buffer),
    );
}
