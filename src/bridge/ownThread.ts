import { Worker } from 'node:worker_threads';
import { SatchelError } from '@/core';
import type { Listener } from './carryOut';
import type { FromThread, ToThread } from './thread';
import type { Archive } from './unpackThread';
import type { News, Run } from './wire';

/** A thread that nothing came for is ended after this time (milliseconds). */
const IDLE = 120_000;

let ready: { thread: Worker; timer: NodeJS.Timeout } | undefined;
/** Runs that are being carried out on threads. */
let running = 0;

/**
 * Gets ready for a run that seems to be coming: starts a thread, which takes a third of a second, and opens the
 * archive. Not while a run is under way: a pack that is sent meanwhile is that run's.
 */
export function expectRun(archive?: Archive): void {
  if (running > 0) return;
  ready ??= start();
  ready.timer.refresh();
  if (archive) ready.thread.postMessage({ expect: archive } satisfies ToThread);
}

function start(): NonNullable<typeof ready> {
  const thread = new Worker(new URL('./thread.ts', import.meta.url));
  const timer = setTimeout(() => {
    ready = undefined;
    void thread.terminate();
  }, IDLE);
  timer.unref();
  thread.unref();
  // One that ends by itself is not the ready one any more.
  thread
    .once('error', () => undefined)
    .once('exit', () => {
      clearTimeout(timer);
      if (ready?.thread === thread) ready = undefined;
    });
  return { thread, timer };
}

function takeThread(): Worker {
  const { thread, timer } = ready ?? start();
  ready = undefined;
  clearTimeout(timer);
  thread.ref();
  return thread;
}

/** Carries a run out on a thread of its own. Where that ends unasked, the journal stays open for the next start. */
export async function onOwnThread(order: Run, { signal, tell, ask }: Listener): Promise<News> {
  const thread = takeThread();
  running++;
  const say = (words: ToThread) => thread.postMessage(words);
  const stop = () => say({ stop: true });
  try {
    return await new Promise<News>((done, failed) => {
      const lost = (cause: unknown) =>
        failed(new SatchelError('left-open', { why: 'a part of the app’s own server ended' }, { cause }));
      thread.once('error', lost).once('exit', lost);
      thread.on('message', (words: FromThread) => {
        if ('last' in words) done(words.last);
        else if ('stuck' in words) void ask(words.stuck).then((answer) => say({ answer }), lost);
        else tell(words.news);
      });
      say({ order });
      signal.addEventListener('abort', stop, { once: true });
      if (signal.aborted) stop();
    });
  } finally {
    running--;
    signal.removeEventListener('abort', stop);
    await thread.terminate();
  }
}
