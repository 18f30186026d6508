import { parentPort } from 'node:worker_threads';
import { toFailure, type Stuck, type StuckAnswer } from '@/core';
import { carryOut } from './carryOut';
import { setHashHelper } from './disk';
import { expectUnpacking, hashOnHelper, unpackAhead } from './unpackAhead';
import type { Archive } from './unpackThread';
import type { News, Run } from './wire';

/*
 * A thread of the app's own server that carries out one run: thousands of small files are written without keeping the
 * server from answering, and without what a server adds to every step of its own work.
 */

/** What the thread is told: what will be wanted, and its one order. */
export type ToThread = { expect: Archive } | { order: Run } | { stop: true } | { answer: StuckAnswer };
/** What it tells; the last of it says that it is over. */
export type FromThread = { news: News } | { stuck: Stuck } | { last: News };

const say = (words: FromThread): void => parentPort?.postMessage(words);
const stopper = new AbortController();
let answered: ((answer: StuckAnswer) => void) | undefined;

parentPort?.on('message', (words: ToThread) => {
  if ('expect' in words) return void expectUnpacking(words.expect);
  if ('order' in words) return void work(words.order).then((last) => say({ last }));
  if ('stop' in words) stopper.abort();
  answered?.('answer' in words ? words.answer : 'take back');
});

// Runs that get a thread mostly keep and unpack much.
expectUnpacking();
setHashHelper(hashOnHelper);

async function work(order: Run): Promise<News> {
  try {
    return await carryOut(order, {
      signal: stopper.signal,
      openLarge: unpackAhead,
      tell: (news) => say({ news }),
      ask: (stuck) =>
        new Promise((answer) => {
          answered = answer;
          if (stopper.signal.aborted) answer('take back');
          else say({ stuck });
        }),
    });
  } catch (error) {
    return { failure: toFailure(error) };
  }
}
