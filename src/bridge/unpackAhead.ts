import { Worker } from 'node:worker_threads';
import { SatchelError, throwIfAborted, type PackFile, type PackReader } from '@/core';
import { openArchive } from './packs';
import type { FromUnpacking, ToUnpacking } from './unpackThread';

let ready: Worker | undefined;

/** Starts a thread that is going to unpack: it takes a third of a second. */
export function expectUnpacking(): Worker {
  if (ready) return ready;
  ready = new Worker(new URL('./unpackThread.ts', import.meta.url));
  ready.unref();
  // What went wrong shows where files are asked for.
  ready.on('error', () => undefined);
  return ready;
}

/**
 * An archive whose files are unpacked and hashed on a thread of their own, which starts at once.
 *
 * @param expected the files that will be asked for first, in their order; where others are, they are unpacked here
 */
export function unpackAhead(archive: string, name: string, expected: readonly string[]): PackReader {
  let unpacking: Unpacking | undefined = new Unpacking(archive, name, expected);
  let here: Promise<PackReader> | undefined;
  const open = () => (here ??= openArchive(archive, name));
  return {
    read: async (path) => (await open()).read(path),
    chunks: async function* (path) {
      const pack = await open();
      if (pack.chunks) yield* pack.chunks(path);
      else yield await pack.read(path);
    },
    readMany: async function* (paths, options) {
      const wanted = [...paths];
      const ahead = unpacking;
      unpacking = undefined;
      if (ahead && wanted.length === expected.length && wanted.every((path, i) => path === expected[i])) return yield* ahead.files(options);
      await ahead?.end();
      yield* (await open()).readMany(wanted, options);
    },
  };
}

/** Files on their way from the thread that unpacks them. */
class Unpacking {
  private readonly thread: Worker;
  private readonly said: FromUnpacking[] = [];
  private wake: (() => void) | undefined;
  private lost: { why: unknown } | undefined;

  constructor(archive: string, name: string, read: readonly string[]) {
    this.thread = expectUnpacking();
    ready = undefined;
    this.thread.on('message', (words: FromUnpacking) => {
      this.said.push(words);
      this.wake?.();
    });
    const lose = (why: unknown) => {
      this.lost ??= { why };
      this.wake?.();
    };
    this.thread.once('error', lose).once('exit', lose);
    this.say({ archive, name, read });
  }

  private say(words: ToUnpacking): void {
    this.thread.postMessage(words);
  }

  /** All of them; the thread ends with the last. */
  async *files({ signal }: { signal?: AbortSignal } = {}): AsyncGenerator<PackFile> {
    this.thread.ref();
    try {
      for (;;) {
        throwIfAborted(signal);
        const words = this.said.shift();
        if (!words) {
          if (this.lost) throw new SatchelError('unexpected', { why: 'the part of the app that unpacks ended' }, { cause: this.lost.why });
          await new Promise<void>((go) => (this.wake = go));
          continue;
        }
        if ('end' in words) return;
        if ('failure' in words) throw new SatchelError(words.failure.code, words.failure.details);
        for (const file of words.files) {
          yield file;
          this.say({ taken: file.data.length });
        }
      }
    } finally {
      await this.end();
    }
  }

  async end(): Promise<void> {
    await this.thread.terminate();
  }
}
