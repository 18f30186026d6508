import { describe, expect, it } from 'vitest';
import { SatchelError, neededSwitches, parseCard, withLogRule } from '@/core';
import type { GameSwitch } from './card';
import { gullwickCard } from '@/demo/gullwickCard';

const why = (work: () => unknown): string => {
  try {
    work();
  } catch (error) {
    if (error instanceof SatchelError && error.code === 'bad-card') return error.failure.details.why ?? '';
    throw error;
  }
  return '';
};

describe('a card as somebody wrote it', () => {
  it('is taken as it is, or the first places that are wrong are named', () => {
    expect(parseCard(gullwickCard)).toEqual(gullwickCard);
    expect(why(() => parseCard({ ...gullwickCard, title: 7 }))).toMatch(/^title: /);
    expect(why(() => parseCard('no card'))).toMatch(/^the card: /);
  });

  it('takes another rule for its log before the others, and none without a log', () => {
    const rule = { id: 'mine', pattern: '^x$', level: 'note' as const, says: 'x' };
    expect(withLogRule(gullwickCard, rule).log?.rules[0]).toMatchObject({ id: 'mine' });
    const { log: _, ...silent } = gullwickCard;
    expect(why(() => withLogRule(silent as typeof gullwickCard, rule))).toMatch(/no log/);
    expect(why(() => withLogRule(gullwickCard, { ...rule, pattern: '(' }))).not.toBe('');
  });

  it('a switch comes with those that it waits for, the outermost first, and a ring of them ends', () => {
    const one = (id: string, after?: string) => ({ id, ...(after ? { after } : {}) }) as GameSwitch;
    const ids = (list: GameSwitch[], id: string) => neededSwitches(list, id).map((found) => found.id);
    expect(ids([one('a', 'b'), one('b', 'c'), one('c')], 'a')).toEqual(['c', 'b', 'a']);
    expect(ids([one('a', 'b'), one('b', 'a')], 'a')).toEqual(['b', 'a']);
    expect(ids([one('a')], 'gone')).toEqual([]);
  });
});
