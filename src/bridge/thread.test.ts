import { beforeEach, describe, expect, it, vi } from 'vitest';
import { SatchelError, targetSchema, type Stuck, type StuckAnswer } from '@/core';
import { threadsHere } from '../../tests/support/threadsHere';
import { WAIT } from '../../tests/support/system';
import type { Listener } from './carryOut';
import * as carrying from './carryOut';
import { expectRun, onOwnThread } from './ownThread';
import { runSchema, type News, type Run } from './wire';

/** A run on a thread, from the order to its last news; what is carried out is tried in run.test.ts and beyond. */

vi.mock('node:worker_threads', async (real) =>
  (await import('../../tests/support/threadsHere')).asThreadsHere(await real()),
);
vi.mock('./carryOut');
const carryOut = vi.mocked(carrying.carryOut);

const order = runSchema.parse({
  main: '0123456789abcdef',
  roots: { game: { folder: '0123456789abcdef' } },
  packs: [],
  run: 'one',
  work: { do: 'recover' },
});
const over: News = { recovered: true };
const stuck: Stuck = { target: targetSchema.parse('game/a.txt'), why: 'another program uses it' };

/** A run, what it told, and what is asked. */
function start(answer: () => Promise<StuckAnswer> = async () => 'leave', signal = new AbortController().signal) {
  const told: News[] = [];
  const asked: Stuck[] = [];
  const tell = (news: News) => void told.push(news);
  const ask = (one: Stuck) => {
    asked.push(one);
    return answer();
  };
  return { told, asked, last: onOwnThread(order, { signal, tell, ask }) };
}
const runThreads = () => threadsHere.filter(({ name }) => name === 'thread.ts');

beforeEach(() => {
  // The one that unpacks is begun once.
  threadsHere.splice(0, Infinity, ...threadsHere.filter(({ name }) => name === 'unpackThread.ts'));
  carryOut.mockReset();
});

describe('a run on a thread of its own', () => {
  it('is carried out as it was ordered, tells what happens, and its thread ends', async () => {
    const progress = { phase: 'Writing', done: 1, total: 2, unit: 'files' as const };
    carryOut.mockImplementationOnce(async (what: Run, { tell, openLarge }: Listener) => {
      expect(what).toEqual(order);
      // Archives of which much is wanted are unpacked ahead.
      expect(openLarge?.name).toBe('unpackAhead');
      tell({ progress });
      return over;
    });
    const { told, last } = start();
    const ended = vi.fn();
    runThreads()[0]?.once('exit', ended);
    expect(await last).toEqual(over);
    expect(told).toEqual([{ progress }]);
    expect(ended).toHaveBeenCalledTimes(1);
    // The one that hashes and unpacks is there from the beginning.
    expect(threadsHere.map(({ name }) => name)).toEqual(['thread.ts', 'unpackThread.ts']);
  });

  it.each<StuckAnswer>(['leave', 'again', 'take back'] as StuckAnswer[])('asks, and hears “%s”', async (answer) => {
    const heard: StuckAnswer[] = [];
    carryOut.mockImplementationOnce(async (_: Run, { ask }: Listener) => {
      heard.push(await ask(stuck), await ask({ ...stuck, why: 'again' }));
      return over;
    });
    const { asked, last } = start(async () => answer);
    expect(await last).toEqual(over);
    expect(heard).toEqual([answer, answer]);
    expect(asked).toEqual([stuck, { ...stuck, why: 'again' }]);
  });

  it('one that cannot be asked any more is left open', async () => {
    carryOut.mockImplementationOnce(async (_: Run, { ask }: Listener) => {
      await ask(stuck);
      return over;
    });
    const cause = new Error('nobody listens');
    await expect(start(() => Promise.reject(cause)).last).rejects.toMatchObject({ code: 'left-open', cause });
  });

  it('what it throws is its last news', async () => {
    const refusal = new SatchelError('folder-refused', { path: 'a', why: 'the disk is full' });
    carryOut.mockRejectedValueOnce(refusal);
    expect(await start().last).toEqual({ failure: refusal.failure });
  });

  it.each(['before', 'while it waits for an answer'])('is stopped %s: everything is taken back', async (when) => {
    const stop = new AbortController();
    if (when === 'before') stop.abort();
    const heard: unknown[] = [];
    carryOut.mockImplementationOnce(async (_: Run, { ask, signal }: Listener) => {
      if (when === 'before') await vi.waitFor(() => expect(signal.aborted).toBe(true), WAIT);
      heard.push(await ask(stuck), signal.aborted);
      // Nobody is asked once it has been stopped.
      heard.push(await ask(stuck));
      return over;
    });
    const { asked, last } = start(() => {
      stop.abort();
      return new Promise(() => undefined);
    }, stop.signal);
    expect(await last).toEqual(over);
    expect(heard).toEqual(['take back', true, 'take back']);
    expect(asked).toHaveLength(when === 'before' ? 0 : 1);
  });

  it('listens to nobody afterwards', async () => {
    carryOut.mockResolvedValueOnce(over);
    const { signal } = new AbortController();
    const remove = vi.spyOn(signal, 'removeEventListener');
    await start(undefined, signal).last;
    expect(remove.mock.calls.map(([event]) => event)).toContain('abort');
    const heard = runThreads()[0]?.told.length;
    signal.dispatchEvent(new Event('abort'));
    expect(runThreads()[0]?.told).toHaveLength(heard ?? 0);
  });

  it.each([
    ['fails', 'error', new Error('out of memory')],
    ['ends', 'exit', 3],
  ])('one whose thread %s stays open for the next start', async (_, event, cause) => {
    carryOut.mockReturnValueOnce(new Promise(() => undefined));
    const { last } = start();
    runThreads()[0]?.emit(event, cause);
    await expect(last).rejects.toMatchObject({
      code: 'left-open',
      failure: { details: { why: 'a part of the app’s own server ended' } },
      cause,
    });
  });
});

describe('a thread that is ready', () => {
  const archive = { archive: '/vault/p.zip', name: 'p.zip' };

  it('keeps the server from ending only once a run has it, and opens the archive that is coming', async () => {
    carryOut.mockResolvedValueOnce(over);
    expectRun(archive);
    const [ready] = runThreads();
    expect([ready?.isRef, ready?.told]).toEqual([false, [{ expect: archive }]]);
    const { last } = start();
    expect(ready?.isRef).toBe(true);
    await last;
    expect(runThreads()).toHaveLength(1);
    const unpacking = threadsHere.find(({ name }) => name === 'unpackThread.ts');
    expect(unpacking?.told).toContainEqual({ expect: archive });
  });

  it('is taken by the next run, and no other is made ready while runs are under way', async () => {
    const finish: ((news: News) => void)[] = [];
    carryOut.mockImplementation(() => new Promise((done) => finish.push(done)));
    expectRun();
    const first = start();
    // The end of a pack that is sent while the originals are kept.
    expectRun(archive);
    expect([runThreads().length, runThreads()[0]?.told]).toEqual([1, [{ order }]]);
    const second = start();
    expect(runThreads()).toHaveLength(2);
    await vi.waitFor(() => expect(finish).toHaveLength(2), WAIT);
    // Either of them may have begun first.
    finish.shift()?.(over);
    await Promise.race([first.last, second.last]);
    expectRun();
    expect(runThreads()).toHaveLength(2);
    finish[0]?.(over);
    await Promise.all([first.last, second.last]);
    expectRun();
    expect(runThreads()).toHaveLength(3);
    runThreads()[2]?.emit('exit', 1);
  });

  it('ends when nothing has come for two minutes since it was last expected, but not under a run', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
    try {
      expectRun();
      const ended = vi.fn();
      runThreads()[0]?.once('exit', ended);
      vi.advanceTimersByTime(119_000);
      expectRun();
      vi.advanceTimersByTime(119_999);
      expect(ended).not.toHaveBeenCalled();
      vi.advanceTimersByTime(1);
      expect(ended).toHaveBeenCalledTimes(1);
      expectRun();
      expect(runThreads()).toHaveLength(2);
      let finish: (news: News) => void = () => undefined;
      carryOut.mockReturnValueOnce(new Promise((done) => (finish = done)));
      const { last } = start();
      const [, second] = runThreads();
      const early = vi.fn();
      second?.once('exit', early);
      vi.advanceTimersByTime(1_000_000);
      expect(early).not.toHaveBeenCalled();
      await vi.waitFor(() => expect(carryOut).toHaveBeenCalled(), WAIT);
      finish(over);
      expect(await last).toEqual(over);
    } finally {
      vi.useRealTimers();
    }
  });

  it.each(['error', 'exit'])('one that ends by itself (%s) is not the ready one any more', (event) => {
    expectRun();
    const [ready] = runThreads();
    ready?.emit(event, new Error('out of memory'));
    ready?.emit('exit', 1);
    expectRun();
    expect(runThreads()).toHaveLength(2);
    runThreads()[1]?.emit('exit', 1);
  });
});
