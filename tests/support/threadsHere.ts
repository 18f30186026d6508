import { AsyncLocalStorage } from 'node:async_hooks';
import { EventEmitter } from 'node:events';
import path from 'node:path';
import type * as Threads from 'node:worker_threads';

/*
 * Threads of the server that run in the thread of the test, for `vi.mock`: what they do can be looked into, and counts
 * as tried. `builtThreads` is for what only a thread of its own can show: that it can be ended at any moment.
 */

/** Who a thread's code talks to. */
class Port extends EventEmitter {
  constructor(readonly outer: HereThread) {
    super();
  }

  postMessage(words: unknown, transfer: ArrayBuffer[] = []): void {
    this.outer.hear(structuredClone(words, { transfer }));
  }
}

const ports = new AsyncLocalStorage<Port>();
let begun = 0;

/** Threads as they were begun, by the name of their file. */
export const threadsHere: HereThread[] = [];

export class HereThread extends EventEmitter {
  readonly name: string;
  /** What it was told. */
  readonly told: unknown[] = [];
  isRef = true;
  private readonly port = new Port(this);
  private readonly ready: Promise<unknown>;
  private ended = false;

  constructor(url: URL | string) {
    super();
    this.name = path.basename(new URL(url).pathname);
    threadsHere.push(this);
    // Each thread has its own copy of its file.
    const file = `../../src/bridge/${this.name}?thread=${++begun}`;
    this.ready = ports.run(this.port, () => import(/* @vite-ignore */ file));
  }

  postMessage(words: unknown): void {
    this.told.push(words);
    void this.ready.then(() => {
      if (!this.ended) ports.run(this.port, () => this.port.emit('message', structuredClone(words)));
    });
  }

  /** @param words what its code says */
  hear(words: unknown): void {
    // As between threads: not before the one who speaks is done.
    setImmediate(() => {
      if (!this.ended) this.emit('message', words);
    });
  }

  ref(): void {
    this.isRef = true;
  }

  unref(): void {
    this.isRef = false;
  }

  async terminate(): Promise<number> {
    if (this.ended) return 0;
    this.ended = true;
    this.emit('exit', 1);
    return 1;
  }
}

/** Node's own module, with such threads. */
export const asThreadsHere = (real: typeof Threads): typeof Threads =>
  ({
    ...real,
    Worker: HereThread,
    get parentPort() {
      return ports.getStore() ?? null;
    },
  }) as unknown as typeof Threads;
