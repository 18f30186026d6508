import { mkdirSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import path from 'node:path';
import { Worker } from 'node:worker_threads';
import { SatchelError, toFailure, type WorkOptions } from '@/core';
import type { DiskFolder } from './disk';
import { newsLines } from './newsLines';
import { archivePath } from './packs';
import type { FromTaking, Taking } from './takingThread';
import type { TakingNews, Unpacked } from './wire';

/**
 * Unpacks a download where it lies and keeps it as a plain ZIP among the packs of a game, in a thread of its own:
 * nothing of it goes through the page.
 *
 * @param files its volumes in their order, or the one file that it is
 * @param name what the player calls it
 * @throws SatchelError as `openPack`, `folder-refused`, `cancelled`: then nothing of it is left
 */
export async function unpackDownload(
  vault: DiskFolder,
  id: string,
  { files, name, password }: Omit<Taking, 'to'>,
  { signal, onProgress }: WorkOptions,
): Promise<Unpacked> {
  const to = archivePath(vault, id);
  mkdirSync(path.dirname(to), { recursive: true });
  const begun: string[] = [];
  const thread = new Worker(new URL('./takingThread.ts', import.meta.url));
  let stop: () => void = () => undefined;
  try {
    return await new Promise<Unpacked>((done, failed) => {
      const lost = (cause: unknown) =>
        failed(new SatchelError('unexpected', { why: 'the part of the app that unpacks ended' }, { cause }));
      stop = () => failed(new SatchelError('cancelled'));
      thread.once('error', lost).once('exit', lost);
      thread.on('message', (words: FromTaking) => {
        if ('part' in words) begun.push(words.part);
        else if ('progress' in words) onProgress?.(words.progress);
        else if ('unpacked' in words) done(words.unpacked);
        else failed(new SatchelError(words.failure.code, words.failure.details));
      });
      thread.postMessage({ files, name, password, to } satisfies Taking);
      signal?.addEventListener('abort', stop);
      if (signal?.aborted) stop();
    });
  } catch (error) {
    await thread.terminate();
    // Nobody knows of it.
    begun.push(to);
    throw error;
  } finally {
    signal?.removeEventListener('abort', stop);
    await thread.terminate();
    for (const file of begun) await rm(file, { force: true });
  }
}

/** The same, told line by line as it goes on. @returns null where there is nothing to be unpacked */
export function startUnpacking(
  work: (options: WorkOptions) => Promise<Unpacked | undefined>,
  signal: AbortSignal,
): Response {
  const stop = new AbortController();
  return newsLines<TakingNews>(
    async (tell) => {
      try {
        return {
          unpacked:
            (await work({
              signal: AbortSignal.any([signal, stop.signal]),
              onProgress: (progress) => tell({ progress }),
            })) ?? null,
        };
      } catch (error) {
        return { failure: toFailure(error) };
      }
    },
    () => stop.abort(),
  );
}
