import { describe, expect, it } from 'vitest';
import { asThings, thingAsked } from '@/core';

const key = (path: string, line = 1, now?: string, file = 'game/a.xml') => ({ file, path: path.split(' '), line, now });
const paths = (groups: readonly { path: readonly string[] }[][]) =>
  groups.map((all) => all.map(({ path }) => path.join(' ')));

describe('what belongs to one thing', () => {
  it('is put in together: new keys of one element or object, from one place of the read-me', () => {
    const asked = [
      key('ships ship#3 @id'),
      key('ships ship#3 @cost'),
      key('ships ship#4 @id'),
      key('crews 1 id', 4, undefined, 'game/b.json'),
      key('crews 1 hands', 4, undefined, 'game/b.json'),
      key('crews 1 on', 5, undefined, 'game/b.json'),
    ];
    expect(paths(asThings(asked))).toEqual([
      ['ships ship#3 @id', 'ships ship#3 @cost'],
      ['ships ship#4 @id'],
      ['crews 1 id', 'crews 1 hands'],
      ['crews 1 on'],
    ]);
  });

  it('is not what is there already, nor keys of a section', () => {
    const asked = [key('ships ship#2 @id', 1, 'tug'), key('ships ship#2 @cost', 1, '4'), key('Game a'), key('Game b')];
    expect(asThings(asked).every((all) => all.length === 1)).toBe(true);
    expect(asThings([])).toEqual([]);
  });

  it('is called after its element, and after what it stands in', () => {
    expect(thingAsked(['yard', 'ships', 'ship#3', '@id'])).toBe('one more “ship” in “ships”');
    expect(thingAsked(['crews', '1', 'id'])).toBe('one more entry in “crews”');
    expect(thingAsked(['2', 'id'])).toBe('one more entry');
  });
});
