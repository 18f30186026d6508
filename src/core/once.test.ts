import { describe, expect, it } from 'vitest';
import { once, onceFor } from '@/core';

describe('what is worked out once', () => {
  it('is not worked out before it is asked for, nor a second time, be it nothing', () => {
    let times = 0;
    const work = once(() => void times++);
    expect(times).toBe(0);
    work();
    work();
    expect(times).toBe(1);
  });

  it('for each thing by itself: the same for the same one, another for one that only looks the same', () => {
    let times = 0;
    const count = onceFor((of: { n: number }) => (of.n === 0 ? undefined : { n: of.n, time: ++times }));
    const [one, alike, nothing] = [{ n: 1 }, { n: 1 }, { n: 0 }];
    expect([count(one), count(alike), count(one), count(nothing)]).toEqual([
      { n: 1, time: 1 },
      { n: 1, time: 2 },
      { n: 1, time: 1 },
      undefined,
    ]);
    expect(count(one)).toBe(count(one));
  });
});
