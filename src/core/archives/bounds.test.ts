import { describe, expect, it } from 'vitest';
import { PackError, type PackEntry, type PackPath } from '@/core';
import { boundAndCompare, checkWhole, mostBytes, safePackPath } from './bounds';

const GB = 1024 ** 3;
const MB = 1024 ** 2;
const entry = (path: string, size = 1): PackEntry => ({ path: path as PackPath, size });

/** The code and what it says of it. */
function refusal(work: () => unknown): [string, Record<string, unknown>] | undefined {
  try {
    work();
    return undefined;
  } catch (error) {
    if (!(error instanceof PackError)) throw error;
    return [error.code, error.failure.details ?? {}];
  }
}

describe('bounds of what packs may hold', () => {
  it('a file is read as a whole up to 1 GB', () => {
    expect(refusal(() => checkWhole(entry('a', GB), 'p.zip'))).toBeUndefined();
    expect(refusal(() => checkWhole(entry('a', GB + 1), 'p.zip'))).toMatchObject([
      'too-large-to-hold',
      { name: 'p.zip', path: 'a' },
    ]);
  });

  it('all files together have 256 GB at most, and little cannot hold much', () => {
    const of = (size: number, archive: number) => refusal(() => boundAndCompare([entry('a', size)], archive, 'p.zip'));
    expect(of(256 * GB, 256 * GB)).toBeUndefined();
    expect(of(256 * GB + 1, 256 * GB)?.[0]).toBe('too-large');
    for (const archive of [1, 100 * MB, 600 * MB]) {
      const most = mostBytes(archive);
      expect(of(most, archive), String(archive)).toBeUndefined();
      expect(of(most + 1, archive), String(archive)).toMatchObject(['too-large', { name: 'p.zip' }]);
      expect(String(of(most + 1, archive)?.[1].why)).not.toBe('');
    }
    // A larger archive may hold more, and none more than all may.
    expect(mostBytes(200 * MB)).toBe(2 * mostBytes(100 * MB));
    expect(mostBytes(1)).toBe(mostBytes(2));
    expect(mostBytes(1000 * GB)).toBe(256 * GB);
  });

  it('a name twice is damage, two that differ by case are told', () => {
    expect(refusal(() => boundAndCompare([entry('a'), entry('b'), entry('a')], 100, 'p.zip'))).toMatchObject([
      'damaged',
      { name: 'p.zip', why: 'it lists “a” twice' },
    ]);
    expect(boundAndCompare([entry('x/a'), entry('b'), entry('X/A')], 100, 'p.zip')).toEqual([
      { kind: 'case-collision', path: 'X/A', says: '“X/A” and “x/a” are one file for most games.' },
    ]);
    expect(boundAndCompare([entry('a'), entry('b')], 100, 'p.zip')).toEqual([]);
  });

  it('so many files, and no more', () => {
    // Lists that only say how long they are.
    const says = (length: number) => {
      const list = { length, *[Symbol.iterator]() {} } as unknown as PackEntry[];
      return refusal(() => boundAndCompare(list, 1, 'p.zip'));
    };
    expect(says(2_000_000)).toBeUndefined();
    expect(says(2_000_001)).toMatchObject(['too-large', { name: 'p.zip', why: 'more than 2,000,000 files' }]);
  });

  it('a path that leads out is refused with what is wrong with it, however long', () => {
    expect(safePackPath('a/b.txt', 'p.zip')).toBe('a/b.txt');
    const long = `../${'x'.repeat(1000)}`;
    const [code, details] = refusal(() => safePackPath(long, 'p.zip')) ?? [];
    expect(code).toBe('unsafe-path');
    expect(details?.name).toBe('p.zip');
    expect(String(details?.path)).toBe(long.slice(0, 300));
    expect(String(details?.why)).not.toBe('');
  });
});
