import { describe, expect, it } from 'vitest';
import { openSettings } from '../settings/openSettings';
import { masterOf } from './masterSwitch';

/** Common practice: a general switch at the head of a section goes before the single ones in it. */
describe('a switch that others need', () => {
  it.each([
    ['[Mods]\nEnabled=0\nLoadLoose=0\n', ['Mods', 'LoadLoose'], { path: ['Mods', 'Enabled'], now: '0', value: '1' }],
    ['[Mods]\nLoadLoose=no\nbEnabled=no\n', ['Mods', 'LoadLoose'], { path: ['Mods', 'bEnabled'], now: 'no', value: 'yes' }],
    ['[Mods]\nEnabled=1\nLoadLoose=0\n', ['Mods', 'LoadLoose'], undefined],
    ['[Sound]\nEnabled=0\n[Mods]\nLoadLoose=0\n', ['Mods', 'LoadLoose'], undefined],
    ['[Mods]\nEnabled=0\n', ['Mods', 'Enabled'], undefined],
    ['[Mods]\nEnabledColour=0\nActive=7\nLoadLoose=0\n', ['Mods', 'LoadLoose'], undefined],
    ['Enabled=0\nLoadLoose=0\n', ['LoadLoose'], undefined],
  ])('%j', (text, path, found) => {
    expect(masterOf(openSettings(text, 'ini'), path)).toEqual(found);
  });
});
