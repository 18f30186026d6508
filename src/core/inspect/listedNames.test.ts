import { parse } from 'yaml';
import { describe, expect, it } from 'vitest';
import { bracketed, withItems } from './listedNames';

describe('lists in brackets', () => {
  it.each(['[]', '[ ]', '["base"]', "['base', 'more']", '[base, more]'])(
    '%s: what a YAML reader finds, and one more',
    (value) => {
      const before = parse(value) as string[];
      expect([...(bracketed(value) ?? [])].filter(Boolean)).toEqual(before);
      expect(parse(withItems(value, ['reef', 'tide']) ?? '')).toEqual([...before, 'reef', 'tide']);
    },
  );

  it('keep the quotes that are there', () => {
    expect(withItems("['base']", ['reef'])).toBe("['base', 'reef']");
    expect(withItems('[base]', ['reef'])).toBe('[base, reef]');
    expect(withItems('["base"]', [])).toBeUndefined();
    expect(bracketed('base, more')).toBeUndefined();
  });
});
