import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TAG_COLOURS, monogram, nextColour, packName } from '@/core';

describe('a pack’s name and tag', () => {
  it.each([
    ['clear-waters-v1.4.zip', 'Clear Waters v1.4'],
    ['evening-bell.wav', 'Evening Bell'],
    ['weathered-quay-1.2.zip', 'Weathered Quay 1.2'],
    ['Every_Island.7z', 'Every Island'],
    ['harbour.tar.gz', 'Harbour'],
    ['x.tgz', 'X'],
    ['boats.tbz2', 'Boats'],
    ['boats.tzst', 'Boats'],
    ['boats.tar.zst', 'Boats'],
    ['boats.7z.001', 'Boats'],
    ['boats.zip.002', 'Boats'],
    ['boats.part01.rar', 'Boats'],
    ['boats.r00', 'Boats'],
    ['boats.z01', 'Boats'],
    ['evening-bell.opus', 'Evening Bell'],
    ['--.zip', '--.zip'],
    ['.zip', '.zip'],
    ['bunte möwen.rar', 'Bunte Möwen'],
    ['no extension', 'No Extension'],
  ])('%s is called %s', (file, name) => {
    expect(packName(file)).toBe(name);
  });

  it('takes the initials of two words, then other letters of the name', () => {
    expect(monogram('Weathered Quay')).toBe('Wq');
    expect(monogram('Weathered Quay', new Set(['Wq']))).toBe('We');
    expect(monogram('Solo')).toBe('So');
    expect(monogram('…')).toMatch(/^P[A-Za-z]$/);
  });

  it('law: two letters, and never a taken one while the first letter has others left', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 20 }), fc.integer({ min: 0, max: 20 }), (name, rounds) => {
        const taken = new Set<string>();
        for (let i = 0; i < rounds; i++) {
          const made = monogram(name, taken);
          expect([...made]).toHaveLength(2);
          expect(taken.has(made)).toBe(false);
          taken.add(made);
        }
      }),
      { numRuns: 300 },
    );
  });

  it('gives each of a long series two letters of its own', () => {
    const taken = new Set<string>();
    for (let i = 1; i <= 600; i++) taken.add(monogram(`Texture Pack ${String(i).padStart(3, '0')}`, taken));
    expect(taken.size).toBe(600);
    expect([...taken].every((made) => /^[A-Z][a-z0-9]$/.test(made))).toBe(true);
    expect(monogram('ßtraße')).toMatch(/^.{2}$/);
  });

  it('gives out every colour before one comes twice', () => {
    const used: number[] = [];
    for (let i = 0; i < TAG_COLOURS * 2; i++) used.push(nextColour(used));
    expect(new Set(used.slice(0, TAG_COLOURS)).size).toBe(TAG_COLOURS);
    expect(used.slice(TAG_COLOURS)).toEqual(used.slice(0, TAG_COLOURS));
  });
});
