import { describe, expect, it } from 'vitest';
import { openSettings } from '../settings/openSettings';
import { masterOf, switchChain } from './masterSwitch';

/** Common practice: a general switch at the head of a section goes before the single ones in it. */
describe('a switch that others need', () => {
  it.each([
    ['[Mods]\nEnabled=0\nLoadLoose=0\n', ['Mods', 'LoadLoose'], { path: ['Mods', 'Enabled'], now: '0', value: '1' }],
    [
      '[Mods]\nLoadLoose=no\nbEnabled=no\n',
      ['Mods', 'LoadLoose'],
      { path: ['Mods', 'bEnabled'], now: 'no', value: 'yes' },
    ],
    ['[Mods]\nEnabled=1\nLoadLoose=0\n', ['Mods', 'LoadLoose'], undefined],
    ['[Sound]\nEnabled=0\n[Mods]\nLoadLoose=0\n', ['Mods', 'LoadLoose'], undefined],
    ['[Mods]\nEnabled=0\n', ['Mods', 'Enabled'], undefined],
    ['[Mods]\nEnabledColour=0\nActive=7\nLoadLoose=0\n', ['Mods', 'LoadLoose'], undefined],
    ['Enabled=0\nLoadLoose=0\n', ['LoadLoose'], undefined],
  ])('%j', (text, path, found) => {
    expect(masterOf(openSettings(text, 'ini'), path)).toEqual(found);
  });
});

describe('a chain of switches', () => {
  const asked = (key: string, line: number, more: object = {}) => ({
    file: 'game/a.ini',
    path: ['Mods', key],
    value: '1',
    now: '0',
    set: false,
    line,
    ...more,
  });
  const after = { path: ['Mods', 'Enabled'], now: '0', value: '1' };
  const said = (...some: ReturnType<typeof asked>[]) =>
    switchChain(some).map(({ path, line }) => `${path[1] ?? ''} ${line ?? 'nobody'}`);

  it('puts what is needed first, once, and takes it for asked where a line asks for it', () => {
    expect(said(asked('Loose', 3))).toEqual(['Loose 3']);
    expect(said(asked('Loose', 3, { after }), asked('Zips', 4, { after }))).toEqual([
      'Enabled nobody',
      'Loose 3',
      'Zips 4',
    ]);
    expect(said(asked('Loose', 3, { after }), asked('enabled', 5))).toEqual(['enabled 5', 'Loose 3']);
  });
});
