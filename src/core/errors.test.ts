import { Pool } from './progress';
import { describe, expect, it } from 'vitest';
import { ERRORS, PackError, SatchelError, inParallel, reasonOf, toFailure, type ErrorCode } from '@/core';

describe('the table of failures', () => {
  it.each(Object.entries(ERRORS))('%s: a sentence, and what to do next', (code, { says, next }) => {
    expect(says).toMatch(/[.)]$/);
    expect(next).toMatch(/[.]$/);
    // Words for players, not for programmers.
    expect(`${says} ${next}`).not.toMatch(/exception|null|undefined|stack trace|errno/i);
    const holes = [...says.matchAll(/\{(\w+)\}/g)].map(([, word]) => word as string);
    const filled = new SatchelError(code as ErrorCode, Object.fromEntries(holes.map((word) => [word, `<${word}>`])))
      .failure;
    expect(filled.says).not.toMatch(/[{}]/);
  });

  it('turns anything thrown into a failure', () => {
    expect(toFailure(new PackError('empty', { name: 'a.zip' }))).toMatchObject({
      code: 'empty',
      says: '“a.zip” is empty: it holds 0 bytes.',
    });
    expect(toFailure(new DOMException('stop', 'AbortError')).code).toBe('cancelled');
    expect(toFailure(new Error('disk on fire')).says).toContain('disk on fire');
    expect(toFailure('text').code).toBe('unexpected');
    expect(toFailure(undefined).code).toBe('unexpected');
  });

  it('keeps the reason of a failure inside another', () => {
    expect(reasonOf(new SatchelError('empty', { name: 'x' }))).toBe('“x” is empty: it holds 0 bytes');
  });
});

const later = (value: () => void): Promise<void> => new Promise((done) => setTimeout(done, 1)).then(value);

describe('work side by side', () => {
  it('inParallel runs everything, never more than the width at a time', async () => {
    let [running, most, done] = [0, 0, 0];
    await inParallel([...Array(20).keys()], 4, async () => {
      most = Math.max(most, ++running);
      await later(() => running--);
      done++;
    });
    expect([done, most]).toEqual([20, 4]);
  });

  it('inParallel ends what runs before it tells of a failure', async () => {
    let ended = 0;
    const work = inParallel([1, 2, 3], 3, async (item) => {
      if (item === 3) throw new Error('the third');
      await later(() => ended++);
    });
    await expect(work).rejects.toThrow('the third');
    expect(ended).toBe(2);
  });

  it('runs fewer at a time where they hold much, and one that is larger than all room alone', async () => {
    const MB = 1024 ** 2;
    let [held, most, together] = [0, 0, 0];
    let running = 0;
    const sizes = [10, 30, 30, 30, 200, 10, 30, 1];
    await inParallel(
      sizes,
      8,
      async (size) => {
        running++;
        held += size;
        most = Math.max(most, held);
        if (size === 200) together = Math.max(together, running);
        await later(() => {
          held -= size;
          running--;
        });
      },
      (size) => size * MB,
    );
    expect([most, together, held]).toEqual([200, 1, 0]);
    const pool = new Pool(8);
    for (const size of [40, 40, 40])
      await pool.run(async () => {
        most = Math.max(0, ++running);
        expect(running).toBe(1);
        await later(() => running--);
      }, size * MB);
    await pool.idle();
  });

  it('a pool bounds what is under way, and gives the failure to the next call', async () => {
    const pool = new Pool(2);
    let [running, most] = [0, 0];
    for (let i = 0; i < 8; i++)
      await pool.run(async () => {
        most = Math.max(most, ++running);
        await later(() => running--);
      });
    await pool.idle();
    expect(most).toBe(2);
    await pool.run(() => Promise.reject(new Error('broken')));
    await expect(pool.idle()).rejects.toThrow('broken');
    await pool.settled();
    let begun = false;
    await expect(pool.run(async () => void (begun = true))).rejects.toThrow('broken');
    expect(begun).toBe(false);
  });
});
