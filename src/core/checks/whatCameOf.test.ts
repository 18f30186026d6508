import { describe, expect, it } from 'vitest';
import { whatCameOf, type AfterStart, type EditFate, parseTarget } from '@/core';

const fate = (one: EditFate['fate']): EditFate => ({
  file: parseTarget('game/a.ini'),
  path: ['k'],
  value: '1',
  layer: 'edits:1',
  kind: 'edits',
  fate: one,
  now: undefined,
});
const after = (some: Partial<AfterStart> = {}): AfterStart => ({
  title: 'Fellwater',
  problems: 0,
  counted: 3,
  loaded: undefined,
  fates: [],
  sorted: 0,
  drifted: 0,
  ...some,
});

describe('what came of a start', () => {
  it.each<[Partial<AfterStart>, 'note' | 'wrong', string[]]>([
    [{}, 'note', ['Fellwater was started', 'Its log names no problem.']],
    [{ problems: undefined }, 'note', ['Fellwater was started']],
    [{ problems: 1 }, 'wrong', ['Its log names 1 problem.']],
    [{ problems: 1200 }, 'wrong', ['1,200 problems']],
    [{ loaded: 3 }, 'note', ['It loaded 3 of the 3 files of your packs.']],
    [{ loaded: 0, counted: 1 }, 'wrong', ['It loaded 0 of the 1 file of your packs.']],
    [{ fates: [fate('stayed')] }, 'note', ['The setting that was edited stayed.']],
    [
      { fates: [fate('stayed'), fate('stayed')], sorted: 1 },
      'note',
      ['Both edited settings stayed.', '1 settings file into an order of its own'],
    ],
    [
      { fates: [fate('stayed'), fate('dropped'), fate('changed'), fate('back')] },
      'wrong',
      ['Of 4 edited settings 1 stayed: 1 was dropped, 1 was changed and 1 was put back.'],
    ],
    [{ fates: [fate('dropped')] }, 'wrong', ['Of 1 edited setting none stayed: 1 was dropped.']],
    [{ drifted: 2 }, 'wrong', ['2 files that the app had put there are others now.']],
  ])('%j', (some, level, parts) => {
    const came = whatCameOf(after(some));
    expect(came.level).toBe(level);
    for (const part of parts) expect(came.says).toContain(part);
    expect(came.says).toMatch(/\.$/);
  });
});
