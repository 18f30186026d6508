import { describe, expect, it } from 'vitest';
import { aboutKey, commentAt, splitLines, openSettings } from '@/core';

describe('what is said of a key', () => {
  // The comments are those that the forms' own descriptions have: INI `;`, TOML, YAML and conf `#`, scripts `//`, Lua
  // `--`, XML 1.0, 2.5.
  it.each([
    ['; How far you see\nfar=1', 2, 'How far you see'],
    ['# How far you see,\n# in metres\nfar = 1', 3, 'How far you see, in metres'],
    ['far 1 // How far you see', 1, 'How far you see'],
    ['-- How far you see\nfar = 1', 2, 'How far you see'],
    ['<a>\n <!-- How far you see -->\n <far>1</far>\n</a>', 3, 'How far you see'],
    ['; old=2\nfar=1', 2, undefined],
    ['; About something else\n\nfar=1', 3, undefined],
    ['# -------\nfar=1', 2, undefined],
    ['# Old Mill\nspeed=3\nfar=1', 2, undefined],
    ['# Old Mill\nspeed=3\n# How far you see\nfar=1', 4, 'How far you see'],
    ['# Turns a minute\nspeed=3\n# How far you see\nfar=1', 2, 'Turns a minute'],
    ['# Its speed\nspeed=3\nfar=1', 2, 'Its speed'],
    ['colour=#ff0000', 1, undefined],
    ['page=http://x//y', 1, undefined],
  ])('%j, line %i: %j', (text, line, says) => {
    expect(commentAt(splitLines(text), line)).toBe(says);
  });

  it('in its file, in others, and in read-mes', () => {
    const documents = new Map([
      ['game/a.ini', openSettings('[View]\n; In metres\nFarClip=900\n', 'ini')],
      ['user/b.json', openSettings('{ "view": { "farclip": 300 } }\n', 'json')],
    ]);
    const about = aboutKey({ file: 'game/a.ini', path: ['View', 'FarClip'] }, documents, [
      { pack: 'Far', text: 'Hello\nSet FarClip to 2000 or more.\n' },
      { pack: 'Near', text: 'Nothing about it; FarClipping is another thing.\n' },
    ]);
    expect(about).toEqual({
      comment: 'In metres',
      elsewhere: [{ file: 'user/b.json', path: ['view', 'farclip'], value: '300' }],
      said: [{ pack: 'Far', line: 2, text: 'Set FarClip to 2000 or more.' }],
    });
  });
});
