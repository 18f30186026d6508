import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { openSettings, type Edit } from '@/core';
import { applySettings, takeBackSettings } from './edits';

const INI = '[A]\nx=1\ny=2\n';
const at = (key: string, value?: string): Edit => ({ path: ['A', key], ...(value === undefined ? {} : { value }) });

describe('edits of a settings file', () => {
  it('are recorded with what stood there; of one key twice the way back is the other way round', () => {
    const { document, applied } = applySettings(openSettings(INI, 'ini'), [at('x', '5'), at('x', '7'), at('new', '1')]);
    expect(document.text).toBe('[A]\nx=7\ny=2\nnew=1\n');
    expect(applied).toEqual([{ ...at('x', '5'), before: '1' }, { ...at('x', '7'), before: '5' }, at('new', '1')]);
    expect(Object.keys(applied[2] ?? {})).toEqual(['path', 'value']);
    const back = takeBackSettings(document, applied);
    expect([back.document.text, back.left]).toEqual([INI, []]);
  });

  it('that ask for what stands there change nothing, and are recorded all the same', () => {
    const before = openSettings(INI, 'ini');
    const { document, applied } = applySettings(before, [at('x', '1')]);
    expect(document).toBe(before);
    expect(applied).toEqual([{ ...at('x', '1'), before: '1' }]);
  });

  it('leave what somebody wrote since, and say which those are', () => {
    const { document, applied } = applySettings(openSettings(INI, 'ini'), [at('x', '5'), at('y')]);
    expect(document.text).toBe('[A]\nx=5\n');
    const since = document.set(['A', 'x'], '9');
    const back = takeBackSettings(since, applied);
    expect(back.document.get(['A', 'x'])).toBe('9');
    expect(back.document.get(['A', 'y'])).toBe('2');
    expect(back.left).toEqual([{ ...at('x', '5'), before: '1' }]);
  });

  it('law: taken back, every key is as it was, as in a plain map', () => {
    const editArb = fc.record({
      path: fc.constantFrom('x', 'y', 'z'),
      value: fc.constantFrom('1', '2', '3', undefined),
    });
    fc.assert(
      fc.property(fc.array(editArb, { maxLength: 8 }), (list) => {
        const edits = list.map(({ path, value }) => at(path, value));
        const plain = new Map([
          ['x', '1'],
          ['y', '2'],
        ]);
        for (const { path, value } of list) {
          if (value === undefined) plain.delete(path);
          else plain.set(path, value);
        }
        const { document, applied } = applySettings(openSettings(INI, 'ini'), edits);
        for (const key of ['x', 'y', 'z']) expect(document.get(['A', key])).toBe(plain.get(key));
        const back = takeBackSettings(document, applied);
        expect(back.left).toEqual([]);
        expect(['x', 'y', 'z'].map((key) => back.document.get(['A', key]))).toEqual(['1', '2', undefined]);
      }),
    );
  });
});
