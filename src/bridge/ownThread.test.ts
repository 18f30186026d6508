import { EventEmitter } from 'node:events';
import { expect, it, vi } from 'vitest';
import { expectRun, onOwnThread } from './ownThread';
import { runSchema } from './wire';

/** When threads are started: each costs some forty megabytes. What they do is tried in the browser tests. */

const { threads } = vi.hoisted(() => ({ threads: [] as (EventEmitter & { said: unknown[] })[] }));
vi.mock('node:worker_threads', async () => {
  const { EventEmitter: Emitter } = await import('node:events');
  return {
    Worker: class extends Emitter {
      said: unknown[] = [];
      constructor() {
        super();
        threads.push(this);
      }
      postMessage = (words: unknown) => void this.said.push(words);
      ref = () => undefined;
      unref = () => undefined;
      terminate = async () => void this.emit('exit');
    },
  };
});

const order = runSchema.parse({
  main: '0123456789abcdef',
  roots: { game: { folder: '0123456789abcdef' } },
  packs: [],
  run: 'one',
  work: { do: 'recover' },
});
const archive = { archive: '/vault/p.zip', name: 'p.zip' };
const start = () =>
  onOwnThread(order, { signal: new AbortController().signal, tell: () => undefined, ask: async () => 'take back' });

it('one thread is made ready, the run takes it, and no other is while the run is under way', async () => {
  expectRun();
  expectRun(archive);
  expect(threads).toHaveLength(1);
  const run = start();
  expect(threads[0]?.said).toEqual([{ expect: archive }, { order }]);
  // The end of a pack that is sent while the originals are kept.
  expectRun(archive);
  expect(threads).toHaveLength(1);
  threads[0]?.emit('message', { last: { recovered: true } });
  expect(await run).toEqual({ recovered: true });
  expectRun(archive);
  expect(threads).toHaveLength(2);
});

it('a run that nobody expected starts its own thread; one whose thread ends by itself stays open', async () => {
  const first = start();
  const second = start();
  expect(threads).toHaveLength(3);
  threads[2]?.emit('exit');
  await expect(second).rejects.toMatchObject({ code: 'left-open' });
  // The first still runs.
  expectRun();
  expect(threads).toHaveLength(3);
  threads[1]?.emit('message', { last: { recovered: true } });
  await first;
  expectRun();
  expect(threads).toHaveLength(4);
});
