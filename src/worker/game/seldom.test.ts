import { beforeEach, describe, expect, it, vi } from 'vitest';
import { Seldom } from './seldom';

describe('writing while many changes follow each other', () => {
  let written: string[] = [];
  let state = 0;
  const note = (seldom: Seldom<'list' | 'other'>, what: 'list' | 'other' = 'list') =>
    seldom.write(what, async () => void written.push(`${what} ${state}`));
  beforeEach(() => {
    vi.useFakeTimers();
    written = [];
    state = 0;
  });

  it('writes each change at once, as long as they come one by one', async () => {
    const seldom = new Seldom(['other', 'list']);
    for (state = 1; state <= 3; state++) await note(seldom);
    expect(written).toEqual(['list 1', 'list 2', 'list 3']);
  });

  it('of many the last state is written now and then, and at the end; each list by its name', async () => {
    const seldom = new Seldom(['other', 'list']);
    await seldom.whileMany(async () => {
      for (state = 1; state <= 25; state++) {
        vi.advanceTimersByTime(100);
        await note(seldom);
        await note(seldom, 'other');
      }
      state = 25;
    });
    // After a second each, and what was left at the end; what the list speaks of is there before it.
    expect(written).toEqual(['other 10', 'list 10', 'other 20', 'list 20', 'other 25', 'list 25']);
    await note(seldom);
    expect(written.at(-1)).toBe('list 25');
  });

  it('what broke off has written what came before; what could not be written is told, and tried again', async () => {
    const seldom = new Seldom(['other', 'list']);
    await expect(
      seldom.whileMany(async () => {
        state = 1;
        await note(seldom);
        throw new Error('broken off');
      }),
    ).rejects.toThrow('broken off');
    expect(written).toEqual(['list 1']);
    let full = true;
    const writing = async () => {
      if (full) throw new Error('no room');
      written.push('room');
    };
    await expect(seldom.whileMany(() => seldom.write('list', writing))).rejects.toThrow('no room');
    full = false;
    await note(seldom, 'other');
    expect(written).toEqual(['list 1', 'other 1', 'room']);
  });

  it('what is to be written while another write is under way is not forgotten', async () => {
    const seldom = new Seldom(['other', 'list']);
    let go = () => {};
    await seldom.whileMany(async () => {
      vi.advanceTimersByTime(1000);
      state = 1;
      const slow = seldom.write('list', async () => {
        written.push('list 1');
        await new Promise<void>((done) => (go = done));
      });
      await Promise.resolve();
      state = 2;
      vi.setSystemTime(Date.now() - 1000);
      await note(seldom);
      go();
      await slow;
      expect(written).toEqual(['list 1']);
    });
    expect(written).toEqual(['list 1', 'list 2']);
  });

  it('one within the other counts as one', async () => {
    const seldom = new Seldom(['other', 'list']);
    await seldom.whileMany(async () => {
      await seldom.whileMany(() => note(seldom));
      expect(written).toEqual(['list 0']);
      await note(seldom);
      expect(written).toEqual(['list 0']);
    });
    expect(written).toEqual(['list 0', 'list 0']);
  });
});
