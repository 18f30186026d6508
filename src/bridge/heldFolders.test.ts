import { fstatSync, mkdirSync, openSync, realpathSync, renameSync } from 'node:fs';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { temporaryFolder } from '../../tests/support/tools';
import { HeldFolders } from './heldFolders';

/** Which folders are open is asked of the system: a number that is closed is none (fstat(2), EBADF). */
const isOpen = (fd: number): boolean => {
  try {
    fstatSync(fd);
    return true;
  } catch {
    return false;
  }
};

describe.skipIf(process.platform !== 'linux')('folders that are held open for a moment', () => {
  beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] }));
  afterEach(() => void vi.useRealTimers());

  const place = (count = 1) => {
    const top = realpathSync(temporaryFolder());
    return Array.from({ length: count }, (_, i) => {
      const real = path.join(top, String(i));
      mkdirSync(real);
      return { real, fd: openSync(real, 'r') };
    });
  };
  const one = () => place()[0] as ReturnType<typeof place>[number];

  it('are found again, and closed some time after the last has used them', () => {
    const { real, fd } = one();
    const folders = new HeldFolders();
    expect(folders.find(real)).toBeUndefined();
    const held = folders.keep(real, fd);
    expect(folders.find(real)).toBe(held);
    expect(held.users).toBe(2);
    folders.release(held);
    vi.advanceTimersByTime(250);
    // Somebody still uses it.
    expect(isOpen(fd)).toBe(true);
    folders.release(held);
    vi.advanceTimersByTime(249);
    expect(isOpen(fd)).toBe(true);
    vi.advanceTimersByTime(1);
    expect([isOpen(fd), folders.find(real)]).toEqual([false, undefined]);
  });

  it('one that is used again in the meantime is let go with the next round', () => {
    const { real, fd } = one();
    const folders = new HeldFolders();
    folders.release(folders.keep(real, fd));
    vi.advanceTimersByTime(200);
    const held = folders.find(real);
    vi.advanceTimersByTime(100);
    expect(isOpen(fd)).toBe(true);
    if (held) folders.release(held);
    vi.advanceTimersByTime(250);
    expect(isOpen(fd)).toBe(false);
  });

  it('one that was moved elsewhere counts no more, and is closed by who uses it last', () => {
    const { real, fd } = one();
    const folders = new HeldFolders();
    const held = folders.keep(real, fd);
    renameSync(real, `${real} elsewhere`);
    expect(folders.find(real)).toBeUndefined();
    expect(isOpen(fd)).toBe(true);
    folders.release(held);
    expect(isOpen(fd)).toBe(false);
  });

  it('one that was moved while nobody used it is closed at once', () => {
    const { real, fd } = one();
    const folders = new HeldFolders();
    folders.release(folders.keep(real, fd));
    renameSync(real, `${real} elsewhere`);
    expect([folders.find(real), isOpen(fd)]).toEqual([undefined, false]);
  });

  it('one that was opened twice is held once', () => {
    const { real, fd } = one();
    const folders = new HeldFolders();
    folders.release(folders.keep(real, fd));
    const again = openSync(real, 'r');
    const held = folders.keep(real, again);
    expect([isOpen(fd), isOpen(again), folders.find(real)]).toEqual([false, true, held]);
  });

  it('no more than 288, and of those that are let go the longest unused go first', () => {
    const folders = new HeldFolders();
    const all = place(290);
    for (const { real, fd } of all.slice(0, 288)) folders.release(folders.keep(real, fd));
    const [first, second, third] = all as [(typeof all)[0], (typeof all)[0], (typeof all)[0]];
    const used = folders.find(first.real);
    for (const { real, fd } of all.slice(288)) folders.release(folders.keep(real, fd));
    expect([first, second, third, all.at(-1)].map((of) => isOpen(of?.fd ?? -1))).toEqual([true, false, false, true]);
    expect(all.filter(({ fd }) => isOpen(fd))).toHaveLength(288);
    if (used) folders.release(used);
    vi.advanceTimersByTime(250);
    expect(all.filter(({ fd }) => isOpen(fd))).toEqual([]);
  });
});
