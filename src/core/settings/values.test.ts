import { describe, expect, it } from 'vitest';
import { checkValue, matchInstructions, openSettings, readInstructions, type TargetPath } from '@/core';

describe('values of keys', () => {
  // Common practice: a refresh rate must not exceed what the screen can do, a field of view not what the slider reaches.
  it.each<[Parameters<typeof checkValue>[0], string, RegExp | undefined]>([
    [{ type: 'number', min: 60, max: 75 }, '75', undefined],
    [{ type: 'number', min: 60, max: 75 }, '144', /above 75/],
    [{ type: 'number', min: 60 }, '59.9', /below 60/],
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

describe('what a read-me tells to set', () => {
  const files = [
    { target: 'user/ferries.ini' as TargetPath, document: openSettings('[Graphics]\nAddonTextures=0\nWaterDetail=2\n[Sound]\nHorn=1\n', 'ini') },
    { target: 'user/keys.ini' as TargetPath, document: openSettings('[Keys]\nHorn=f\n', 'ini') },
    { target: 'user/view.xml' as TargetPath, document: openSettings('<view>\n  <camera field="70"/>\n</view>\n', 'xml') },
  ];
  const match = (text: string) => matchInstructions(readInstructions(text), files).map(({ file, path, value, now }) => [file, path.join(' › '), value, now]);

  it('finds the key under its section, or the one key of that name', () => {
    expect(match('[Graphics]\nAddonTextures=1\nWaterDetail=2\n')).toEqual([['user/ferries.ini', 'Graphics › AddonTextures', '1', '0'], ['user/ferries.ini', 'Graphics › WaterDetail', '2', '2']]);
    expect(match('Set this:\n\nwaterdetail = 4\n')).toEqual([['user/ferries.ini', 'Graphics › WaterDetail', '4', '2']]);
    expect(match('<camera field="84"/>')).toEqual([['user/view.xml', 'view › camera › @field', '84', '70']]);
  });

  it('puts a new key into the section that is there', () => {
    expect(match('[Graphics]\nFoam=1\n')).toEqual([['user/ferries.ini', 'Graphics › Foam', '1', undefined]]);
  });

  it('leaves to the player what fits in two places, or in none', () => {
    expect(match('Horn=0\n')).toEqual([]);
    expect(match('[Elsewhere]\nThing=1\n')).toEqual([]);
    expect(match('[Keys]\nHorn=space\n')).toEqual([['user/keys.ini', 'Keys › Horn', 'space', 'f']]);
  });
});
