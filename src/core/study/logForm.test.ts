import { describe, expect, it } from 'vitest';
import { loadedPacks, proposePlacements, studyGame } from '@/core';
import { logFormOf, readsAsLog } from './logForm';
import { GAME, entriesOf, study } from '../../../tests/support/mill';

describe('the form of a log', () => {
  // Forms that programs write: ISO 8601 times (RFC 3339), syslog's (RFC 5424 and before), counted seconds and frames,
  // words alone.
  it.each([
    ['[12:00:01] [INFO] started\n[12:00:02] [WARN] no bell\n[12:00:03] [INFO] ready\n', ['time', 'level']],
    [
      '2026-11-28T10:00:01.250Z warn audio: no device\n2026-11-28T10:00:02.100Z info core: ready\n2026-11-28T10:00:03.100Z info core: go\n',
      ['time', 'level', 'place'],
    ],
    ['INFO: loaded 3\nWARNING: gone\nERROR: bad\n', ['level']],
    ['0.0012 | D | Renderer | up\n0.0100 | W | Audio | none\n1.2000 | I | Core | go\n', ['time', 'level', 'place']],
    ['Renderer: up\nAudio: none\nCore: go\n', ['place']],
  ])('%j', (text, parts) => {
    expect(logFormOf(text)?.parts).toEqual(parts);
  });

  it('has none where lines have nothing in common', () => {
    expect(logFormOf('The mill was built in spring\nIt stands by the river\nNobody knows why\n')).toBeUndefined();
    expect(logFormOf('')).toBeUndefined();
  });

  it.each([
    ['09:00:01 note  Old Mill 1.2\n09:00:02 note  3 gears ready\n', true],
    ['[2026-11-28 09:00:01] started\n  at mill.go\n[2026-11-28 09:00:02] ready\n', true],
    ['0.0012 | D | Renderer | up\n0.0100 | W | Audio | none\n', true],
    ['10 birds\n20 weather\n30 paths\n', false],
    ['[Gears]\nspeed=3\n', false],
    ['09:00 opening\n', false],
    ['1.000 2.000 3.000\n4.000 5.000 6.000\n', false],
  ])('a log by its lines, whatever it is called: %j is %s', (text, is) => {
    expect(readsAsLog(text)).toBe(is);
  });

  it('is found among the files of a game that calls it otherwise', async () => {
    const files = {
      'mill.bin': 'x',
      'usr/mill.out': '09:00:01 note  Old Mill 1.2\n09:00:02 note  3 gears ready\n',
      'usr/mill.settings': '[Gears]\nspeed=3\n',
    };
    const { card } = await studyGame([
      {
        id: 'game',
        title: 'Old Mill',
        files: Object.entries(files).map(([path, text]) => ({ path, size: text.length })),
        read: async (path) => (files as Record<string, string>)[path],
      },
    ]);
    expect(card.log?.target).toBe('game/usr/mill.out');
    expect(card.settings.map(({ target }) => target)).toEqual(['game/usr/mill.settings']);
  });
});

describe('what a log says was loaded', () => {
  const files = [
    { target: 'game/gear/oak/oak.gear' },
    { target: 'game/gear/elm/elm.gear', layer: 'elm' },
    { target: 'game/gear/ash/skin.png', layer: 'ash' },
    { target: 'game/gear/fir/skin.png', layer: 'fir' },
  ];
  it('is the pack whose file a line of success names, where no other can be meant', () => {
    const text =
      'start\nloading gear\\elm\\elm.gear\nloaded skin.png\nloaded ash/skin.png (4 KB)\nfailed to load fir/skin.png\n';
    expect([...loadedPacks(text, files)].map(([layer, { line }]) => [layer, line])).toEqual([
      ['elm', 2],
      ['ash', 4],
    ]);
  });
  it('is nothing where the line is trouble, or names the game’s own', () => {
    expect([...loadedPacks('could not read elm.gear\nmissing: elm.gear\nloaded oak.gear\n', files)]).toEqual([]);
  });
});

describe('a file that the log misses', () => {
  const files = [...Object.keys(GAME).map((path) => `game/${path}`), 'game/sound/a/wind.snd', 'game/sound/b/rain.snd'];
  const place = async (missed: { path: string; line: number }[]) => {
    const { card } = await study();
    return proposePlacements({ entries: entriesOf('storm.snd'), card, gameFiles: files, name: 'Storm.zip', missed });
  };
  it('is the strongest sign of where it goes, and without it the same pack is asked about', async () => {
    expect((await place([])).confidence).toBe('ask');
    const { confidence, placement, parts } = await place([{ path: 'sound\\b\\storm.snd', line: 12 }]);
    expect([confidence, placement.rules]).toEqual(['sure', [{ as: 'files', from: '', to: 'game/sound/b' }]]);
    expect(parts[0]?.evidence?.[0]?.says).toContain('Line 12 of the game’s log');
    // A name without a folder says no place, and one of another file nothing.
    for (const path of ['storm.snd', 'sound/b/fog.snd'])
      expect((await place([{ path, line: 1 }])).confidence).toBe('ask');
  });
});
