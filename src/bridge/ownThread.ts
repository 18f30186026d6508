import { Worker } from 'node:worker_threads';
import { SatchelError } from '@/core';
import type { Listener } from './carryOut';
import type { FromThread, ToThread } from './thread';
import type { News, Run } from './wire';

/** Carries a run out on a thread of its own. Where that ends unasked, the journal stays open for the next start. */
export async function onOwnThread(order: Run, { signal, tell, ask }: Listener): Promise<News> {
  const thread = new Worker(new URL('./thread.ts', import.meta.url), { workerData: order });
  const say = (words: ToThread) => thread.postMessage(words);
  const stop = () => say({ stop: true });
  try {
    return await new Promise<News>((done, failed) => {
      const lost = (cause: unknown) => failed(new SatchelError('left-open', { why: 'a part of the app’s own server ended' }, { cause }));
      thread.once('error', lost).once('exit', lost);
      thread.on('message', (words: FromThread) => {
        if ('last' in words) done(words.last);
        else if ('stuck' in words) void ask(words.stuck).then((answer) => say({ answer }), lost);
        else tell(words.news);
      });
      signal.addEventListener('abort', stop, { once: true });
      if (signal.aborted) stop();
    });
  } finally {
    signal.removeEventListener('abort', stop);
    await thread.terminate();
  }
}
