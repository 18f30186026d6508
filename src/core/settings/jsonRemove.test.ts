import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openSettings } from './openSettings';

/** What is left when something goes out of JSON, held against JSON.parse (RFC 8259). */

type Json = string | number | boolean | null | Json[] | { [name: string]: Json };

/** As people and programs write it: on one line, with blanks inside, on lines of their own. */
const WRITTEN: ((value: Json) => string)[] = [
  (value) => JSON.stringify(value),
  (value) => JSON.stringify(value, null, 2),
  (value) => JSON.stringify(value, null, '\t').replaceAll('\n', '\r\n'),
  (value) => JSON.stringify(value).replace(/,(?=["\d[{tfn-])/g, ', '),
  (value) =>
    JSON.stringify(value)
      .replace(/([[{])(?=[^\]}])/g, '$1 ')
      .replace(/(?<=[^[{])([\]}])/g, ' $1'),
];
const plain = fc.oneof(fc.constantFrom('a', 'b c', 'ü', 'x"y'), fc.integer(), fc.boolean(), fc.constant(null));
const thing = fc.oneof(
  plain,
  fc.dictionary(fc.constantFrom('id', 'on', 'n'), plain),
  fc.array(plain, { maxLength: 2 }),
);

describe('what goes out of JSON', () => {
  it('law: of a list any of its items goes, and nothing else', () => {
    fc.assert(
      fc.property(
        fc.array(thing, { minLength: 1, maxLength: 5 }),
        fc.nat(),
        fc.constantFrom(...WRITTEN),
        fc.boolean(),
        (list, at, write, isInside) => {
          const i = at % list.length;
          const text = write(isInside ? { first: 1, list, last: 'x' } : list);
          const path = [...(isInside ? ['list'] : []), String(i)];
          const left = list.filter((_, n) => n !== i);
          const found = JSON.parse(openSettings(text, 'json').remove(path).text) as unknown;
          expect(found).toEqual(isInside ? { first: 1, list: left, last: 'x' } : left);
        },
      ),
      { numRuns: 500 },
    );
  });

  it('law: of an object any of its members goes, and nothing else', () => {
    fc.assert(
      fc.property(
        fc.dictionary(fc.constantFrom('id', 'on', 'name', 'n'), thing, { minKeys: 1 }),
        fc.nat(),
        fc.constantFrom(...WRITTEN),
        fc.boolean(),
        (object, at, write, isInside) => {
          const names = Object.keys(object);
          const name = names[at % names.length] as string;
          const text = write(isInside ? [object, 7] : object);
          const { [name]: _, ...left } = object;
          const found = JSON.parse(
            openSettings(text, 'json').remove([...(isInside ? ['0'] : []), name]).text,
          ) as unknown;
          expect(found).toEqual(isInside ? [left, 7] : left);
        },
      ),
      { numRuns: 500 },
    );
  });

  it('law: what was added behind a list goes again to the last byte, the last one first', () => {
    fc.assert(
      fc.property(
        fc.array(plain, { minLength: 1, maxLength: 3 }),
        fc.constantFrom(...WRITTEN),
        fc.integer({ min: 1, max: 3 }),
        (list, write, more) => {
          const text = write({ list });
          let document = openSettings(text, 'json');
          for (let n = 0; n < more; n++) document = document.set(['list', String(list.length + n)], `new ${n}`);
          expect((JSON.parse(document.text) as { list: unknown[] }).list).toHaveLength(list.length + more);
          for (let n = more - 1; n >= 0; n--) document = document.remove(['list', String(list.length + n)]);
          expect(document.text).toBe(text);
        },
      ),
      { numRuns: 300 },
    );
  });
});
