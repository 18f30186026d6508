import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it } from 'vitest';
import { emptyStack, plainCard, readSetUp, type Stack } from '@/core';
import { MemoryFolder } from '../../../tests/support/memoryFolder';
import { keepOnDisk, meetDisk } from './onDisk';
import type { Session } from './session';

/** As much of a session as knows the disk: another browser, or the same one opened again. */
const sessionOn = (backup: MemoryFolder, id: string, stack: Stack = emptyStack): Session =>
  ({
    workshop: { backup },
    game: { id, card: plainCard(id, 'Game'), statements: [], kind: 'bridge', handles: {}, given: {} },
    stack,
    setUps: [],
    notes: [],
  }) as unknown as Session;
const playing = (launchLine: string): Stack => ({ ...emptyStack, launchLine });
const lineOnDisk = async (folder: MemoryFolder): Promise<string | undefined> => {
  const found = await readSetUp(folder);
  return found.is === 'there' ? found.written.stack.launchLine : undefined;
};

describe('what was decided, and the disk', () => {
  let [one, two] = ['', ''];
  beforeEach(() => {
    [one, two] = [crypto.randomUUID(), crypto.randomUUID()];
  });

  it('a browser that was ended before it had written the disk writes when the game is opened again', async () => {
    const folder = new MemoryFolder();
    const before = sessionOn(folder, one, playing('-a'));
    await keepOnDisk(before);
    // Remembered in the browser, and ended right there.
    const again = sessionOn(folder, one, playing('-b'));
    expect(await meetDisk(again)).toEqual({ goOn: undefined, trouble: [] });
    expect(again.elsewhere).toBeUndefined();
    await keepOnDisk(again);
    expect(await lineOnDisk(folder)).toBe('-b');
  });

  it('nothing is written where nothing was decided since', async () => {
    const folder = new MemoryFolder();
    await keepOnDisk(sessionOn(folder, one, playing('-a')));
    const again = sessionOn(folder, one, playing('-a'));
    await meetDisk(again);
    const files = async () => {
      const all: string[] = [];
      for await (const { path } of folder.list()) all.push(path);
      return all;
    };
    const there = await files();
    await keepOnDisk(again);
    await keepOnDisk(again);
    expect(await files()).toEqual(there);
  });

  it('what another browser wrote while this one was open is not buried: the player is asked', async () => {
    const folder = new MemoryFolder();
    const first = sessionOn(folder, one, playing('-a'));
    await keepOnDisk(first);
    const second = sessionOn(folder, two);
    expect((await meetDisk(second)).goOn?.written.stack.launchLine).toBe('-a');
    second.stack = playing('-two');
    await keepOnDisk(second);
    first.stack = playing('-one');
    await keepOnDisk(first);
    expect(first.elsewhere).toMatchObject({ written: { stack: { launchLine: '-two' } } });
    expect(await lineOnDisk(folder)).toBe('-two');
    // Until it is answered nothing is written; then the one that was chosen is.
    first.stack = playing('-still');
    await keepOnDisk(first);
    expect(await lineOnDisk(folder)).toBe('-two');
    first.elsewhere = undefined;
    await keepOnDisk(first);
    expect(await lineOnDisk(folder)).toBe('-still');
    expect(first.elsewhere).toBeUndefined();
  });

  it('one that this browser wrote and something damaged since is written again, and nobody is asked', async () => {
    const folder = new MemoryFolder();
    const before = sessionOn(folder, one, playing('-a'));
    await keepOnDisk(before);
    before.stack = playing('-b');
    await keepOnDisk(before);
    await folder.write(before.latestOnDisk ?? '', new Uint8Array([1, 2]));
    const again = sessionOn(folder, one, playing('-b'));
    expect((await meetDisk(again)).trouble).toMatchObject([{ code: 'bad-memory' }]);
    expect(again.elsewhere).toBeUndefined();
    await keepOnDisk(again);
    expect(await lineOnDisk(folder)).toBe('-b');
  });

  it('two that have decided the same are one', async () => {
    const folder = new MemoryFolder();
    await keepOnDisk(sessionOn(folder, one, playing('-a')));
    const second = sessionOn(folder, two, playing('-a'));
    expect(await meetDisk(second)).toEqual({ goOn: undefined, trouble: [] });
    expect(second.elsewhere).toBeUndefined();
  });
});
