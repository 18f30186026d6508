import { closeSync, fstatSync, renameSync, statfsSync } from 'node:fs';
import path from 'node:path';
import { parentPort } from 'node:worker_threads';
import {
  crc32OfBlob,
  gatherBlob,
  openPack,
  setBlobStore,
  setUnpacker,
  sha256,
  toFailure,
  zipPack,
  blobPasses,
  SatchelError,
  type Failure,
  type Pack,
  type Progress,
} from '@/core';
import { FileSink, diskBlob, diskFiles, openForReading } from './diskBlob';
import { refused } from './diskCalls';
import './platform';
import { diskUnpacker } from './library';
import type { Unpacked } from './wire';

/* A thread of the app's own server that unpacks one download, and keeps it as a plain ZIP among the packs of a game. */

export interface Taking {
  /** Its volumes in their order, or the one file that it is. */
  files: string[];
  /** What the player calls it. */
  name: string;
  password?: string | undefined;
  /** Where it is to lie. */
  to: string;
}
/** `part`: a file that is begun, to be removed where this thread is ended. */
export type FromTaking = { part: string } | { progress: Progress } | { unpacked: Unpacked } | { failure: Failure };

const say = (words: FromTaking): void => parentPort?.postMessage(words);
/** Room that an archive needs besides its files (bytes): for each file, and in all. */
const [EACH, ALL] = [400, 64 * 1024];

parentPort?.once(
  'message',
  (taking: Taking) =>
    void take(taking).then(
      (unpacked) => say({ unpacked }),
      (error: unknown) => say({ failure: toFailure(error) }),
    ),
);

setUnpacker(diskUnpacker);

async function take({ files, name, password, to }: Taking): Promise<Unpacked> {
  const sinks: FileSink[] = [];
  setBlobStore({
    sink: () => {
      const sink = new FileSink(path.dirname(to));
      say({ part: sink.at });
      sinks.push(sink);
      return sink;
    },
    join: (blobs) => diskBlob(blobs.flatMap(diskFiles)),
  });
  const opened: ReturnType<typeof openForReading>[] = [];
  const onProgress = told();
  try {
    for (const file of files) opened.push(openForReading(file));
    const [first, ...moreParts] = opened.map((one, i) => ({
      name: path.basename(files[i] ?? ''),
      data: diskBlob([one]),
    }));
    if (!first) throw new SatchelError('folder-missing-file', { path: name });
    const pack = await openPack(first.data, moreParts.length > 0 ? first.name : name, {
      onProgress,
      moreParts,
      ...(password === undefined ? {} : { password }),
    });
    checkRoom(pack, path.dirname(to));
    const archive = await (pack.archive ? gatherBlob(blobPasses(pack.archive)) : zipPack(pack, { onProgress }));
    const kept = { size: archive.size, crc32: await crc32OfBlob(archive) };
    // Who writes to one of them now is not done with it.
    if (opened.some(({ fd, modified }) => fstatSync(fd).mtimeMs !== modified))
      throw new SatchelError('still-coming', { name });
    const whole = diskBlob(opened);
    const found: Unpacked = {
      size: whole.size,
      sha256: await sha256(whole, { onProgress }),
      kept,
      format: pack.format,
      notices: pack.notices,
    };
    const last = sinks.at(-1);
    last?.settle();
    renameSync(last?.at ?? '', to);
    return found;
  } catch (error) {
    throw error instanceof SatchelError ? error : refused(name, error);
  } finally {
    for (const { fd } of opened) closeSync(fd);
    for (const sink of sinks) sink.remove();
  }
}

/** @throws SatchelError `folder-refused` where its files do not fit on the disk */
function checkRoom({ name, entries }: Pack, folder: string): void {
  const needed = entries.reduce((sum, { size, path: of }) => sum + size + EACH + 2 * of.length, ALL);
  const { bavail, bsize } = statfsSync(folder);
  if (needed > bavail * bsize) throw new SatchelError('folder-refused', { path: name, why: 'the disk is full' });
}

/** Tells how far it is, not more often than anybody reads. */
function told(): (progress: Progress) => void {
  let [phase, at] = ['', 0];
  return (progress) => {
    if (progress.phase === phase && performance.now() - at < 100) return;
    [phase, at] = [progress.phase, performance.now()];
    say({ progress });
  };
}
