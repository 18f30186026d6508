import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { meantBlank, shownBlank } from '@/core';

const roots = [
  { id: 'program', title: 'Program folder' },
  { id: 'user', title: 'Your own' },
];

describe('places in the blanks of a sentence', () => {
  it('are shown by the titles of the game’s folders, patterns with braces too, and nothing else is', () => {
    expect(shownBlank('targets', 'program/mods/**/*.{png,dds}, user/a.ini', roots)).toBe(
      'Program folder/mods/**/*.{png,dds}, Your own/a.ini',
    );
    expect(shownBlank('targets', 'program/{a,user/b}', roots)).toBe('Program folder/{a,user/b}');
    expect(shownBlank('text', 'program/mods', roots)).toBe('program/mods');
  });
  it('law: what is shown and typed again means the same', () => {
    const part = fc.constantFrom('program/mods/**', 'user/a.ini', 'program', 'user/{a,b}/*.cfg', 'program/A b/c.txt');
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 4 }), (parts) => {
        const text = parts.join(', ');
        expect(meantBlank('targets', shownBlank('targets', text, roots), roots)).toBe(text);
      }),
    );
  });
});
