import { describe, expect, it } from 'vitest';
import { SatchelError, openSettings } from '@/core';

const open = (text: string) => openSettings(text, 'codes');
const TWO =
  '# for CB-2041\r\n+ Wide view\r\n1A2B3C4D 00000001\r\n1A2B3C50 00000002\r\n\r\n- Free coins\r\n0000ABCD 0001\r\n';

describe('code blocks', () => {
  it('are read with their numbers, and turned on and off by one character', () => {
    expect(open(TWO).entries()).toEqual([
      { path: ['Wide view'], value: 'on', line: 2 },
      { path: ['Wide view', 'lines'], value: '1A2B3C4D 00000001\n1A2B3C50 00000002', line: 3 },
      { path: ['Free coins'], value: 'off', line: 6 },
      { path: ['Free coins', 'lines'], value: '0000ABCD 0001', line: 7 },
    ]);
    expect(open(TWO).set(['Free coins'], 'on').text).toBe(TWO.replace('- Free', '+ Free'));
    expect(open(TWO).set(['Wide view'], 'off').text).toBe(TWO.replace('+ Wide', '- Wide'));
  });

  it('come in as a page shows them, without a sign: on', () => {
    const pasted = open('Tall doors\n1234 5678\n');
    expect(pasted.entries().map(({ path, value }) => [path.join('/'), value])).toEqual([
      ['Tall doors', 'on'],
      ['Tall doors/lines', '1234 5678'],
    ]);
    expect(pasted.set(['Tall doors'], 'off').text).toBe('- Tall doors\n1234 5678\n');
    let file = open(TWO);
    for (const { path, value } of pasted.entries()) file = file.set(path, value);
    expect(file.text).toBe(`${TWO}\r\n+ Tall doors\r\n1234 5678\r\n`);
    expect(file.remove(['Tall doors']).get(['Tall doors'])).toBeUndefined();
    expect(file.get(['Tall doors', 'lines'])).toBe('1234 5678');
  });

  it('hold no words where numbers belong, and no other state than on and off', () => {
    expect(() => open(TWO).set(['Wide view'], 'maybe')).toThrow(SatchelError);
    expect(() => open(TWO).set(['Wide view', 'lines'], 'rm -rf')).toThrow(SatchelError);
    expect(() => open(TWO).set(['New one', 'lines'], '12\n+ Other')).toThrow(SatchelError);
  });
});

describe('INI with comments behind values', () => {
  const text = '[Graphics]\nWide=1 ; on for broad screens\nTitle="a ; b" # c\nPath=a;b\n';
  const ini = openSettings(text, 'ini-comments');
  it('leaves the comment out of the value and in its place', () => {
    expect(ini.entries().map(({ value }) => value)).toEqual(['1', '"a ; b"', 'a;b']);
    expect(ini.set(['Graphics', 'Wide'], '0').text).toBe(text.replace('Wide=1', 'Wide=0'));
    expect(() => ini.set(['Graphics', 'Wide'], '0 ; no')).toThrow(SatchelError);
  });
  it('a section made for one key goes with it', () => {
    expect(ini.set(['Fresh', 'Key'], '1').remove(['Fresh', 'Key']).text).toBe(text);
  });
});
