import fc from 'fast-check';
import { parse } from 'ini';
import { describe, expect, it } from 'vitest';
import { openSettings, readSnippet, type Dialect, parseTarget } from '@/core';

const file = (target: string, dialect: Dialect, text: string) => ({
  target: parseTarget(target),
  dialect,
  document: openSettings(text, dialect),
});
const INI = '[Graphics]\r\nAddonTextures=0\r\nWide=1280\r\n\r\n[Sound]\r\nHorn=1\r\nVolume=5\r\n';
const files = [
  file('user/game.ini', 'ini', INI),
  file('user/view.xml', 'xml', '<view><camera field="70" far="400"/></view>'),
  file('user/autorun.cfg', 'commands', 'set fog.near 10\r\nbind K horn\r\n'),
  file('user/other.ini', 'ini', '[Network]\nPort=1\n'),
];
const says = (text: string) =>
  readSnippet(text, files).map(
    ({ target, lines }) =>
      `${target}: ${lines.map(({ path, value, now, is }) => `${path.join('/')} ${now ?? 'nothing'}→${value} ${is}`).join(', ')}`,
  );

/** What the package ini reads: sections with keys. */
const read = (text: string): Record<string, Record<string, string>> => parse(text);

describe('lines pasted from a page', () => {
  it('go where their keys are: with a section, in any case, or alone where the name stands once', () => {
    expect(says('[graphics]\nADDONTEXTURES = 1')[0]).toBe('user/game.ini: Graphics/AddonTextures 0→1 changed');
    expect(says('Horn=1\nVolume=9')[0]).toBe('user/game.ini: Sound/Horn 1→1 same, Sound/Volume 5→9 changed');
    expect(says('[Sound]\nEcho=2')[0]).toBe('user/game.ini: Sound/Echo nothing→2 new');
    expect(says('[Network]\nPort=9')).toEqual(['user/other.ini: Network/Port 1→9 changed']);
  });

  it('in other forms: an XML attribute, a command', () => {
    expect(says('<view><camera field="84"/></view>')[0]).toBe('user/view.xml: view/camera/@field 70→84 changed');
    expect(says('set fog.near 12')[0]).toBe('user/autorun.cfg: set/fog.near 10→12 changed');
  });

  it('belong nowhere when nothing fits, and what is named twice counts once', () => {
    expect(says('just some words')).toEqual([]);
    expect(says('[Elsewhere]\nKey=1')).toEqual([]);
    expect(says('')).toEqual([]);
    expect(says('[Sound]\nHorn=0\nHorn=3')[0]).toBe('user/game.ini: Sound/Horn 1→3 changed');
    expect(readSnippet(`[Sound]\nHorn=${'x'.repeat(2_000_000)}`, files)).toEqual([]);
  });

  it('law: taken in, the file holds every value of the snippet, as the package ini reads both', () => {
    const name = fc.constantFrom('Horn', 'Volume', 'Echo', 'Wide');
    fc.assert(
      fc.property(
        fc.dictionary(
          fc.constantFrom('Graphics', 'Sound', 'New'),
          fc.dictionary(name, fc.stringMatching(/^[a-z0-9]{1,5}$/), { minKeys: 1 }),
          { minKeys: 1 },
        ),
        (wanted) => {
          const snippet = Object.entries(wanted)
            .map(
              ([section, keys]) =>
                `[${section}]\n${Object.entries(keys)
                  .map(([key, value]) => `${key}=${value}`)
                  .join('\n')}`,
            )
            .join('\n');
          const place = readSnippet(snippet, files).find(({ target }) => target === 'user/game.ini');
          if (!place) return;
          let document = files[0]?.document as ReturnType<typeof openSettings>;
          for (const { path, value } of place.lines) document = document.set(path, value);
          const after = read(document.text);
          for (const [section, keys] of Object.entries(read(snippet)))
            for (const [key, value] of Object.entries(keys)) expect(after[section]?.[key]).toBe(value);
        },
      ),
      { numRuns: 200 },
    );
  });
});
