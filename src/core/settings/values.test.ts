import { describe, expect, it } from 'vitest';
import { checkValue } from '@/core';

describe('values of keys', () => {
  // Common practice: a refresh rate must not exceed what the screen can do, a field of view not what the slider
  // reaches.
  it.each<[Parameters<typeof checkValue>[0], string, RegExp | undefined]>([
    [{ type: 'number', min: 60, max: 75 }, '75', undefined],
    [{ type: 'number', min: 60, max: 75 }, '144', /above 75/],
    [{ type: 'number', min: 60, max: 75 }, '60', undefined],
    [{ type: 'number', min: 60, max: 75 }, '68', undefined],
    [{ type: 'number', min: 60 }, '59.9', /below 60/],
    [{ type: 'number' }, '1000000', undefined],
    [{ type: 'number' }, '12.345', undefined],
    [{ type: 'number' }, '.125', undefined],
    [{ type: 'number' }, 'x5', /number/],
    [{ type: 'number' }, '5x', /number/],
    [{ type: 'flag' }, 'moon', /on or off/],
    [{ type: 'flag' }, 'once', /on or off/],
    [{ type: 'number' }, '8O', /number/],
    [{ type: 'number' }, '', /number/],
    [{ type: 'number' }, '-.5', undefined],
    [{ type: 'flag' }, '1', undefined],
    [{ type: 'flag' }, 'Off', undefined],
    [{ type: 'flag' }, '2', /on or off/],
    [{ type: 'text', options: ['low', 'high'] }, 'mid', /one of low, high/],
    [{ type: 'text' }, 'a\nb', /one line/],
    [{ type: 'text' }, 'anything at all', undefined],
  ])('%j: %s', (rule, value, wrong) => {
    if (wrong) expect(checkValue(rule, value)).toMatch(wrong);
    else expect(checkValue(rule, value)).toBeUndefined();
  });
});
