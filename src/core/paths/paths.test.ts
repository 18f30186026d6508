import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  checkPath,
  extensionOf,
  fillTarget,
  isUnder,
  joinPath,
  nameKey,
  parentOf,
  parseTarget,
  splitTarget,
  target,
} from './paths';
import { nameProblem } from './names';

describe('names', () => {
  // Microsoft, "Naming Files, Paths, and Namespaces": reserved names, also followed by an extension.
  it.each([
    'CON',
    'prn',
    'AUX',
    'NUL',
    'COM1',
    'com9',
    'LPT1',
    'lpt9',
    'NUL.txt',
    'NUL.tar.gz',
    'aux.png',
    'COM\u00b9',
    'CONIN$',
    'conout$',
    'CONIN$.txt',
  ])('%s is reserved', (name) => {
    expect(nameProblem(name)).toBe('reserved name');
  });
  it('is 255 units of UTF-16 long at most (NTFS), and 255 bytes of UTF-8 (NAME_MAX in limits.h)', () => {
    expect(nameProblem('a'.repeat(255))).toBeUndefined();
    expect(nameProblem('a'.repeat(256))).toBe('name too long');
    // U+6E2F takes three bytes of UTF-8, U+00FC two (RFC 3629).
    expect(nameProblem('\u6e2f'.repeat(85))).toBeUndefined();
    expect(nameProblem('\u6e2f'.repeat(86))).toBe('name too long');
    expect(nameProblem('\u00fc'.repeat(127) + 'a')).toBeUndefined();
    expect(nameProblem('\u00fc'.repeat(128))).toBe('name too long');
  });
  it.each(['.satchel-1-2.part', '.SATCHEL-x.aside'])('%s is a name of the app’s own', (name) => {
    expect(nameProblem(name)).toBe('name of a file of this app');
  });
  it.each(['CONSOLE', 'auxiliary.png', 'com', 'com10', 'lpt', 'null', 'xNUL'])('%s is not reserved', (name) => {
    expect(nameProblem(name)).toBeUndefined();
  });
  it.each([...'<>"|?*'])('%s is forbidden in names', (char) => {
    expect(nameProblem(`a${char}b`)).toBe('forbidden character');
  });
  it('knows the other rules', () => {
    expect(nameProblem('a:b')).toBe('colon');
    expect(nameProblem('a\u001fb')).toBe('control character');
    expect(nameProblem('a.')).toBe('ends in a dot or a space');
    expect(nameProblem('a ')).toBe('ends in a dot or a space');
    expect(nameProblem('x'.repeat(256))).toBe('name too long');
    expect(nameProblem('..')).toBe('goes up with ..');
  });
});

describe('paths from outside', () => {
  it.each([
    ['/a', 'absolute'],
    ['\\a', 'absolute'],
    ['c:/a', 'drive letter'],
    ['C:a', 'drive letter'],
    ['a/../b', 'goes up with ..'],
    ['..', 'goes up with ..'],
    ['a//b', 'empty name'],
    ['', 'empty name'],
    ['a/', 'empty name'],
    ['a/b:c', 'colon'],
    ['a/./b', 'goes up with ..'],
  ])('%s is refused: %s', (path, problem) => {
    expect(checkPath(path)).toEqual({ ok: false, problem });
  });

  it('mends only separators and a leading ./', () => {
    expect(checkPath('./a\\b/c.txt')).toEqual({ ok: true, path: 'a/b/c.txt' });
  });

  it('law: whatever comes in, what is accepted stays below its root', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a./\\:\u0000 c~-]{0,24}$/), (raw) => {
        const checked = checkPath(raw);
        if (!checked.ok) return;
        // Node's own path arithmetic is the judge.
        const resolved = new URL(`file:///root/${checked.path.split('/').map(encodeURIComponent).join('/')}`).pathname;
        expect(resolved.startsWith('/root/')).toBe(true);
        expect(checked.path).not.toMatch(/(^|\/)\.\.?(\/|$)|\\|:/);
      }),
      { numRuns: 2000 },
    );
  });
});

describe('path algebra', () => {
  // Unicode UAX #15: these two spellings are canonically equivalent.
  it('NFC and NFD of one name are one target', () => {
    expect(nameKey('Gr\u00fcn.PNG')).toBe(nameKey('gru\u0308n.png'));
  });
  it('law: a target comes apart as it was joined', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[a-z]{1,5}$/),
        fc.stringMatching(/^[a-z]{1,4}(\/[a-z]{1,4}){0,3}$/),
        (root, path) => {
          expect(splitTarget(target(root, path))).toEqual({ root, path });
        },
      ),
    );
  });
  it('takes paths apart', () => {
    expect([
      parentOf('a/b/c'),
      parentOf('a'),
      extensionOf('a/b.TAR.gz'),
      extensionOf('.hidden'),
      extensionOf('none'),
      joinPath('', 'a', '', 'b'),
    ]).toEqual(['a/b', '', 'gz', '', '', 'a/b']);
    expect([isUnder('a/b', 'a'), isUnder('ab', 'a'), isUnder('a', 'a'), isUnder('x', '')]).toEqual([
      true,
      false,
      true,
      true,
    ]);
  });
});

describe('targets out of texts', () => {
  it.each(['game', 'game/a.txt', 'game/Ä/b c.txt', 'game/a*?.txt', 'game/CON', 'game/..a/b.'])('%s is one', (text) => {
    expect(parseTarget(text)).toBe(text);
  });

  it.each([
    '',
    '/game',
    'game/',
    'game//a',
    '../a',
    'game/../../a',
    'game/./a',
    'game/.../a',
    'C:/a',
    'game\\a',
    'game/a\u0000',
  ])('%j is none', (text) => {
    expect(() => parseTarget(text)).toThrow(expect.objectContaining({ code: 'bad-target' }));
  });

  it('a mark is filled wherever it stands', () => {
    expect(fillTarget(parseTarget('user/{id}/{id}.ini'), '{id}', '$&')).toBe('user/$&/$&.ini');
  });
});
