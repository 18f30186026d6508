import { describe, expect, it } from 'vitest';
import { count, many, moment, place, size, timeLeft } from './format';

describe('figures as the player reads them', () => {
  it.each([
    [0, '0 B'],
    [1023, '1023 B'],
    [1024, '1.0 KB'],
    [1536, '1.5 KB'],
    [10 * 1024, '10 KB'],
    [999 * 1024, '999 KB'],
    [1000 * 1024, '1.0 MB'],
    [157 * 1024 ** 2, '157 MB'],
    [1.5 * 1024 ** 3, '1.5 GB'],
    [5000 * 1024 ** 4, '5,000 TB'],
  ])('%d bytes are %s', (bytes, said) => {
    expect(size(bytes)).toBe(said);
  });

  it('never shows more than four digits before the unit, however large', () => {
    for (let power = 0; power < 50; power++) expect(size(2 ** power)).toMatch(/^\d{1,4}(\.\d)? (B|KB|MB|GB|TB)$/);
  });

  it('separates thousands and counts one alone', () => {
    expect(count(6307)).toBe('6,307');
    expect([many(0, 'file'), many(1, 'file'), many(6307, 'file'), many(2, 'copy', 'copies')]).toEqual([
      '0 files',
      '1 file',
      '6,307 files',
      '2 copies',
    ]);
  });

  it('shows a target under the name of its root', () => {
    const roots = [{ id: 'program', title: 'Program folder' }];
    expect(place('program/assets/a.png', roots)).toBe('Program folder/assets/a.png');
    expect(place('program', roots)).toBe('Program folder');
    expect(place('gone/a', roots)).toBe('gone/a');
  });

  it.each([
    [0, 'a few seconds left'],
    [7_000, 'about 10 seconds left'],
    [52_000, 'about 55 seconds left'],
    [60_000, 'about 1 minute left'],
    [150_000, 'about 3 minutes left'],
    [9e6, 'more than an hour left'],
  ])('%d ms is %s', (milliseconds, said) => {
    expect(timeLeft(milliseconds)).toBe(said);
  });

  it('tells the day before the month, with its name', () => {
    expect(moment(new Date(2026, 10, 24, 15, 7).getTime())).toBe('24 Nov 2026, 15:07');
  });
});
