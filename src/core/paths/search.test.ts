import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nameKey } from './paths';
import { asTargets, holdsAll, searchWords } from './search';

const ROOTS = [
  { id: 'game', title: 'Program folder' },
  { id: 'user', title: 'User folder' },
  { id: 'mods', title: 'Program folder of mods' },
];
const finds = (search: string, target: string) => holdsAll(nameKey(target), searchWords(asTargets(search, ROOTS)));

describe('what is shown can be typed', () => {
  it.each([
    ['Program folder/plugins/glow', 'game/plugins/glow/glow.dat', true],
    ['program FOLDER\\plugins\\glow', 'game/plugins/glow/glow.dat', true],
    ['Program folder/plugins/glow', 'user/plugins/glow/glow.dat', false],
    ['Program folder of mods/a', 'mods/a.png', true],
    ['Program folder of mods/a', 'game/a.png', false],
    ['User folder', 'user/settings.ini', true],
    ['User folder', 'game/settings.ini', false],
    ['glow User folder/plugins', 'user/plugins/glow.dat', true],
    ['glow dat', 'game/plugins/glow.dat', true],
    ['Graphics › Water Detail', 'graphics/water/detail', true],
  ])('%s in %s: %s', (search, target, expected) => {
    expect(finds(search, target)).toBe(expected);
  });

  it('every file is found by its place as it is shown, and by any part of it', () => {
    const name = fc.stringMatching(/^[a-z0-9_.-]{1,8}( [a-z0-9_-]{1,6})?$/);
    fc.assert(
      fc.property(fc.constantFrom(...ROOTS), fc.array(name, { minLength: 1, maxLength: 4 }), ({ id, title }, parts) => {
        const target = [id, ...parts].join('/');
        expect(finds([title, ...parts].join('/'), target)).toBe(true);
        expect(finds(parts.join('/'), target)).toBe(true);
      }),
    );
  });
});
