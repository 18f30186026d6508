import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  carryDecisions,
  compareVersions,
  isSamePack,
  moveTo,
  noDecisions,
  placeFiles,
  type PackPath,
  parseTarget,
} from '@/core';
import { entriesOf } from '../../../tests/support/placementCases';

const pack = (file: string, ...paths: string[]) => ({ file, entries: entriesOf(paths) });

describe('the same pack in another version', () => {
  it.each([
    ['wet-quay-1.0.zip', 'wet-quay-1.1.zip', true],
    ['Wet_Quay_v2.zip', 'wet quay v3.7z', true],
    ['wet-quay-1.0.zip', 'wet-quay-1.0 (1).zip', true],
    ['wet-quay-final-1.0.zip', 'wet-quay-1.2.zip', true],
    ['wet-quay-1.0.zip', 'dry-quay-1.0.zip', false],
    ['1.0.zip', '1.1.zip', false],
  ])('%s and %s: %s', (a, b, same) => {
    expect(isSamePack(pack(a, 'W/a.png', 'W/b.png'), pack(b, 'W2/a.png', 'W2/b.png', 'W2/c.png'))).toBe(same);
  });

  it('is not the same where the shape differs', () => {
    expect(isSamePack(pack('a-1.zip', 'x/a.png', 'x/b.png'), pack('a-1.zip', 'y/c.wav', 'y/d.wav'))).toBe(false);
  });

  it('law: versions are ordered as numbers are, not as texts', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(200), { minLength: 1, maxLength: 4 }),
        fc.array(fc.nat(200), { minLength: 1, maxLength: 4 }),
        (a, b) => {
          const pad = (list: number[]) => [...list, 0, 0, 0, 0].slice(0, 4);
          const expected =
            pad(a)
              .map((x, i) => x - (pad(b)[i] as number))
              .find((difference) => difference !== 0) ?? 0;
          expect(Math.sign(compareVersions(a.join('.'), b.join('.')))).toBe(Math.sign(expected));
        },
      ),
    );
    expect(compareVersions('1.10', '1.9')).toBeGreaterThan(0);
    expect(compareVersions(undefined, '1')).toBe(0);
  });

  it('carries decisions over under the new wrapper, and drops those about files that are gone', () => {
    const before = entriesOf(['Wet 1/tex/a.png', 'Wet 1/tex/b.png', 'Wet 1/gone.txt', 'Wet 1/s/x.wav']);
    const after = entriesOf(['Wet 2/tex/a.png', 'Wet 2/tex/b.png', 'Wet 2/s/x.wav']);
    const old = {
      ...noDecisions,
      out: ['Wet 1/tex/a.png', 'Wet 1/gone.txt'] as PackPath[],
      in: ['Wet 1/s/x.wav'] as PackPath[],
      moves: [{ from: 'Wet 1/s', to: parseTarget('program/s') }],
      answers: { 'alternatives:Wet 1': ['Wet 1/tex'], title: ['CB-1'] },
    };
    expect(carryDecisions(old, before, after)).toEqual({
      out: ['Wet 2/tex/a.png'],
      in: ['Wet 2/s/x.wav'],
      moves: [{ from: 'Wet 2/s', to: 'program/s' }],
      answers: { 'alternatives:Wet 2': ['Wet 2/tex'], title: ['CB-1'] },
    });
  });

  it('keeps a file renamed that was given another name', () => {
    const [before, after] = [
      entriesOf(['Wet 1/Lamp.png', 'Wet 1/b.png']),
      entriesOf(['Wet 2/Lamp.png', 'Wet 2/b.png']),
    ];
    const old = moveTo(
      { rules: [], leftOut: [], made: [], decisions: noDecisions },
      'Wet 1/Lamp.png',
      parseTarget('program/tex/lamp.png'),
      'exact',
    );
    const decisions = carryDecisions(old.decisions, before, after);
    const rules = [{ as: 'files' as const, from: 'Wet 2', to: parseTarget('program/tex') }];
    expect(
      placeFiles(after, { rules, leftOut: [], made: [], decisions })
        .map(({ target }) => target)
        .sort(),
    ).toEqual(['program/tex/b.png', 'program/tex/lamp.png']);
  });

  it('law: to the very same files every decision is carried unchanged', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.constantFrom('W/a', 'W/b/c', 'W/b/d', 'x', 'y/z'), { minLength: 1 }), (paths) => {
        const entries = entriesOf(paths);
        const old = {
          ...noDecisions,
          out: entries.map(({ path }) => path),
          moves: [
            {
              from: paths[0] as string,
              to: parseTarget('r/t'),
              ...(paths.length % 2 ? { exact: true as const } : {}),
            },
          ],
        };
        expect(carryDecisions(old, entries, entries)).toEqual(old);
      }),
    );
  });
});
