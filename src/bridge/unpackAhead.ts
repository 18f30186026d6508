import { Worker } from 'node:worker_threads';
import { SatchelError, throwIfAborted, type PackFile, type PackReader } from '@/core';
import { openArchive } from './packs';
import type { FromUnpacking, ToUnpacking, UnpackWork } from './unpackThread';

/** An archive whose files are unpacked and hashed on a thread of their own, which starts at once. */
export function unpackAhead(archive: string, name: string): PackReader {
  const thread = new Worker(new URL('./unpackThread.ts', import.meta.url), { workerData: { archive, name } satisfies UnpackWork });
  thread.unref();
  // What went wrong shows where files are asked for.
  thread.on('error', () => undefined);
  let here: Promise<PackReader> | undefined;
  let used = false;
  const open = () => (here ??= openArchive(archive, name));
  return {
    read: async (path) => (await open()).read(path),
    chunks: async function* (path) {
      const pack = await open();
      if (pack.chunks) yield* pack.chunks(path);
      else yield await pack.read(path);
    },
    readMany: async function* (paths, options) {
      if (used) yield* (await open()).readMany(paths, options);
      else {
        used = true;
        yield* unpackOn(thread, paths, options);
      }
    },
  };
}

/** One reading; the thread ends with it. */
async function* unpackOn(thread: Worker, paths: Iterable<string>, { signal }: { signal?: AbortSignal } = {}): AsyncGenerator<PackFile> {
  const say = (words: ToUnpacking) => thread.postMessage(words);
  const said: FromUnpacking[] = [];
  let wake: (() => void) | undefined;
  let lost: { why: unknown } | undefined;
  thread.on('message', (words: FromUnpacking) => {
    said.push(words);
    wake?.();
  });
  const lose = (why: unknown) => {
    lost ??= { why };
    wake?.();
  };
  thread.once('error', lose).once('exit', lose);
  thread.ref();
  say({ read: [...paths] });
  try {
    for (;;) {
      throwIfAborted(signal);
      const words = said.shift();
      if (!words) {
        if (lost) throw new SatchelError('unexpected', { why: 'the part of the app that unpacks ended' }, { cause: lost.why });
        await new Promise<void>((go) => (wake = go));
        continue;
      }
      if ('end' in words) return;
      if ('failure' in words) throw new SatchelError(words.failure.code, words.failure.details);
      for (const file of words.files) {
        yield file;
        say({ taken: file.data.length });
      }
    }
  } finally {
    await thread.terminate();
  }
}
