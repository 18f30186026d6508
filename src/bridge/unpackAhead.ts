import { hash } from 'node:crypto';
import { Worker } from 'node:worker_threads';
import { SatchelError, throwIfAborted, type Hashed, type PackFile, type PackReader } from '@/core';
import { openArchive } from './packs';
import type { Archive, FromReading, FromUnpacking, ToUnpacking } from './unpackThread';

/** Files that the second thread has to hash at a time: enough to keep it busy, few enough that nobody waits for it. */
const HASHES = 16;

/** The second thread of a run. It ends with its one reading of an archive. */
class Helper {
  private readonly thread = new Worker(new URL('./unpackThread.ts', import.meta.url));
  private readonly said: FromReading[] = [];
  private wake: (() => void) | undefined;
  private lost: { why: unknown } | undefined;
  private readonly hashing = new Map<
    number,
    { done: (found: Hashed | undefined) => void; failed: (why: unknown) => void }
  >();
  private asked = 0;

  constructor() {
    this.thread.unref();
    this.thread.on('message', (words: FromUnpacking) => {
      if ('hashed' in words)
        this.answer(
          words.hashed,
          words.found,
          words.failure && new SatchelError(words.failure.code, words.failure.details),
        );
      else this.said.push(words);
      this.wake?.();
    });
    const lose = (why: unknown) => {
      this.lost ??= { why };
      for (const number of [...this.hashing.keys()]) this.answer(number, undefined, this.gone());
      this.wake?.();
    };
    this.thread.once('error', lose).once('exit', lose);
  }

  private gone(): SatchelError {
    return new SatchelError('unexpected', { why: 'the part of the app that unpacks ended' }, { cause: this.lost?.why });
  }

  private say(words: ToUnpacking): void {
    this.thread.postMessage(words);
  }

  expect(archive: Archive): void {
    this.say({ expect: archive });
  }

  private answer(number: number, found: Hashed | undefined, failure: unknown): void {
    const asked = this.hashing.get(number);
    this.hashing.delete(number);
    if (this.hashing.size === 0) this.thread.unref();
    if (failure) asked?.failed(failure);
    else asked?.done(found);
  }

  /** @returns undefined where it has enough to do */
  hash(root: string, of: string): Promise<Hashed | undefined> | undefined {
    if (this.lost || this.hashing.size >= HASHES) return undefined;
    this.thread.ref();
    return new Promise((done, failed) => {
      this.hashing.set(++this.asked, { done, failed });
      this.say({ hash: this.asked, root, of });
    });
  }

  /** Files of an archive, unpacked; the thread ends with the last. */
  async *files(
    from: Archive,
    read: readonly string[],
    { signal }: { signal?: AbortSignal } = {},
  ): AsyncGenerator<PackFile> {
    if (helper === this) helper = undefined;
    this.thread.ref();
    this.say({ from, read });
    try {
      for (;;) {
        throwIfAborted(signal);
        const words = this.said.shift();
        if (!words) {
          if (this.lost) throw this.gone();
          await new Promise<void>((go) => (this.wake = go));
          continue;
        }
        if ('end' in words) return;
        if ('failure' in words) throw new SatchelError(words.failure.code, words.failure.details);
        for (const file of words.files) {
          yield { ...file, sha256: file.sha256 ?? hash('sha256', file.data) };
          this.say({ taken: file.data.length });
        }
      }
    } finally {
      await this.thread.terminate();
    }
  }
}

let helper: Helper | undefined;

/** Starts the second thread, which takes a third of a second, and lets it read an archive’s list of contents. */
export function expectUnpacking(archive?: Archive): void {
  helper ??= new Helper();
  if (archive) helper.expect(archive);
}

/**
 * Hashes a file on the second thread, while there is one that unpacks nothing yet.
 *
 * @returns undefined where it has enough to do
 */
export const hashOnHelper = (root: string, of: string): Promise<Hashed | undefined> | undefined =>
  helper?.hash(root, of);

let isFirst = true;

/** An archive whose files are unpacked and hashed on a thread of their own. For threads that carry out one run. */
export function unpackAhead(archive: string, name: string): PackReader {
  // Its list of contents is read while originals are being kept.
  if (isFirst) expectUnpacking({ archive, name });
  isFirst = false;
  let here: Promise<PackReader> | undefined;
  const open = () => (here ??= openArchive(archive, name));
  return {
    read: async (path) => (await open()).read(path),
    chunks: async function* (path) {
      const pack = await open();
      if (pack.chunks) yield* pack.chunks(path);
      else yield await pack.read(path);
    },
    readMany: (paths, options) => (helper ?? new Helper()).files({ archive, name }, [...paths], options),
  };
}
